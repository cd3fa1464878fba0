import { carrierById } from '../carriers';
import { lacking } from '../traits/fits';
import type { AnyTrait } from '../traits/trait';
import type { Setting, Value } from '../traits/settings';
import { traitById } from '../traits/known';
import { actOf } from './act-of';
import { refollow, withoutFollows } from './follows';
import { LOOK_LIMITS, type Life, type Look, type TraitUse } from './look';

/** Decimals of a mixed number. */
const FINENESS = 1e4;
const between = (a: number, b: number, share: number): number => Math.round((a + (b - a) * share) * FINENESS) / FINENESS;

/** A value between two of a setting: numbers and colours go evenly, all else is the nearer one's. */
function mixedValue(setting: Setting | undefined, a: Value, b: Value, share: number): Value {
  if (setting?.kind === 'number') return between(a as number, b as number, share);
  if (setting?.kind === 'colour') return (a as readonly number[]).map((v, i) => between(v, (b as readonly number[])[i]!, share)) as unknown as Value;
  return share < 0.5 ? a : b;
}

const strengthOf = (use: TraitUse): number => (use.on === false ? 0 : (use.strength ?? 1));

function mixedUse(a: TraitUse, b: TraitUse, share: number): TraitUse {
  const declared = traitById(a.trait)!.settings as Record<string, Setting>;
  const nearer = share < 0.5 ? a : b;
  const keys = new Set([...Object.keys(a.settings ?? {}), ...Object.keys(b.settings ?? {})]);
  const valueOf = (use: TraitUse, key: string): Value => use.settings?.[key] ?? declared[key]!.default;
  const settings = Object.fromEntries([...keys].filter((key) => declared[key]).map((key) => [key, mixedValue(declared[key], valueOf(a, key), valueOf(b, key), share)]));
  const { on: _on, ...rest } = nearer;
  return { ...rest, ...(keys.size > 0 && { settings }), strength: between(strengthOf(a), strengthOf(b), share) };
}

/** A use that only one of the looks has, as much of it as that look counts. */
const faded = ({ on, ...use }: TraitUse, weight: number): TraitUse => ({ ...use, strength: between(0, on === false ? 0 : (use.strength ?? 1), weight) });

/** Two lives in one: what both have mixed, what only one has in its place, fainter. Where a's uses went is written into `places`. */
function mixedLife(a: Life, b: Life, share: number, places: number[]): Life {
  const left = new Set(b.traits.keys());
  const partners = a.traits.map((use) => {
    const found = [...left].find((j) => b.traits[j]!.trait === use.trait && actOf(b.traits[j]!) === actOf(use));
    if (found !== undefined) left.delete(found);
    return found;
  });
  const traits: TraitUse[] = [];
  /** What only b has stands after what it follows there. */
  const alone = (from: number): void => {
    for (let j = from; left.delete(j); j++) traits.push(withoutFollows(faded(b.traits[j]!, share)));
  };
  alone(0);
  a.traits.forEach((use, i) => {
    const partner = partners[i];
    places[i] = traits.length;
    traits.push(partner === undefined ? faded(use, 1 - share) : mixedUse(use, b.traits[partner]!, share));
    if (partner !== undefined) alone(partner + 1);
  });
  for (const j of [...left]) alone(j);
  const carrier = share < 0.5 ? a.carrier : b.carrier;
  return { carrier, traits: traits.slice(0, LOOK_LIMITS.traits).map((use) => (lacking(traitById(use.trait) as AnyTrait, carrierById(carrier)!) ? { ...use, on: false } : use)) };
}

/**
 * A look between two. Traits that both have go evenly from the settings of one to those of the other; those that one has fade; carriers, lives that
 * only one has, and what cannot be halved are the nearer look's. Between the ends the same wear falls in the same places.
 * @param share of the second look, 0 to 1; at the ends it is one of the two, bit for bit
 */
export function mixLooks(a: Look, b: Look, share: number): Look {
  if (share <= 0) return a;
  if (share >= 1) return b;
  const nearer = share < 0.5 ? a : b;
  const both = Math.min(a.lives.length, b.lives.length);
  const places: number[][] = [];
  const lives = Array.from({ length: Math.max(both, nearer.lives.length) }, (_, i): Life => {
    const [one, other] = [a.lives[i], b.lives[i]];
    places[i] = [];
    if (one && other) return mixedLife(one, other, share, places[i]);
    const only = (one ?? other)!;
    if (one) places[i] = one.traits.map((_, index) => index);
    const weight = one ? 1 - share : share;
    return { carrier: only.carrier, traits: only.traits.map((use) => (one ? faded(use, weight) : withoutFollows(faded(use, weight)))) };
  });
  const name = `${a.name} and ${b.name}`.slice(0, LOOK_LIMITS.name);
  return refollow(a, { ...a, name, shape: nearer.shape, lives }, (life, index) => {
    const now = places[life]?.[index];
    return now === undefined ? undefined : { life, index: now };
  });
}
