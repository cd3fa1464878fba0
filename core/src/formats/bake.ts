import type { Engine } from '../engine';
import type { Encoding, RawFrame } from '../frame/encoding';
import type { Look, TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import { traitById } from '../traits/known';
import type { ColourTable } from './cube';

const RGB16: Encoding = { layout: 'rgb', bits: 16, subX: 0, subY: 0, matrix: 'bt709', range: 'full' };

/** Whether a use does the same to a colour wherever and whenever it is met, so that a table can hold it. */
export function pointwise(use: TraitUse): boolean {
  const still = Object.keys(use.motions ?? {}).length === 0 && (use.when ?? []).length === 0;
  const trait = traitById(use.trait);
  return (trait?.family === 'colour' || trait?.ofColourAlone === true) && still && (use.zone === undefined || use.zone.kind === 'all');
}

/**
 * The colour of a whole look as a cube of `size` points a side: of its traits those that work on single pixels and do not move, in
 * their order, each at its own strength. Points are worked out by the engine itself, on a picture of all of them.
 * @returns the cube, and the names of the uses that a table cannot hold
 */
export function bakeCube(engine: Engine, look: Look, size: number, tables?: Readonly<Record<string, ColourTable>>): { table: ColourTable; left: string[] } {
  if (!Number.isInteger(size) || size < 2 || size > 129) throw new RangeError(`a cube has 2 to 129 points a side, not ${size}`);
  const [width, height] = [size * size, size];
  const codes = [0, 1, 2].map(() => new Uint16Array(width * height));
  const code = (i: number): number => Math.round((i / (size - 1)) * 65535);
  for (let b = 0, n = 0; b < size; b++) for (let g = 0; g < size; g++) for (let r = 0; r < size; r++, n++) [r, g, b].forEach((v, i) => (codes[i]![n] = code(v)));
  const frame: RawFrame = { width, height, encoding: RGB16, planes: codes.map((c) => new Uint8Array(c.buffer)) };
  const colour: Look = { ...look, lives: look.lives.map((life) => ({ carrier: 'none', traits: life.traits.map((use) => (pointwise(use) ? use : { ...use, on: false })) })) };
  const plan = new Plan(engine, colour, { source: frame, target: { width, height, encoding: 'float' }, rate: 24, tables });
  const planes = plan.render(0, frame).map((p) => new Float32Array(p.buffer, p.byteOffset, p.length / 4));
  plan.dispose();
  const points = new Float32Array(size ** 3 * 3);
  for (let n = 0; n < size ** 3; n++) for (let i = 0; i < 3; i++) points[n * 3 + i] = planes[i]![n]!;
  const left = look.lives.flatMap((life) => life.traits.filter((use) => use.on !== false && !pointwise(use)).map((use) => use.name ?? traitById(use.trait)?.name ?? use.trait));
  const title = left.length > 0 ? `${look.name} (without ${left.join(', ')})` : look.name;
  return { table: { title, dimensions: 3, size, low: [0, 0, 0], high: [1, 1, 1], points }, left };
}
