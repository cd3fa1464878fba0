import { LOOK_LIMITS, type Look, type Span } from '@tin-ghost/core';
import { changeUse, traitUseAt, type UseAt } from './look-edits';

/** A spell has one picture at least. */
const onPicture = (seconds: number, rate: number): number => Math.round(seconds * rate) / rate;
const milliseconds = (seconds: number): number => Math.round(seconds * 1000) / 1000;

/** Sets the spells in which a use acts; none means always. */
export const setSpells = (look: Look, at: UseAt, spells: readonly Span[]): Look => changeUse(look, at, { when: spells.length ? spells : undefined });

/** A spell within a shot, on its pictures, with ramps that fit into it. */
export function heldSpell({ from, to, in: fadeIn = 0, out = 0 }: Span, seconds: number, rate: number): Span {
  const one = 1 / rate;
  const begin = Math.max(0, Math.min(onPicture(seconds - one, rate), onPicture(from, rate)));
  const end = Math.max(onPicture(begin + one, rate), Math.min(seconds, onPicture(to, rate)));
  const room = end - begin;
  const held = (ramp: number, most: number): number => milliseconds(Math.max(0, Math.min(most, ramp)));
  const ramp = held(fadeIn, room);
  return { from: begin, to: end, in: ramp, out: held(out, room - ramp) };
}

/** Changes one spell of a use. */
export function changeSpell(look: Look, at: UseAt, index: number, more: Partial<Span>, seconds: number, rate: number): Look {
  const spells = traitUseAt(look, at)?.when ?? [];
  return setSpells(
    look,
    at,
    spells.map((spell, i) => (i === index ? heldSpell({ ...spell, ...more }, seconds, rate) : spell)),
  );
}

/** Moves one spell as it is, within the shot. */
export function moveSpell(look: Look, at: UseAt, index: number, from: number, seconds: number, rate: number): Look {
  const spell = traitUseAt(look, at)?.when?.[index];
  if (!spell) return look;
  const length = spell.to - spell.from;
  const begin = onPicture(Math.max(0, Math.min(seconds - length, from)), rate);
  return changeSpell(look, at, index, { from: begin, to: begin + length }, seconds, rate);
}

/** Adds a spell of a quarter of the shot from a moment on, two seconds at the most, with short ramps. */
export function addSpell(look: Look, at: UseAt, moment: number, seconds: number, rate: number): Look {
  const spells = traitUseAt(look, at)?.when ?? [];
  if (spells.length >= LOOK_LIMITS.spans) return look;
  const length = Math.min(2, seconds / 4);
  const from = Math.min(moment, Math.max(0, seconds - length));
  return setSpells(look, at, [...spells, heldSpell({ from, to: from + length, in: length / 5, out: length / 5 }, seconds, rate)]);
}
