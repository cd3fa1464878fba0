import { beforeAll, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { EMPTY_LOOK } from '../look/look';
import { Plan } from '../plan/plan';
import { newEngine, randomFrame, RGB16, RGB8 } from '../testing';
import { codeSpans, LUMA_WEIGHTS, type Encoding } from './encoding';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const through = (frame: ReturnType<typeof randomFrame>, encoding: Encoding): Uint8Array[] => {
  const plan = new Plan(engine, EMPTY_LOOK, { source: frame, target: { width: frame.width, height: frame.height, encoding }, rate: 24 });
  try {
    return plan.render(0, frame);
  } finally {
    plan.dispose();
  }
};

const cases = (['bt601', 'bt709', 'bt2020'] as const).flatMap((matrix) => (['limited', 'full'] as const).flatMap((range) => [8, 10].map((bits) => ({ matrix, range, bits }))));

test.each(cases)('Y’CbCr $bits bits $matrix $range to R’G’B’ is the standard’s formula', ({ matrix, range, bits }) => {
  const encoding: Encoding = { layout: 'yuv', bits, subX: 0, subY: 0, matrix, range };
  const frame = randomFrame(24, 10, encoding);
  const out = through(frame, RGB16).map((p) => new Uint16Array(p.buffer));
  const codes = frame.planes.map((p) => (bits > 8 ? new Uint16Array(p.slice().buffer) : p));
  const s = codeSpans(encoding);
  const { kr, kb } = LUMA_WEIGHTS[matrix];
  for (let i = 0; i < 240; i++) {
    const y = (codes[0]![i]! - s.black) / s.luma;
    const cb = (codes[1]![i]! - s.middle) / s.chroma;
    const cr = (codes[2]![i]! - s.middle) / s.chroma;
    const r = y + 2 * (1 - kr) * cr;
    const b = y + 2 * (1 - kb) * cb;
    const g = (y - kr * r - kb * b) / (1 - kr - kb);
    [r, g, b].forEach((v, k) => expect(Math.abs(out[k]![i]! - Math.round(Math.max(0, Math.min(1, v)) * 65535))).toBeLessThanOrEqual(1));
  }
});

test.each(cases)('R’G’B’ to Y’CbCr $bits bits $matrix $range is the standard’s formula', ({ matrix, range, bits }) => {
  const encoding: Encoding = { layout: 'yuv', bits, subX: 0, subY: 0, matrix, range };
  const frame = randomFrame(24, 10, RGB8);
  const out = through(frame, encoding).map((p) => (bits > 8 ? new Uint16Array(p.buffer) : p));
  const s = codeSpans(encoding);
  const { kr, kb } = LUMA_WEIGHTS[matrix];
  for (let i = 0; i < 240; i++) {
    const [r, g, b] = frame.planes.map((p) => p[i]! / 255) as [number, number, number];
    const y = kr * r + (1 - kr - kb) * g + kb * b;
    const wanted = [y * s.luma + s.black, ((b - y) / (2 * (1 - kb))) * s.chroma + s.middle, ((r - y) / (2 * (1 - kr))) * s.chroma + s.middle];
    wanted.forEach((v, k) => expect(Math.abs(out[k]![i]! - Math.min(s.max, v))).toBeLessThanOrEqual(0.51));
  }
});

test('subsampled chroma is left-sited: a colour ramp keeps its place', () => {
  const width = 64;
  const height = 8;
  const ramp = Uint8Array.from({ length: width * height }, (_, i) => 2 * (i % width) + 60);
  const frame = { width, height, encoding: RGB8, planes: [ramp, new Uint8Array(ramp.length).fill(120), new Uint8Array(ramp.length).fill(120)] };
  for (const [subX, subY] of [
    [1, 1],
    [1, 0],
    [0, 0],
  ] as const) {
    const encoding: Encoding = { layout: 'yuv', bits: 10, subX, subY, matrix: 'bt709', range: 'limited' };
    const planes = through(frame, encoding);
    const back = through({ width, height, encoding, planes }, RGB8);
    for (let x = 4; x < width - 4; x++) expect(Math.abs(back[0]![3 * width + x]! - ramp[x]!)).toBeLessThanOrEqual(1);
  }
});

const halved = [8, 10, 16].flatMap((bits) =>
  (
    [
      [1, 1],
      [1, 0],
      [0, 1],
    ] as const
  ).flatMap(([subX, subY]) =>
    (
      [
        [24, 10],
        [33, 9],
        [7, 5],
        [48, 4],
        [2, 2],
        [1, 3],
      ] as const
    ).map(([width, height]) => ({ bits, subX, subY, width, height })),
  ),
);

test.each(halved)('chroma halved $subX across and $subY down is read between its samples: $bits bits, $width x $height', ({ bits, subX, subY, width, height }) => {
  const encoding: Encoding = { layout: 'yuv', bits, subX, subY, matrix: 'bt709', range: 'limited' };
  const frame = randomFrame(width, height, encoding);
  const out = through(frame, RGB16).map((p) => new Uint16Array(p.buffer));
  const codes = frame.planes.map((p) => (bits > 8 ? new Uint16Array(p.slice().buffer) : p));
  const s = codeSpans(encoding);
  const { kr, kb } = LUMA_WEIGHTS.bt709;
  const [columns, rows] = [subX ? (width + 1) >> 1 : width, subY ? (height + 1) >> 1 : height];
  const held = (v: number, count: number): number => Math.max(0, Math.min(count - 1, v));
  /** Chroma at a place on its own grid, between its four neighbours. */
  const chroma = (plane: number, x: number, y: number): number => {
    const [left, top] = [Math.floor(x), Math.floor(y)];
    const at = (column: number, row: number): number => codes[plane]![held(row, rows) * columns + held(column, columns)]!;
    const across = (row: number): number => (1 - x + left) * at(left, row) + (x - left) * at(left + 1, row);
    return ((1 - y + top) * across(top) + (y - top) * across(top + 1) - s.middle) / s.chroma;
  };
  let farthest = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      // Halved across, chroma stands on the even columns; halved down, between rows (H.264's default).
      const [cx, cy] = [subX ? x / 2 : x, subY ? (y - 0.5) / 2 : y];
      const luma = (codes[0]![y * width + x]! - s.black) / s.luma;
      const r = luma + 2 * (1 - kr) * chroma(2, cx, cy);
      const b = luma + 2 * (1 - kb) * chroma(1, cx, cy);
      const g = (luma - kr * r - kb * b) / (1 - kr - kb);
      [r, g, b].forEach((v, k) => (farthest = Math.max(farthest, Math.abs(out[k]![y * width + x]! - Math.round(Math.max(0, Math.min(1, v)) * 65535)))));
    }
  expect(farthest).toBeLessThanOrEqual(1);
});

test('a picture may be written over planes that are no longer needed', () => {
  const encoding: Encoding = { layout: 'yuv', bits: 8, subX: 1, subY: 1, matrix: 'bt709', range: 'limited' };
  const [first, second] = [randomFrame(40, 22, encoding), { ...randomFrame(40, 22, encoding), planes: randomFrame(40, 22, encoding).planes.map((p) => p.map((v) => 255 - v)) }];
  const plan = new Plan(engine, EMPTY_LOOK, { source: first, target: { width: 40, height: 22, encoding: RGB8 }, rate: 24 });
  const before = plan.render(0, first);
  const wanted = plan.render(0, second).map((p) => p.slice());
  const over = plan.render(0, second, undefined, before);
  over.forEach((plane, i) => expect(plane).toBe(before[i]));
  expect(over).toEqual(wanted);
  // Planes of other lengths are left alone.
  const short = [new Uint8Array(3), new Uint8Array(3), new Uint8Array(3)];
  expect(plan.render(0, second, undefined, short)).toEqual(wanted);
  expect(short.every((plane) => plane.every((v) => v === 0))).toBe(true);
  plan.dispose();
});
