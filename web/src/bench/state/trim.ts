import type { Preparation } from '@tin-ghost/core';
import { changePreparation, useDocument } from './document';
import { usePlayback } from './playback';

/** The frame of the footage that a frame of the shot shows. @param frames of the footage */
export const footageFrame = ({ trim, speed = 1 }: Preparation, frames: number, n: number): number => Math.min(frames - 1, Math.floor((trim?.from ?? 0) + n * speed));

/** A trim within the footage, one frame long at least; all of the footage is none. */
export function heldTrim(frames: number, from: number, to: number): Preparation['trim'] {
  const begin = Math.max(0, Math.min(frames - 1, from));
  const end = Math.max(begin + 1, Math.min(frames, to));
  return begin === 0 && end === frames ? undefined : { from: begin, to: end };
}

/** Trims the shot. @param frames of the footage */
export const changeTrim = (frames: number, from: number, to: number): void => changePreparation({ trim: heldTrim(frames, from, to) });

/** Begins or ends the shot with the frame that is seen. @param frames of the footage */
export function trimHere(frames: number, side: 'in' | 'out'): void {
  const { preparation } = useDocument.getState();
  const { from = 0, to = frames } = preparation.trim ?? {};
  const here = footageFrame(preparation, frames, usePlayback.getState().frame);
  changeTrim(frames, side === 'in' ? here : from, side === 'in' ? to : here + 1);
}
