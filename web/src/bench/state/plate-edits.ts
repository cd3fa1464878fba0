import { partsKept, passLength, traitById, valuesOf, writeParts, type Look, type PlatePart } from '@tin-ghost/core';
import { changeSetting, traitUseAt, type UseAt } from './look-edits';

/** A plate as a clip: its pictures, how many a second, and their brightness where it was measured. */
export interface Clip {
  readonly frames: number;
  readonly rate: number;
  readonly light?: readonly number[];
}

/** One pass of a plate over a shot, as its settings stand. */
export interface PlatePass {
  /** In pictures of the plate. */
  readonly parts: readonly PlatePart[];
  /** Of the shot: when the first pass begins, and how long a picture of the plate is shown. */
  readonly begins: number;
  readonly picture: number;
  /** Pictures of a pass until the next one begins, and those over which the two are crossfaded. */
  readonly period: number;
  readonly seam: number;
  readonly loop: 'loop' | 'hold' | 'once';
  /** All that is used of it is kept. */
  readonly whole: boolean;
}

interface PlateSettings {
  readonly parts: string;
  readonly keep: 'all' | 'flashes';
  readonly loop: PlatePass['loop'];
  readonly from: number;
  readonly to: number;
  readonly level: number;
  readonly begins: number;
  readonly speed: number;
  readonly seam: number;
}

const settingsOf = (look: Look, at: UseAt): PlateSettings => valuesOf(traitById('plate')!, traitUseAt(look, at)!) as unknown as PlateSettings;

export function passOf(look: Look, at: UseAt, { frames, rate, light }: Clip): PlatePass {
  const { from, to, parts: written, keep, level, begins, speed, seam: asked, loop } = settingsOf(look, at);
  const parts = partsKept(from, to, written, keep, level / 100, frames, rate, light);
  const length = passLength(parts);
  const seam = loop === 'loop' ? Math.min(Math.round(asked), Math.floor(length / 2)) : 0;
  return { parts, begins, picture: 100 / (speed * rate), period: length - seam, seam, loop, whole: written === '' && (keep === 'all' || !light) };
}

const milliseconds = (seconds: number): number => Math.round(seconds * 1000) / 1000;
const put = (look: Look, at: UseAt, settings: Partial<PlateSettings>): Look =>
  Object.entries(settings).reduce((made, [key, value]) => changeSetting(made, at, key, typeof value === 'number' ? milliseconds(value) : value), look);

/** Parts as settings say them: flashes that were found are parts from then on. The look as it was where so many cannot be written. */
function putParts(look: Look, at: UseAt, { rate }: Clip, parts: readonly PlatePart[]): Look {
  const written = writeParts(parts.map(({ from, to, at: shown }) => ({ from: from / rate, to: to / rate, at: shown / rate })));
  const { most } = traitById('plate')!.settings.parts as { most: number };
  return written.length > most ? look : put(look, at, { parts: written, keep: 'all' });
}

/** Moves one part in the plate's pass, or all of it in the shot where all is kept. @param by pictures of the plate */
export function movePart(look: Look, at: UseAt, clip: Clip, index: number, by: number): Look {
  const pass = passOf(look, at, clip);
  if (pass.whole) return put(look, at, { begins: Math.max(0, pass.begins + by * pass.picture) });
  return putParts(
    look,
    at,
    clip,
    pass.parts.map((part, i) => (i === index ? { ...part, at: Math.max(0, part.at + by) } : part)),
  );
}

/** Trims one part at its beginning or its end; what is still seen of it stays where it is. @param by pictures of the plate */
export function trimPart(look: Look, at: UseAt, clip: Clip, index: number, side: 'from' | 'to', by: number): Look {
  const pass = passOf(look, at, clip);
  const part = pass.parts[index];
  if (!part) return look;
  const room = {
    from: [-Math.min(part.from, pass.whole ? Math.round(pass.begins / pass.picture) : part.at), part.to - part.from - 1],
    to: [part.from + 1 - part.to, clip.frames - part.to],
  }[side];
  const step = Math.max(room[0]!, Math.min(room[1]!, by));
  const trimmed = side === 'from' ? { ...part, from: part.from + step, at: part.at + step } : { ...part, to: part.to + step };
  if (!pass.whole)
    return putParts(
      look,
      at,
      clip,
      pass.parts.map((one, i) => (i === index ? trimmed : one)),
    );
  if (side === 'from') return put(look, at, { from: trimmed.from / clip.rate, begins: pass.begins + step * pass.picture });
  return put(look, at, { to: trimmed.to === clip.frames ? 0 : trimmed.to / clip.rate });
}

/** Takes one part out; the others stay where they are. The last one stays: a plate of which nothing is kept is one that is off. */
export function removePart(look: Look, at: UseAt, clip: Clip, index: number): Look {
  const { parts, whole } = passOf(look, at, clip);
  return whole || parts.length < 2
    ? look
    : putParts(
        look,
        at,
        clip,
        parts.filter((_, i) => i !== index),
      );
}

/** Sets over how many pictures its end runs into its beginning, so that it is half of it at the most. */
export function changeSeam(look: Look, at: UseAt, clip: Clip, seam: number): Look {
  const { period, seam: now } = passOf(look, at, clip);
  return put(look, at, { seam: Math.max(0, Math.min(Math.floor((period + now) / 2), 250, Math.round(seam))) });
}
