/** What goes out to a file or a screen: in a window with black bars, and from luma and colour differences of the raster. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { newEngine, RGB16, RGB8 } from '../testing';
import { bytesPerSample, codeSpans, LUMA_WEIGHTS, type Encoding } from './encoding';
import { centredWindow, Exporter, type Target } from './export';
import { floatStride, type Surface } from './surface';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});
const held: number[] = [];
afterAll(() => held.forEach((at) => engine.release(at)));

const yuv = (bits: number, subX: 0 | 1, subY: 0 | 1): Encoding => ({ layout: 'yuv', bits, subX, subY, matrix: 'bt709', range: 'limited' });

/** A picture of three planes by a function of plane, x and y; what pads its rows is far from any picture's. */
function surfaceOf(width: number, height: number, value: (plane: number, x: number, y: number) => number): Surface {
  const stride = floatStride(width);
  const planes = [0, 1, 2].map((plane) => {
    const at = engine.allocate(stride * height);
    held.push(at);
    const floats = engine.floats(at, (stride * height) / 4).fill(9);
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) floats[(y * stride) / 4 + x] = value(plane, x, y);
    return at;
  }) as [number, number, number];
  return { planes, stride, width, height, top: 0, bottom: height };
}

/** The rows of a surface in two bands, as a plan gives them. */
function bandsOf(surface: Surface): Surface[] {
  const cut = (surface.height >> 2) * 2;
  return [
    { ...surface, bottom: cut },
    { ...surface, planes: surface.planes.map((p) => p + cut * surface.stride) as [number, number, number], top: cut },
  ];
}

const codesOf = (planes: readonly Uint8Array[], target: Target): (Uint8Array | Uint16Array | Float32Array)[] =>
  planes.map((p) => {
    const { buffer } = p.slice();
    if (target === 'float') return new Float32Array(buffer);
    return typeof target === 'object' && bytesPerSample(target) === 2 ? new Uint16Array(buffer) : p;
  });

const targets: [string, Target][] = [
  ['rgba', 'rgba'],
  ['float', 'float'],
  ['rgb of 8 bits', RGB8],
  ['rgb of 16 bits', RGB16],
  ['4:2:0 of 8 bits', yuv(8, 1, 1)],
  ['4:2:0 of 10 bits', yuv(10, 1, 1)],
  ['4:2:2 of 8 bits', yuv(8, 1, 0)],
  ['4:4:4 of 10 bits', yuv(10, 0, 0)],
];
// Widths that are no whole groups, bars narrower than a group, bars above and below.
const sizes = [
  { shown: [30, 20], whole: [48, 20] },
  { shown: [42, 20], whole: [46, 20] },
  { shown: [44, 12], whole: [44, 18] },
  { shown: [20, 8], whole: [34, 14] },
] as const;

describe.each(targets)('a window of %s', (_, target) => {
  test.each(sizes)('$shown in $whole holds the picture as it is alone, and black about it', ({ shown, whole }) => {
    const [width, height] = shown;
    const size = { width: whole[0], height: whole[1] };
    const picture = surfaceOf(width, height, (plane, x, y) => 0.2 + 0.2 * plane + 0.3 * Math.sin(x * 0.7 + y * 0.9 + plane));
    const window = centredWindow({ width, height }, size, target);
    const [alone, within] = [new Exporter(engine, width, height, target), new Exporter(engine, size.width, size.height, target, window)];
    alone.run(picture);
    // Twice: what was written before changes nothing.
    for (let n = 0; n < 2; n++) for (const band of bandsOf(picture)) within.run(band);
    const [inner, outer] = [codesOf(alone.take(), target), codesOf(within.take(), target)];
    const sub = typeof target === 'object' && target.layout === 'yuv' ? target : { subX: 0, subY: 0 };
    outer.forEach((codes, plane) => {
      const [subX, subY] = plane > 0 ? [sub.subX, sub.subY] : [0, 0];
      const samples = target === 'rgba' ? 4 : 1;
      const [w, columns, left, top] = [(size.width >> subX) * samples, (width >> subX) * samples, (window.left >> subX) * samples, window.top >> subY];
      const black = (i: number): number => {
        if (target === 'rgba') return i % 4 === 3 ? 255 : 0;
        if (target === 'float' || target.layout === 'rgb') return 0;
        return plane > 0 ? codeSpans(target).middle : codeSpans(target).black;
      };
      const wanted = codes.map((_code, i) => {
        const [x, y] = [(i % w) - left, Math.floor(i / w) - top];
        return x >= 0 && x < columns && y >= 0 && y < height >> subY ? inner[plane]![y * columns + x]! : black(i);
      });
      expect(Buffer.compare(Buffer.from(codes.buffer), Buffer.from(wanted.buffer))).toBe(0);
    });
    for (const exporter of [alone, within]) exporter.release();
  });
});

test.each([8, 10])('luma and colour differences of BT.601 become those of BT.709 by the standards’ formulas, %d bits', (bits) => {
  const target = yuv(bits, 0, 0);
  const value = (plane: number, x: number, y: number): number => (plane === 0 ? 0.3 + 0.02 * x : 0.25 * Math.sin(0.5 * x + 1.3 * y + plane));
  const exporter = new Exporter(engine, 20, 6, target);
  exporter.run(surfaceOf(20, 6, value), 'video');
  const codes = codesOf(exporter.take(), target);
  exporter.release();
  const s = codeSpans(target);
  const [from, to] = [LUMA_WEIGHTS.bt601, LUMA_WEIGHTS.bt709];
  for (let y = 0; y < 6; y++)
    for (let x = 0; x < 20; x++) {
      const [luma, cb, cr] = [0, 1, 2].map((plane) => value(plane, x, y)) as [number, number, number];
      const r = luma + 2 * (1 - from.kr) * cr;
      const b = luma + 2 * (1 - from.kb) * cb;
      const g = (luma - from.kr * r - from.kb * b) / (1 - from.kr - from.kb);
      const out = to.kr * r + (1 - to.kr - to.kb) * g + to.kb * b;
      const wanted = [out * s.luma + s.black, ((b - out) / (2 * (1 - to.kb))) * s.chroma + s.middle, ((r - out) / (2 * (1 - to.kr))) * s.chroma + s.middle];
      wanted.forEach((v, plane) => expect(Math.abs(codes[plane]![y * 20 + x]! - Math.max(0, Math.min(s.max, v)))).toBeLessThanOrEqual(0.51));
    }
});
