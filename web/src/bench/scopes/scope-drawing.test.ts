import { beforeAll, expect, test } from '@jest/globals';
import { barTargets, COLUMNS, LEVELS, vectorPlace } from '@tin-ghost/core';
import type { ScopeData } from '../../render/protocol';
import { INKS, REACH, ScopeDrawing, SIZES, type ScopeName } from './scope-drawing';

/** As much of a browser as drawing needs. */
class Image {
  readonly data: Uint8ClampedArray;
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.data = new Uint8ClampedArray(width * height * 4);
  }
}
beforeAll(() => {
  globalThis.ImageData = Image as unknown as typeof ImageData;
});

const PIXELS = 30_000;
const counts = (entries: Record<number, number> = {}): Uint8Array =>
  Object.entries(entries).reduce((all, [at, n]) => ((all[Number(at)] = n), all), new Uint8Array(LEVELS * COLUMNS));
const data = (part: Partial<ScopeData>): ScopeData => ({
  waves: [counts(), counts(), counts(), counts()],
  vector: counts(),
  bins: [0, 1, 2, 3].map(() => new Float32Array(256)),
  pixels: PIXELS,
  below: 0,
  above: 0,
  low: 0,
  median: 0.5,
  high: 1,
  ...part,
});

/** What a drawing leaves on its canvases: red, green, blue and opacity of a place. */
function drawn(now: ScopeData, reference: ScopeData | null = null, drawing = new ScopeDrawing()) {
  const images: Partial<Record<ScopeName, Image>> = {};
  const canvas = (name: ScopeName) => ({ getContext: () => ({ putImageData: (image: Image) => (images[name] = image) }) });
  const canvases = Object.fromEntries((Object.keys(SIZES) as ScopeName[]).map((name) => [name, canvas(name)])) as unknown as Record<ScopeName, HTMLCanvasElement>;
  drawing.draw(canvases, now, reference, 0);
  for (const [name, { width, height }] of Object.entries(images)) expect([name, width, height]).toEqual([name, SIZES[name as ScopeName].width, SIZES[name as ScopeName].height]);
  return (name: ScopeName, x: number, y: number): number[] => {
    const { width, data } = images[name]!;
    return [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)];
  };
}

const place = (column: number, row: number): number => row * COLUMNS + column;

test('a trace stands where it was counted, the darker the more stands there, and nowhere else', () => {
  const at = drawn(data({ waves: [counts({ [place(3, 10)]: 1, [place(5, 10)]: 40, [place(127, 127)]: 255 }), counts(), counts(), counts()] }));
  const [few, many, most] = [at('Waveform', 3, 10), at('Waveform', 5, 10), at('Waveform', 127, 127)];
  expect(few.slice(0, 3)).toEqual([...INKS.luma[0]]);
  expect(few[3]).toBeGreaterThan(40);
  expect(many[3]).toBeGreaterThan(few[3]! + 40);
  expect(most[3]).toBe(255);
  expect(at('Waveform', 4, 10)).toEqual([0, 0, 0, 0]);
  expect(at('Parade', 3, 10)[3]).toBe(0);
});

test('the parade has its channels side by side, each in its ink', () => {
  const at = drawn(data({ waves: [counts(), counts({ [place(0, 0)]: 9 }), counts({ [place(0, 0)]: 9 }), counts({ [place(127, 64)]: 9 })] }));
  const gap = (SIZES.Parade.width - 3 * COLUMNS) / 2;
  expect(at('Parade', 0, 0).slice(0, 3)).toEqual([...INKS.red[0]]);
  expect(at('Parade', COLUMNS + gap, 0).slice(0, 3)).toEqual([...INKS.green[0]]);
  expect(at('Parade', SIZES.Parade.width - 1, 64).slice(0, 3)).toEqual([...INKS.blue[0]]);
  expect(at('Parade', COLUMNS + 1, 0)[3]).toBe(0);
});

test('what was drawn for one picture does not stay for the next', () => {
  const drawing = new ScopeDrawing();
  const full = counts();
  full.fill(200);
  const bins = [0, 1, 2, 3].map(() => new Float32Array(256).fill(1));
  const before = drawn(data({ waves: [full, full, full, full], vector: full, bins }), null, drawing);
  expect(before('Vector', 64, 64)[3]).toBeGreaterThan(200);
  const after = drawn(data({}), null, drawing);
  for (const name of ['Waveform', 'Parade', 'Vector'] as const)
    for (const [x, y] of [
      [0, 0],
      [64, 64],
      [127, 127],
    ] as const)
      expect([name, after(name, x, y)[3]]).toEqual([name, 0]);
  // An empty histogram is a line along its foot.
  expect(after('Histogram', 100, 10)[3]).toBe(0);
  expect(after('Histogram', 100, SIZES.Histogram.height - 1)[3]).toBe(255);
});

