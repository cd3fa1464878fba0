/** Tables of colours in the open .cube format (1D and 3D), read and written. */

export interface ColourTable {
  readonly title: string;
  /** 1: a curve for each channel; 3: a cube. */
  readonly dimensions: 1 | 3;
  /** Points a side (a curve). */
  readonly size: number;
  /** Input that the first and the last point stand for, by channel. */
  readonly low: readonly [number, number, number];
  readonly high: readonly [number, number, number];
  /** Red, green and blue of each point, red running fastest. */
  readonly points: Float32Array;
}

/** A file that is not what its format says: the line (from 1) and what is wrong there. */
export class FormatError extends Error {
  constructor(
    readonly line: number,
    readonly reason: string,
  ) {
    super(`line ${line}: ${reason}`);
    this.name = 'FormatError';
  }
}

/** Greatest sizes: what the format allows. */
const MOST = { 1: 65536, 3: 256 } as const;
const PLAIN = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i;

function numbers(words: readonly string[], count: number, line: number, what: string): number[] {
  if (words.length !== count) throw new FormatError(line, `${what} takes ${count} number${count === 1 ? '' : 's'}, here stand ${words.length}`);
  return words.map((word) => {
    const value = PLAIN.test(word) ? Number(word) : NaN;
    if (!Number.isFinite(value)) throw new FormatError(line, `"${word.slice(0, 40)}" is not a number`);
    return value;
  });
}

/**
 * Reads a .cube file: comments, TITLE, LUT_1D_SIZE or LUT_3D_SIZE, DOMAIN_MIN and DOMAIN_MAX (or LUT_1D_INPUT_RANGE, LUT_3D_INPUT_RANGE),
 * then the points.
 * @throws FormatError with the line and the reason
 */
export function parseCube(text: string): ColourTable {
  let title = '';
  let dimensions: 1 | 3 | undefined;
  let size = 0;
  let low = [0, 0, 0];
  let high = [1, 1, 1];
  let points: Float32Array | undefined;
  let filled = 0;
  let total = 0;
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/);
  lines.forEach((raw, i) => {
    const line = i + 1;
    const trimmed = raw.trim();
    if (trimmed === '' || trimmed.startsWith('#')) return;
    const words = trimmed.split(/\s+/);
    const key = words[0]!.toUpperCase();
    if (/^[A-Z_]/.test(key)) {
      if (filled > 0) throw new FormatError(line, `the word ${key.slice(0, 40)} stands among the points`);
      if (key === 'TITLE') {
        title = trimmed.slice(5).trim().replace(/^"|"$/g, '').slice(0, 200);
      } else if (key === 'LUT_1D_SIZE' || key === 'LUT_3D_SIZE') {
        if (dimensions) throw new FormatError(line, 'the size is given twice');
        dimensions = key === 'LUT_1D_SIZE' ? 1 : 3;
        size = numbers(words.slice(1), 1, line, key)[0]!;
        if (!Number.isInteger(size) || size < 2 || size > MOST[dimensions])
          throw new FormatError(line, `the size must be a whole number from 2 to ${MOST[dimensions]}, not ${words[1]}`);
        total = dimensions === 1 ? size : size ** 3;
      } else if (key === 'DOMAIN_MIN') low = numbers(words.slice(1), 3, line, key);
      else if (key === 'DOMAIN_MAX') high = numbers(words.slice(1), 3, line, key);
      else if (key === 'LUT_1D_INPUT_RANGE' || key === 'LUT_3D_INPUT_RANGE') {
        const [a, b] = numbers(words.slice(1), 2, line, key);
        low = [a!, a!, a!];
        high = [b!, b!, b!];
      } else throw new FormatError(line, `the word ${key.slice(0, 40)} is not known here`);
      return;
    }
    if (!dimensions) throw new FormatError(line, 'points begin before LUT_1D_SIZE or LUT_3D_SIZE');
    if (filled === total) throw new FormatError(line, `there are more points than the ${total} the size asks for`);
    points ??= new Float32Array(total * 3);
    points.set(numbers(words, 3, line, 'a point'), filled * 3);
    filled++;
  });
  if (!dimensions) throw new FormatError(lines.length, 'neither LUT_1D_SIZE nor LUT_3D_SIZE is given');
  if (filled < total) throw new FormatError(lines.length, `the file ends after ${filled} of ${total} points`);
  if (low.some((v, i) => !(v < high[i]!))) throw new FormatError(1, 'DOMAIN_MIN must lie below DOMAIN_MAX in every channel');
  return { title, dimensions, size, low: low as never, high: high as never, points: points! };
}

/** The text of a .cube file. */
export function cubeText({ title, dimensions, size, low, high, points }: ColourTable): string {
  const out = [`TITLE "${title.replace(/["\r\n]/g, ' ')}"`, `LUT_${dimensions}D_SIZE ${size}`, `DOMAIN_MIN ${low.join(' ')}`, `DOMAIN_MAX ${high.join(' ')}`];
  for (let i = 0; i < points.length; i += 3) out.push(`${points[i]!.toFixed(6)} ${points[i + 1]!.toFixed(6)} ${points[i + 2]!.toFixed(6)}`);
  return `${out.join('\n')}\n`;
}

/** A colour through a table, for a few values; pictures go through the kernels. Cubes are tetrahedral, curves straight between points. */
export function sampleTable(table: ColourTable, rgb: readonly number[]): [number, number, number] {
  const { size, points, low, high } = table;
  const at = rgb.map((v, i) => Math.min(1, Math.max(0, (v - low[i]!) / (high[i]! - low[i]!))) * (size - 1));
  const whole = at.map((v) => Math.min(size - 2, Math.floor(v)));
  const rest = at.map((v, i) => v - whole[i]!);
  if (table.dimensions === 1) {
    return [0, 1, 2].map((i) => {
      const a = points[whole[i]! * 3 + i]!;
      return a + (points[(whole[i]! + 1) * 3 + i]! - a) * rest[i]!;
    }) as [number, number, number];
  }
  const corner = [...whole];
  const colour = (): number[] => [0, 1, 2].map((k) => points[3 * (corner[0]! + size * (corner[1]! + size * corner[2]!)) + k]!);
  let out = colour();
  for (const axis of [0, 1, 2].sort((a, b) => rest[b]! - rest[a]!)) {
    const before = colour();
    corner[axis]!++;
    const after = colour();
    out = out.map((v, k) => v + (after[k]! - before[k]!) * rest[axis]!);
  }
  return out as [number, number, number];
}
