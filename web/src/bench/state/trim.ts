import type { Preparation } from '@tin-ghost/core';
import { changePreparation, useDocument } from './document';
import { goTo, usePlayback } from './playback';

/** The picture of the footage that a picture of the shot shows. @param frames of the footage */
export const footagePicture = ({ trim, speed = 1 }: Preparation, frames: number, n: number): number => Math.min(frames - 1, Math.floor((trim?.from ?? 0) + n * speed));

/** A trim within the footage, one picture long at least, and what picture of the shot then shows the moment that was seen; all of the footage is no trim. */
export function trimmed(preparation: Preparation, frames: number, { from, to }: { from: number; to: number }, n: number): { trim: Preparation['trim']; n: number } {
  const begin = Math.max(0, Math.min(frames - 1, from));
  const end = Math.max(begin + 1, Math.min(frames, to));
  const { speed = 1 } = preparation;
  const seen = Math.max(begin, Math.min(end - 1, footagePicture(preparation, frames, n)));
  // A picture of slowed footage is shown several times: the first of them.
  return { trim: begin === 0 && end === frames ? undefined : { from: begin, to: end }, n: Math.max(0, Math.ceil((seen - begin) / speed - 1e-9)) };
}

/** Trims the shot; the moment that is seen stays where it still is one. @param frames of the footage */
export function changeTrim(frames: number, range: { from: number; to: number }): void {
  const { preparation } = useDocument.getState();
  const { trim, n } = trimmed(preparation, frames, range, usePlayback.getState().frame);
  changePreparation({ trim });
  goTo({ frames: Infinity }, n);
}

/** Begins or ends the shot with the picture that is seen. @param frames of the footage */
export function trimHere(frames: number, side: 'in' | 'out'): void {
  const { preparation } = useDocument.getState();
  const { from = 0, to = frames } = preparation.trim ?? {};
  const here = footagePicture(preparation, frames, usePlayback.getState().frame);
  changeTrim(frames, side === 'in' ? { from: here, to } : { from, to: here + 1 });
}