test.each(barTargets(0.75))('a bar of $name stands in its target', ({ cb, cr }) => {
  let nearest = 0;
  const off = (i: number): number => Math.hypot(vectorPlace(i % LEVELS, Math.floor(i / LEVELS)).cb - cb, vectorPlace(i % LEVELS, Math.floor(i / LEVELS)).cr - cr);
  for (let i = 1; i < LEVELS * LEVELS; i++) if (off(i) < off(nearest)) nearest = i;
  const at = drawn(data({ vector: counts({ [nearest]: 255 }) }));
  // The page lays the target's box at these shares of the scope.
  const [x, y] = [(0.5 + (cb / REACH) * 0.5) * LEVELS, (0.5 - (cr / REACH) * 0.5) * LEVELS];
  let [sum, sx, sy] = [0, 0, 0];
  for (let row = 0; row < LEVELS; row++)
    for (let column = 0; column < LEVELS; column++) {
      const [, , , dark] = at('Vector', column, row);
      sum += dark!;
      sx += dark! * (column + 0.5);
      sy += dark! * (row + 0.5);
    }
  expect(sum).toBeGreaterThan(200);
  expect(Math.hypot(sx / sum - x, sy / sum - y)).toBeLessThan(1.2);
});

test('enlarged, every step of the middle part of the vector scope is drawn, and none leaves a gap', () => {
  const lone = (i: number): number => {
    const at = drawn(data({ vector: counts({ [i * LEVELS + i]: 9 }) }));
    return Array.from({ length: LEVELS }, (_, place) => at('Vector', place, place)[3]!).filter((dark) => dark > 0).length;
  };
  const places = [10, 11, 40, 63, 64, 90, 116, 117].map(lone);
  expect(places.every((n) => n === 1 || n === 2)).toBe(true);
  const full = counts();
  full.fill(9);
  const at = drawn(data({ vector: full }));
  expect(Array.from({ length: LEVELS }, (_, place) => at('Vector', place, LEVELS - 1 - place)[3]!).every((dark) => dark > 0)).toBe(true);
});

test('the reference lies behind: seen where the picture has nothing, under it where that is darker', () => {
  const reference = data({
    waves: [counts({ [place(1, 1)]: 200, [place(2, 2)]: 200 }), counts(), counts(), counts()],
    bins: [new Float32Array(256).fill(1), ...data({}).bins.slice(1)],
  });
  const now = data({ waves: [counts({ [place(2, 2)]: 255 }), counts(), counts(), counts()] });
  const drawing = new ScopeDrawing();
  // Twice: it is drawn once and kept.
  for (const at of [drawn(now, reference, drawing), drawn(now, reference, drawing)]) {
    expect(at('Waveform', 1, 1).slice(0, 3)).toEqual([...INKS.reference[0]]);
    expect(at('Waveform', 1, 1)[3]).toBeLessThan(128);
    expect(at('Waveform', 2, 2).slice(0, 3)).toEqual([...INKS.luma[0]]);
    expect(at('Histogram', 50, 30).slice(0, 3)).toEqual([...INKS.reference[0]]);
  }
  expect(drawn(now, null, drawing)('Waveform', 1, 1)[3]).toBe(0);
});

test('a histogram is filled under luma and lined along red, green and blue', () => {
  const luma = new Float32Array(256);
  luma[100] = 1;
  const red = new Float32Array(256);
  red[30] = 1;
  const at = drawn(data({ bins: [luma, red, new Float32Array(256), new Float32Array(256)] }));
  const foot = SIZES.Histogram.height - 1;
  expect(at('Histogram', 100, foot - 20)).toEqual([...INKS.luma[0], 60]);
  expect(at('Histogram', 101, foot - 20)[3]).toBe(0);
  expect(at('Histogram', 30, foot - 20)).toEqual([...INKS.red[0], 255]);
  expect(at('Histogram', 40, foot - 20)[3]).toBe(0);
});
