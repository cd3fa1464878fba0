/** What is done to a shot before its look: framing, time, and what its values mean. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { sampleTable, type ColourTable } from '../formats/cube';
import type { RawFrame } from '../frame/encoding';
import { LookError } from '../look/schema-check';
import { EMPTY_LOOK } from '../look/look';
import { Plan } from '../plan/plan';
import { newEngine, RGB16, signalFrame, YUV420 } from '../testing';
import { pictureBetween } from './between';
import { acescctLight, hlgScene, KNEE, pqNits, rolledOff, srgbLight, toBt709 } from './curves';
import { footageParts, heldFraming, preparedFrames, preparedSize, type Preparation } from './preparation';
import { checkPreparation } from './preparation-check';

const { abs, exp, floor, hypot, max, min, pow, round } = Math;
const k = { exp, pow };
let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** A picture painted by a function of the middle of each pixel. */
function painted(width: number, height: number, paint: (x: number, y: number) => number): RawFrame {
  const codes = Uint16Array.from({ length: width * height }, (_, i) => round(max(0, min(1, paint((i % width) + 0.5, floor(i / width) + 0.5))) * 65535));
  const plane = new Uint8Array(codes.buffer);
  return { width, height, encoding: RGB16, planes: [plane, plane, plane] };
}

function prepared(
  frame: RawFrame,
  preparation: Preparation,
  size: { width: number; height: number } = preparedSize(frame, preparation),
  n = 0,
  tables?: Record<string, ColourTable>,
) {
  const { width, height, encoding } = frame;
  const plan = new Plan(engine, EMPTY_LOOK, { source: { width, height, encoding }, target: { ...size, encoding: 'float' }, rate: 24, preparation, tables });
  const planes = plan.render(n, frame).map((p) => new Float32Array(p.buffer, p.byteOffset, p.length / 4));
  plan.dispose();
  return { ...size, planes };
}

/** A bright spot at a place of a dark picture. */
const spot = (width: number, height: number, x: number, y: number): RawFrame => painted(width, height, (u, v) => exp(-((u - x) ** 2 + (v - y) ** 2) / 18));

function brightest({ planes, width }: { planes: Float32Array[]; width: number }): { x: number; y: number } {
  let [sum, sx, sy] = [0, 0, 0];
  planes[0]!.forEach((v, i) => {
    const w = v > 0.05 ? v : 0;
    sum += w;
    sx += w * ((i % width) + 0.5);
    sy += w * (floor(i / width) + 0.5);
  });
  return { x: sx / sum, y: sy / sum };
}

const near = (a: number, b: number, off: number): void => expect(abs(a - b)).toBeLessThan(off);

