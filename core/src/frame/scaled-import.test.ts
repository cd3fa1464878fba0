import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { EMPTY_LOOK } from '../look/look';
import { Plan } from '../plan/plan';
import type { Preparation } from '../shot/preparation';
import { newEngine, randomFrame, RGB8, YUV420 } from '../testing';
import { codeSpans, LUMA_WEIGHTS, planeShapes, type Encoding, type RawFrame } from './encoding';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const YUV422: Encoding = { ...YUV420, bits: 10, subY: 0 };
const YUV444: Encoding = { ...YUV420, subX: 0, subY: 0, matrix: 'bt601', range: 'full' };
const ENCODINGS = [
  ['4:2:0 of 8 bits', YUV420],
  ['4:2:2 of 10 bits', YUV422],
  ['4:4:4 of 8 bits, full range', YUV444],
  ['R’G’B’ of 8 bits', RGB8],
] as const;

interface Size {
  readonly width: number;
  readonly height: number;
}

function floats(frame: RawFrame, { width, height }: Size, more: { bandRows?: number; preparation?: Preparation } = {}): Float32Array[] {
  const plan = new Plan(engine, EMPTY_LOOK, { source: frame, target: { width, height, encoding: 'float' }, rate: 24, ...more });
  try {
    // Twice: what is kept from the first picture must not show in the second.
    const first = plan.render(0, frame).map((p) => new Float32Array(p.buffer));
    expect(plan.render(0, frame).map((p) => new Float32Array(p.buffer))).toEqual(first);
    return first;
  } finally {
    plan.dispose();
  }
}

/** The cubic of Catmull and Rom, as polynomials of the distance. */
function cubic(x: number): number {
  const t = Math.abs(x);
  if (t < 1) return 1.5 * t ** 3 - 2.5 * t ** 2 + 1;
  return t < 2 ? -0.5 * t ** 3 + 2.5 * t ** 2 - 4 * t + 2 : 0;
}

/** Weights of a line's samples at a place (middles of samples at whole numbers), widened where `step` is over 1; edges are continued. */
function weights(count: number, place: number, step: number): Map<number, number> {
  const wide = Math.max(1, step);
  const all = new Map<number, number>();
  let sum = 0;
  for (let i = Math.ceil(place - 2 * wide); i <= place + 2 * wide; i++) {
    const w = cubic((i - place) / wide);
    const at = Math.max(0, Math.min(count - 1, i));
    all.set(at, (all.get(at) ?? 0) + w);
    sum += w;
  }
  return new Map([...all].map(([at, w]) => [at, w / sum]));
}

/** A plane at a place: the sum over its samples. */
function sampled(codes: ArrayLike<number>, { width, height }: Size, at: readonly [number, number], step: readonly [number, number]): number {
  let sum = 0;
  const across = weights(width, at[0], step[0]);
  for (const [row, down] of weights(height, at[1], step[1])) for (const [column, w] of across) sum += down * w * codes[row * width + column]!;
  return sum;
}

describe.each(ENCODINGS)('%s of which a part is read', (_, encoding) => {
  test('at its own size, from an even place: the samples are the picture’s own', () => {
    const [width, height] = [48, 36];
    const frame = randomFrame(width, height, encoding, 5);
    const whole = floats(frame, { width, height });
    // A picture of 4 : 3 and one of half its width, in the middle; four columns of it further to the left.
    const part = { width: 24, height: 36 };
    for (const left of [12, 8]) {
      const framing = { x: (left + part.width / 2) / width, y: 0.5, scale: 1, turn: 0 };
      for (const bandRows of [4, 36]) {
        const cut = floats(frame, part, { bandRows, preparation: { framing } });
        cut.forEach((plane, i) => {
          for (let y = 0; y < part.height; y++)
            expect(plane.subarray(y * part.width, (y + 1) * part.width)).toEqual(whole[i]!.subarray(y * width + left, y * width + left + part.width));
        });
      }
    }
  });
});

