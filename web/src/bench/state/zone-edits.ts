import { zoneAt, type Look, type Zone, type ZoneShape } from '@tin-ghost/core';
import { changeUse, traitUseAt, type UseAt } from './look-edits';

/** Tones in which a trait may act, as points of luma and share. */
export const TONES = {
  shadows: [
    [0, 1],
    [0.25, 1],
    [0.5, 0],
  ],
  midtones: [
    [0, 0],
    [0.25, 1],
    [0.65, 1],
    [0.9, 0],
  ],
  highlights: [
    [0.5, 0],
    [0.75, 1],
  ],
} as const satisfies Record<string, Zone['tones']>;
export type Tones = 'all' | 'own' | keyof typeof TONES;

const EVERYWHERE: Zone = { kind: 'all' };
const zoneOf = (look: Look, at: UseAt): Zone => traitUseAt(look, at)?.zone ?? EVERYWHERE;
/** A zone that is everywhere and in all tones, with no shape to come back to, is none. */
const put = (look: Look, at: UseAt, zone: Zone): Look => changeUse(look, at, { zone: Object.keys(zone).length === 1 && zone.kind === 'all' ? undefined : zone });
const rounded = (v: number): number => Math.round(v * 1e4) / 1e4;
const held = (v: number, least: number, most: number): number => rounded(Math.max(least, Math.min(most, v)));

/** Sets where a use acts; the ellipse and its keys are kept for when they are come back to. */
export const setZoneKind = (look: Look, at: UseAt, kind: Zone['kind']): Look => put(look, at, { ...zoneOf(look, at), kind });

/** Sets how soft its border is; undefined puts it back to what is usual for its kind. */
export function setSoftness(look: Look, at: UseAt, soft: number | undefined): Look {
  const { soft: _before, ...zone } = zoneOf(look, at);
  return put(look, at, soft === undefined ? zone : { ...zone, soft });
}

/** Which of the tones a use acts in; `own` where a look's file has others. */
export function tonesOf(zone: Zone | undefined): Tones {
  if (!zone?.tones) return 'all';
  const written = JSON.stringify(zone.tones);
  return (Object.keys(TONES) as (keyof typeof TONES)[]).find((name) => JSON.stringify(TONES[name]) === written) ?? 'own';
}

export function setTones(look: Look, at: UseAt, tones: Tones): Look {
  if (tones === 'own') return look;
  const { tones: _before, ...zone } = zoneOf(look, at);
  return put(look, at, tones === 'all' ? zone : { ...zone, tones: TONES[tones] });
}

/** Where a zone lies at a moment; undefined where it is everywhere. */
export const shapeAt = (look: Look, at: UseAt, seconds: number): ZoneShape | undefined => zoneAt(zoneOf(look, at), seconds);

const ellipseOf = ({ x, y, across, down }: Omit<ZoneShape, 'soft'>) => ({ x: held(x, -1, 2), y: held(y, -1, 2), across: held(across, 0.01, 4), down: held(down, 0.01, 4) });
/** Keys nearer than this are one (seconds). */
const ONE_MOMENT = 1e-3;

/** Lays a zone somewhere: at this moment alone where it has keys, else for good. */
export function placeZone(look: Look, at: UseAt, shape: Omit<ZoneShape, 'soft'>, seconds: number): Look {
  const zone = zoneOf(look, at);
  if (!zone.keys?.length) return put(look, at, { ...zone, ...ellipseOf(shape) });
  const others = zone.keys.filter((key) => Math.abs(key.at - seconds) > ONE_MOMENT);
  return put(look, at, { ...zone, keys: [...others, { at: Math.round(seconds * 1e6) / 1e6, ...ellipseOf(shape) }].sort((a, b) => a.at - b.at) });
}

/** Lays a zone where it is drawn, with a key at this moment: laid elsewhere at another moment, it moves between the two. What acted everywhere leaves it clean, for which most are drawn. */
export function drawnZone(look: Look, at: UseAt, shape: Omit<ZoneShape, 'soft'>, seconds: number): Look {
  const zone = zoneOf(look, at);
  const within = zone.kind === 'all' ? setZoneKind(look, at, 'quiet') : look;
  return placeZone(hasZoneKey(zone, seconds) ? within : toggleZoneKey(within, at, seconds), at, shape, seconds);
}

/** Sets a key where the zone lies now, so that it moves between keys; where there is one at this moment it is removed. */
export function toggleZoneKey(look: Look, at: UseAt, seconds: number): Look {
  const zone = zoneOf(look, at);
  const shape = zoneAt(zone, seconds);
  if (!shape) return look;
  const { keys = [], ...rest } = zone;
  const others = keys.filter((key) => Math.abs(key.at - seconds) > ONE_MOMENT);
  // The last key's place is where it stays.
  if (others.length === keys.length)
    return placeZone(put(look, at, { ...rest, keys: keys.length ? keys : [{ at: Math.round(seconds * 1e6) / 1e6, ...ellipseOf(shape) }] }), at, shape, seconds);
  return put(look, at, others.length ? { ...rest, keys: others } : { ...rest, ...ellipseOf(shape) });
}

export const hasZoneKey = (zone: Zone | undefined, seconds: number): boolean => (zone?.keys ?? []).some((key) => Math.abs(key.at - seconds) <= ONE_MOMENT);