describe('framing', () => {
  test('a shape takes the largest part of the footage', () => {
    const footage = { width: 1920, height: 1080 };
    expect(preparedSize(footage, {})).toEqual(footage);
    expect(preparedSize(footage, { shape: 4 / 3 })).toEqual({ width: 1440, height: 1080 });
    expect(preparedSize(footage, { shape: 2.39 })).toEqual({ width: 1920, height: 803 });
    expect(preparedSize(footage, { quarter: 1 })).toEqual({ width: 1080, height: 1920 });
  });

  test.each([
    [320, 180],
    [640, 360],
  ])('a place of the footage stands where the framing puts it, at %dx%d', (width, height) => {
    const [x, y] = [0.6 * width, 0.45 * height];
    const at = brightest(prepared(spot(width, height, x, y), { framing: { x: 0.55, y: 0.5, scale: 2, turn: 0 } }));
    near(at.x, width / 2 + (x - 0.55 * width) * 2, 0.1);
    near(at.y, height / 2 + (y - 0.5 * height) * 2, 0.1);
  });

  test.each([
    [1, 0.25, 0.4, (x: number, y: number) => [1 - y, x]],
    [2, 0.25, 0.4, (x: number, y: number) => [1 - x, 1 - y]],
    [3, 0.25, 0.4, (x: number, y: number) => [y, 1 - x]],
  ] as const)('%d quarter turns clockwise', (quarter, x, y, to) => {
    const out = prepared(spot(200, 120, x * 200, y * 120), { quarter });
    const at = brightest(out);
    const [wx, wy] = to(x, y);
    near(at.x / out.width, wx!, 0.003);
    near(at.y / out.height, wy!, 0.003);
  });

  test('mirrored, and footage of 4:2:0 alike', () => {
    const at = brightest(prepared(spot(200, 120, 50, 48), { mirror: true }));
    near(at.x, 150, 0.05);
    near(at.y, 48, 0.05);
    const [width, height] = [200, 120];
    const luma = Uint8Array.from({ length: width * height }, (_, i) => round(16 + 200 * exp(-(((i % width) + 0.5 - 50) ** 2 + (floor(i / width) + 0.5 - 48) ** 2) / 18)));
    const grey = new Uint8Array((width * height) / 4).fill(128);
    near(brightest(prepared({ width, height, encoding: YUV420, planes: [luma, grey, grey] }, { mirror: true })).x, 150, 0.05);
  });

  test('straightened: turned clockwise about the middle, and never past the edge', () => {
    const [width, height] = [400, 300];
    const framing = { x: 0.5, y: 0.5, scale: 1, turn: 10 };
    const held = heldFraming({ width, height }, 4 / 3, framing);
    expect(held.scale).toBeGreaterThan(1.1);
    const out = prepared(
      painted(width, height, (x, y) => 0.3 + 0.7 * exp(-((x - 280) ** 2 + (y - 150) ** 2) / 18)),
      { framing },
    );
    // The spot 80 to the right of the middle turns down.
    const at = brightest({ ...out, planes: out.planes.map((p) => p.map((v) => max(0, v - 0.35))) });
    near(at.x, 200 + 80 * held.scale * Math.cos(Math.PI / 18), 0.3);
    near(at.y, 150 + 80 * held.scale * Math.sin(Math.PI / 18), 0.3);
    expect(min(...out.planes[0]!)).toBeGreaterThan(0.28);
  });

  test('past the edge is black only where it is asked for', () => {
    const frame = painted(160, 90, () => 0.8);
    const framing = { x: 0, y: 0.5, scale: 1, turn: 0 };
    expect(min(...prepared(frame, { framing }).planes[0]!)).toBeGreaterThan(0.79);
    const out = prepared(frame, { framing, beyond: true });
    const row = out.planes[0]!.subarray(45 * 160, 46 * 160);
    expect(row.subarray(0, 80).every((v) => v === 0)).toBe(true);
    expect(row.subarray(81).every((v) => v > 0.79)).toBe(true);
    const small = prepared(frame, { framing: { x: 0.5, y: 0.5, scale: 0.5, turn: 0 }, beyond: true }).planes[0]!;
    near(small.filter((v) => v > 0.4).length / small.length, 0.25, 0.02);
  });

  test('moves over the shot, alone or in sequence the same', () => {
    const moves = [
      { at: 0, x: 0.4, y: 0.5, scale: 2, turn: 0, ease: 'line' as const },
      { at: 2, x: 0.6, y: 0.5, scale: 2, turn: 0 },
    ];
    const frame = spot(320, 180, 160, 90);
    const at = (n: number) => brightest(prepared(frame, { moves }, undefined, n)).x;
    near(at(0), 160 + 0.1 * 320 * 2, 0.1);
    near(at(24), 160, 0.1);
    near(at(60), 160 - 0.1 * 320 * 2, 0.1);
    const plan = new Plan(engine, EMPTY_LOOK, { source: frame, target: { width: 320, height: 180, encoding: 'rgba' }, rate: 24, preparation: { moves } });
    const alone = plan.render(30, frame)[0]!;
    for (const n of [0, 12, 47]) plan.render(n, frame);
    expect(plan.render(30, frame)[0]).toEqual(alone);
    plan.dispose();
  });

  test('all memory is given back', () => {
    const before = engine.reservedBytes;
    const frame = spot(64, 48, 30, 20);
    for (const preparation of [
      { mirror: true },
      { framing: { x: 0.5, y: 0.5, scale: 3, turn: 0 } },
      { curve: 'pq' },
      { framing: { x: 0.5, y: 0.5, scale: 1, turn: 5 } },
    ] as Preparation[])
      prepared(frame, preparation, { width: 24, height: 18 });
    expect(engine.reservedBytes).toBe(before);
  });
});

