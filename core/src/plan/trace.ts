import type { Engine } from '../engine';
import type { Look } from '../look/look';
import { resolveLook } from '../look/resolve';
import type { Colour } from '../traits/settings';
import { Moments } from './moment';

/**
 * What a setting is at pictures of the file, its motion taken in, in the setting's own unit: one row for a number, three for a colour.
 * @param rate pictures a second of the file @param pictures their numbers
 * @throws RangeError where there is no such use, or the setting is neither a number nor a colour
 */
export function traceSetting(engine: Engine, look: Look, rate: number, life: number, index: number, key: string, pictures: readonly number[]): Float32Array[] {
  const uses = resolveLook(look);
  const use = uses.find((u) => u.life === life && u.index === index);
  if (!use) throw new RangeError(`there is no trait ${index + 1} in life ${life + 1}`);
  const kind = (use.trait.settings as Record<string, { kind: string }>)[key]?.kind;
  if (kind !== 'number' && kind !== 'colour') throw new RangeError(`"${key}" of ${use.trait.id} is no setting that moves`);
  const moments = new Moments(engine, look, uses, rate);
  const rows = Array.from({ length: kind === 'number' ? 1 : 3 }, () => new Float32Array(pictures.length));
  pictures.forEach((n, i) => {
    const value = moments.state(use, moments.counts(n)).values[key] as number | Colour;
    rows.forEach((row, part) => (row[i] = typeof value === 'number' ? value : value[part]!));
  });
  return rows;
}
