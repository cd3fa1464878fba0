import { FRAMING_LIMITS, WHOLE, type Framing, type FramingKey, type Preparation } from '@tin-ghost/core';
import { changePreparation, useDocument } from './document';

const rounded = (v: number): number => Math.round(v * 1e5) / 1e5;
/** However far a hand drags, what is kept can be kept. */
const tidy = (f: Framing): Framing => {
  const held = (key: keyof Framing): number => rounded(Math.min(FRAMING_LIMITS[key][1], Math.max(FRAMING_LIMITS[key][0], f[key])));
  return { x: held('x'), y: held('y'), scale: held('scale'), turn: held('turn') };
};
const isWhole = (f: Framing): boolean => f.x === WHOLE.x && f.y === WHOLE.y && f.scale === WHOLE.scale && f.turn === WHOLE.turn;

/** A preparation with another framing: of the whole shot or, where it moves, at one moment of it. */
export function withFraming({ moves }: Preparation, framing: Framing, seconds: number): Partial<Preparation> {
  const next = tidy(framing);
  if (!moves?.length) return { framing: isWhole(next) ? undefined : next };
  return { moves: keyed(moves, { at: rounded(seconds), ...next }) };
}

/** Moves with one more moment, or with another framing at a moment there is. */
export function keyed(moves: readonly FramingKey[], key: FramingKey): FramingKey[] {
  const same = moves.find((m) => Math.abs(m.at - key.at) < 1e-4);
  return [...moves.filter((m) => m !== same), { ...(same?.ease ? { ease: same.ease } : {}), ...key, at: same?.at ?? key.at }].sort((a, b) => a.at - b.at);
}

export const changeFraming = (framing: Framing, seconds: number): void => changePreparation(withFraming(useDocument.getState().preparation, framing, seconds));