describe('time', () => {
  test('trim and speed count the pictures', () => {
    expect(preparedFrames(200, {})).toBe(200);
    expect(preparedFrames(200, { trim: { from: 20, to: 120 } })).toBe(100);
    expect(preparedFrames(200, { trim: { from: 20, to: 120 }, speed: 2 })).toBe(50);
    expect(preparedFrames(200, { speed: 0.25 })).toBe(800);
    expect(preparedFrames(3, { speed: 4 })).toBe(1);
  });

  test('pictures are repeated or left out', () => {
    const picture = (n: number, speed: number) => footageParts(100, { trim: { from: 10, to: 90 }, speed }, n)[0]!.picture;
    expect([0, 1, 2, 3, 4].map((n) => picture(n, 0.5))).toEqual([10, 10, 11, 11, 12]);
    expect([0, 1, 2, 3].map((n) => picture(n, 3))).toEqual([10, 13, 16, 19]);
    expect(picture(500, 1)).toBe(89);
  });

  test('blended, a picture takes the two about its moment, or all that pass', () => {
    expect(footageParts(100, { speed: 0.25, between: 'blend' }, 3)).toEqual([
      { picture: 0, share: 0.25 },
      { picture: 1, share: 0.75 },
    ]);
    const fast = footageParts(100, { speed: 2.5, between: 'blend' }, 1);
    expect(fast.map((p) => p.picture)).toEqual([2, 3, 4]);
    [0.2, 0.4, 0.4].forEach((share, i) => near(fast[i]!.share, share, 1e-9));
    for (let n = 0; n < 40; n++)
      near(
        footageParts(100, { speed: 2.7, between: 'blend' }, n).reduce((a, p) => a + p.share, 0),
        1,
        1e-9,
      );
  });

  test('a blend is the mean by shares', () => {
    const [a, b] = [painted(8, 4, () => 0.2), painted(8, 4, () => 0.6)];
    const parts = [
      { picture: 0, share: 0.25 },
      { picture: 1, share: 0.75 },
    ];
    const out = pictureBetween([a, b], parts, false);
    near(new Uint16Array(out.planes[0]!.buffer)[5]! / 65535, 0.5, 1e-4);
    expect(pictureBetween([a], [{ picture: 0, share: 1 }], false)).toBe(a);
  });

  test.each([
    [320, 180, 12],
    [640, 360, 20],
  ])('by motion a thing is led on its way, at %dx%d over %d pixels', (width, height, way) => {
    // A textured ground that moves as one, with a bright square.
    const scene = (shift: number) =>
      painted(width, height, (x, y) => {
        const u = x - shift;
        const square = abs(u - width / 2) < 20 && abs(y - height / 2) < 20 ? 0.4 : 0;
        return 0.3 + 0.1 * Math.sin(u / 7) * Math.cos(y / 9) + 0.05 * Math.sin(u / 3 + y / 5) + square;
      });
    const parts = [
      { picture: 0, share: 0.5 },
      { picture: 1, share: 0.5 },
    ];
    const [a, b, wanted] = [scene(0), scene(way), scene(way / 2)];
    const miss = (frame: RawFrame): number => {
      const [got, want] = [new Uint16Array(frame.planes[0]!.slice().buffer), new Uint16Array(wanted.planes[0]!.slice().buffer)];
      let [sum, n] = [0, 0];
      for (let y = 30; y < height - 30; y++) for (let x = 40; x < width - 40; x++, n++) sum += ((got[y * width + x]! - want[y * width + x]!) / 65535) ** 2;
      return Math.sqrt(sum / n);
    };
    const led = miss(pictureBetween([a, b], parts, true));
    expect(led).toBeLessThan(0.02);
    expect(led).toBeLessThan(miss(pictureBetween([a, b], parts, false)) / 3);
  });
});

