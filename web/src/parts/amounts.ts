import { texts } from '../messages/parts';

/** Bytes as they are said. */
export const fileSize = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : bytes < 1e9 ? `${(bytes / 1e6).toFixed(bytes < 1e8 ? 1 : 0)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;

/** How long something takes, roughly. */
export const timeFor = (seconds: number): string =>
  seconds < 90 ? `${Math.ceil(seconds)} s` : seconds < 5400 ? `${Math.ceil(seconds / 60)} min` : `${(seconds / 3600).toFixed(1)} h`;

/** The time of day, as it is written where the reader is. */
export const clockTime = (at: Date | string | number): string => new Date(at).toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit' });

/** How long it goes on, as far as that can be told. */
export const timeLeft = (seconds: number): string => (seconds < 1 ? texts.nearlyDone : texts.timeLeft(timeFor(seconds)));