describe.each(ENCODINGS)('%s read at another size', (_, encoding) => {
  test.each([
    [64, 36, 32, 18],
    [48, 27, 16, 9],
    [80, 45, 48, 27],
    [32, 18, 80, 45],
    [33, 22, 30, 20],
  ])('%d x %d at %d x %d is the cubic on each plane where its samples stand, then R’G’B’', (width, height, w, h) => {
    const frame = randomFrame(width, height, encoding);
    const got = floats(frame, { width: w, height: h });
    const codes = frame.planes.map((p) => (encoding.bits > 8 ? new Uint16Array(p.slice().buffer) : p));
    const shapes = planeShapes(width, height, encoding);
    const s = codeSpans(encoding);
    const { kr, kb } = LUMA_WEIGHTS[encoding.matrix];
    const [stepX, stepY] = [width / w, height / h];
    let worst = 0;
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const [px, py] = [(x + 0.5) * stepX - 0.5, (y + 0.5) * stepY - 0.5];
        const values = codes.map((plane, i) => {
          const chroma = encoding.layout === 'yuv' && i > 0;
          const [nx, ny] = [chroma && encoding.subX ? 2 : 1, chroma && encoding.subY ? 2 : 1];
          // Halved across, chroma stands on the even columns; halved down, between rows.
          const value = sampled(plane, shapes[i]!, [px / nx, ny === 2 ? (py - 0.5) / 2 : py], [stepX / nx, stepY / ny]);
          return chroma ? (value - s.middle) / s.chroma : (value - s.black) / s.luma;
        });
        let wanted = values;
        if (encoding.layout === 'yuv') {
          const [luma, cb, cr] = values as [number, number, number];
          const [r, b] = [luma + 2 * (1 - kr) * cr, luma + 2 * (1 - kb) * cb];
          wanted = [r, (luma - kr * r - kb * b) / (1 - kr - kb), b];
        }
        wanted.forEach((v, i) => (worst = Math.max(worst, Math.abs(v - got[i]![y * w + x]!))));
      }
    expect(worst).toBeLessThan(2e-5);
  });

  test.each<[string, Size, Preparation | undefined]>([
    ['halved', { width: 48, height: 32 }, undefined],
    ['smaller by a crooked factor', { width: 39, height: 26 }, undefined],
    ['larger', { width: 150, height: 100 }, undefined],
    ['a part of it, at its own size', { width: 64, height: 48 }, { shape: 4 / 3, framing: { x: 0.4, y: 0.45, scale: 1.5, turn: 0 } }],
    ['a part of it, larger', { width: 128, height: 96 }, { shape: 4 / 3, framing: { x: 0.7, y: 0.5, scale: 2.2, turn: 0 } }],
  ])('%s, bands of any height make the same bits', (_, size, preparation) => {
    const frame = randomFrame(96, 64, encoding, 7);
    const whole = floats(frame, size, { bandRows: size.height, preparation });
    for (const bandRows of [2, 6, 14, undefined]) expect(floats(frame, size, { bandRows, preparation })).toEqual(whole);
  });
});

test('a picture of one code is that code everywhere, edges too, at any size', () => {
  const frame: RawFrame = { width: 50, height: 30, encoding: YUV420, planes: [new Uint8Array(1500).fill(126), new Uint8Array(375).fill(90), new Uint8Array(375).fill(170)] };
  const s = codeSpans(YUV420);
  const [luma, cb, cr] = [(126 - s.black) / s.luma, (90 - s.middle) / s.chroma, (170 - s.middle) / s.chroma];
  for (const size of [
    { width: 25, height: 15 },
    { width: 10, height: 6 },
    { width: 75, height: 45 },
  ]) {
    const [r, , b] = floats(frame, size);
    expect(Math.max(...r!.map((v) => Math.abs(v - (luma + 1.5748 * cr))))).toBeLessThan(1e-5);
    expect(Math.max(...b!.map((v) => Math.abs(v - (luma + 1.8556 * cb))))).toBeLessThan(1e-5);
  }
});