describe('what values mean', () => {
  test('curves agree with their published numbers', () => {
    // BT.2100: PQ 0.5081 is 100 cd/m2, 0.7518 is 1000, 1 is 10000; HLG 1/2 is 1/12, 3/4 is 0.265, 1 is 1.
    near(pqNits(0.508078, k), 100, 0.01);
    near(pqNits(0.751827, k), 1000, 0.1);
    near(pqNits(1, k), 10000, 1e-6);
    near(pqNits(0, k), 0, 1e-9);
    near(hlgScene(0.5, k), 1 / 12, 1e-9);
    near(hlgScene(0.75, k), 0.26496, 1e-4);
    near(hlgScene(1, k), 1, 1e-6);
    // S-2016-001: ACEScct of 0.18 is 0.413588, of 1 is 0.554795, of 0 is 0.072906.
    near(acescctLight(0.4135884, k), 0.18, 1e-5);
    near(acescctLight(0.5547945, k), 1, 1e-5);
    near(acescctLight(0.0729055, k), 0, 1e-6);
    // IEC 61966-2-1.
    near(srgbLight(0.5, k), 0.21404, 1e-5);
    near(srgbLight(0.04045, k), 0.0031308, 1e-6);
  });

  test('primaries: white stays white, BT.2020 to BT.709 as ITU-R BT.2087 has it', () => {
    for (const from of ['bt709', 'bt601of525', 'bt601of625', 'bt2020', 'ap1'] as const) toBt709(from).forEach((row) => near(row[0] + row[1] + row[2], 1, 1e-4));
    const wanted = [
      [1.6605, -0.5876, -0.0728],
      [-0.1246, 1.1329, -0.0083],
      [-0.0182, -0.1006, 1.1187],
    ];
    toBt709('bt2020').forEach((row, i) => row.forEach((v, j) => near(v, wanted[i]![j]!, 2e-4)));
  });

  test('highlights are rolled off, never clipped: a ramp three stops over white still rises', () => {
    near(rolledOff(0.5, k), 0.5, 1e-12);
    near((rolledOff(KNEE + 1e-4, k) - rolledOff(KNEE, k)) / 1e-4, 1, 1e-3);
    for (let light = 0.7; light < 8; light += 0.1) expect(rolledOff(light + 0.1, k)).toBeGreaterThan(rolledOff(light, k));
    expect(rolledOff(100, k)).toBeLessThanOrEqual(1);
  });

  test.each([
    ['linear', (v: number) => rolledOff(v, k) ** (1 / 2.4)],
    ['srgb', (v: number) => srgbLight(v, k) ** (1 / 2.4)],
    ['pq', (v: number) => rolledOff(pqNits(v, k) / 203, k) ** (1 / 2.4)],
    ['hlg', (v: number) => rolledOff((1000 / 203) * hlgScene(v, k) ** 1.2, k) ** (1 / 2.4)],
    ['acescct', (v: number) => rolledOff(max(0, acescctLight(v, k)), k) ** (1 / 2.4)],
  ] as const)('a grey ramp of %s comes out as the formula says within 1/1024', (curve, wanted) => {
    const width = 1024;
    const { planes } = prepared(signalFrame('ramp', width, 4), { curve });
    for (let x = 0; x < width; x++) for (const plane of planes) near(plane[x]!, wanted(x / (width - 1)), 1 / 1024);
  });

  test('a colour of BT.2020 becomes that of BT.709', () => {
    const { planes } = prepared(
      painted(8, 8, () => 0.5),
      { primaries: 'bt2020' },
    );
    planes.forEach((p) => near(p[0]!, 0.5, 1 / 1024));
    const red = prepared(
      { ...painted(8, 8, () => 0.5), planes: [painted(8, 8, () => 0.5), painted(8, 8, () => 0.4), painted(8, 8, () => 0.4)].map((f) => f.planes[0]!) },
      { primaries: 'bt2020' },
    );
    const light = [0.5, 0.4, 0.4].map((v) => v ** 2.4);
    toBt709('bt2020').forEach((row, i) => near(red.planes[i]![0]!, (row[0] * light[0]! + row[1] * light[1]! + row[2] * light[2]!) ** (1 / 2.4), 1 / 1024));
  });

  test('any other by a table', () => {
    const table: ColourTable = { title: '', dimensions: 1, size: 2, low: [0, 0, 0], high: [1, 1, 1], points: Float32Array.of(0.1, 0.1, 0.1, 0.6, 0.7, 0.8) };
    const { planes } = prepared(
      painted(8, 8, () => 0.5),
      { table: 'own' },
      undefined,
      0,
      { own: table },
    );
    sampleTable(table, [0.5, 0.5, 0.5]).forEach((v, i) => near(planes[i]![3]!, v, 1e-4));
  });
});

describe('checks', () => {
  test('a good one passes, whatever is wrong is named', () => {
    const good: Preparation = {
      trim: { from: 2, to: 9 },
      speed: 0.5,
      between: 'motion',
      curve: 'hlg',
      shape: 1.37,
      framing: { x: 0.5, y: 0.4, scale: 1.2, turn: 2 },
      mirror: true,
      quarter: 1,
    };
    expect(checkPreparation(good)).toEqual(good);
    const problems = (value: unknown): string[] => {
      try {
        checkPreparation(value);
      } catch (error) {
        if (error instanceof LookError) return error.problems.map((p) => p.path);
        throw error;
      }
      return [];
    };
    expect(problems({ speed: 9, trim: { from: 5, to: 5 }, curve: 'x', quarter: 4 })).toEqual(['speed', 'curve', 'quarter', 'trim.to']);
    expect(problems({ framing: { x: 0.5, y: NaN, scale: 1, turn: 0 } })).toEqual(['framing.y']);
    expect(problems(undefined)).toEqual(['']);
    expect(problems({ moves: [1, 1].map((at) => ({ at, x: 0.5, y: 0.5, scale: 1, turn: 0 })) })).toEqual(['moves']);
  });

  test('a held framing is one that stays inside', () => {
    for (const turn of [0, 3, -17, 45])
      for (const [x, y, scale] of [
        [0, 0, 1],
        [1, 0.2, 3],
        [0.5, 0.5, 0.2],
      ] as const) {
        const size = { width: 640, height: 360 };
        const framing = heldFraming(size, 4 / 3, { x, y, scale, turn });
        const a = (turn * Math.PI) / 180;
        const [w, h] = [480 / framing.scale / 2, 360 / framing.scale / 2];
        for (const [u, v] of [
          [w, h],
          [w, -h],
          [-w, h],
          [-w, -h],
        ] as const) {
          const [px, py] = [framing.x * 640 + u * Math.cos(a) + v * Math.sin(a), framing.y * 360 - u * Math.sin(a) + v * Math.cos(a)];
          expect(px).toBeGreaterThan(-0.01);
          expect(px).toBeLessThan(640.01);
          expect(py).toBeGreaterThan(-0.01);
          expect(py).toBeLessThan(360.01);
          expect(hypot(u, v)).toBeGreaterThan(1);
        }
      }
  });
});
