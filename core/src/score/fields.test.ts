/** Which moments a raster's two fields come from, read off pictures whose level tells their number. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import type { Look, TraitUse } from '../look/look';
import { LOOK_SCHEMA } from '../look/look';
import { countingOf, newEngine, painted, RGB16, RGB8 } from '../testing';
import { countPictures, countSecond, heldPicture } from './cadence';
import { Plan } from '../plan/plan';
import { resolveLook } from '../look/resolve';

// Taken once: in hot loops each look-up of a global costs.
const { max, min, round } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const FILM = 24000 / 1001;
const FRAMES_525 = 30000 / 1001;
const lookOf = (...lives: { carrier: string; traits: TraitUse[] }[]): Look => ({ schema: LOOK_SCHEMA, shape: 'file', name: 'test', seed: 5, lives });
const interlace = (settings: TraitUse['settings'] = {}): TraitUse => ({ trait: 'interlace', settings });

/** A grey whose level is its number: a hundredth a picture. */
const numbered =
  (width: number, height: number) =>
  (n: number): RawFrame =>
    painted(width, height, () => (n + 1) / 100);
const numberOf = (level: number): number => round(level * 100 * 100) / 100 - 1;

/** The pictures of the shot whose levels stand on the upper two lines, then on lines half-way down, of picture `n`. */
function fieldsOf(look: Look, n: number, rate: number, lines: number): [number, number] {
  const [width, height] = [16, lines];
  const plan = new Plan(engine, look, { source: { width, height, encoding: RGB16 }, target: { width, height, encoding: 'float' }, rate });
  const plane = plan.render(n, numbered(width, height))[1]!;
  plan.dispose();
  const values = new Float32Array(plane.buffer, plane.byteOffset, width * height);
  const at = (y: number): number => numberOf(values[y * width + 8]!);
  for (const y of [2, 100, height - 2]) expect([at(y), at(y + 1)]).toEqual([at(0), at(1)]);
  return [at(0), at(1)];
}

describe('two fields of a picture', () => {
  const on525 = lookOf({ carrier: 'broadcast', traits: [interlace()] });
  const on625 = lookOf({ carrier: 'broadcast625', traits: [interlace()] });

  test('24 a second come to 59.94 fields as AA BB BC CD DD', () => {
    // A first life holds film at 24; the file has the raster's own rate, so all five pictures of the round are seen.
    const look = lookOf({ carrier: 'film16', traits: [{ trait: 'cadence', settings: { rate: 24 } }] }, { carrier: 'broadcast', traits: [interlace()] });
    const film = (n: number): [number, number] => {
      const uses = resolveLook(look);
      const counts = countPictures(look, n, { rate: FRAMES_525, uses });
      return [counts.lives[0]!.picture, countSecond(counts, 1, { rate: FRAMES_525, uses }).lives[0]!.picture];
    };
    expect([0, 1, 2, 3, 4, 5, 6, 7].map(film)).toEqual([
      [0, 0],
      [1, 1],
      [1, 2],
      [2, 3],
      [3, 3],
      [4, 4],
      [5, 5],
      [5, 6],
    ]);
    // 24 against 23.976: over 1001 s the round slips by one picture for every 1000, and no more.
    expect(film(30000)[0]).toBe(24024);
  });

  test('a shot of 23.976 itself is brought to them', () => {
    expect([0, 1, 2, 3].map((n) => fieldsOf(on525, n, FILM, 486))).toEqual([
      [0, 0],
      [1, 1],
      [1, 2],
      [2, 3],
    ]);
    // The file's next picture shows the first of the next round.
    expect(fieldsOf(on525, 4, FILM, 486)).toEqual([4, 4]);
  });

  test('25 a second come to 50 fields as 2:2, and 50 fill both', () => {
    for (const n of [0, 1, 7]) expect(fieldsOf(on625, n, 25, 576)).toEqual([n, n]);
    expect([0, 1, 2, 3].map((n) => fieldsOf(on625, n, 50, 576))).toEqual([
      [0, 1],
      [0, 1],
      [2, 3],
      [2, 3],
    ]);
    expect([0, 1, 2, 3].map((n) => heldPicture(on625, n, 50))).toEqual([0, 0, 2, 2]);
  });

  test('the earlier field lies on the lines that are chosen', () => {
    const bottom = lookOf({ carrier: 'broadcast625', traits: [interlace({ order: 'bottom' })] });
    expect(fieldsOf(bottom, 2, 50, 576)).toEqual([3, 2]);
  });

  test('a moment between two pictures is asked for where it is to be made', () => {
    const look = lookOf({ carrier: 'broadcast625', traits: [interlace({ rate: 'file', moments: 'between' })] });
    const plan = new Plan(engine, look, { source: { width: 16, height: 16, encoding: RGB8 }, target: { width: 16, height: 16, encoding: RGB8 }, rate: 25 });
    expect([plan.score.between, plan.sourcePictures(3)]).toEqual([true, [3, 3.5]]);
    expect(plan.score.sourceWindow(3)).toEqual({ first: 3, last: 3.5 });
    plan.dispose();
    expect(fieldsOf(look, 3, 25, 576)).toEqual([3, 3.5]);
    // Where the shot has the moments nothing is made.
    const full = lookOf({ carrier: 'broadcast625', traits: [interlace({ moments: 'between' })] });
    expect(fieldsOf(full, 4, 50, 576)).toEqual([4, 5]);
  });

  test('in turn, one field is seen at a time, its missing lines between its own', () => {
    const [width, height] = [16, 576];
    const look = lookOf({ carrier: 'broadcast625', traits: [interlace({ shown: 'turn' })] });
    // Top lines black, bottom lines grey: of a field one of the two is all there is.
    const striped = painted(width, height, (_, y) => (Math.floor(y) % 2 ? 0.5 : 0.1));
    const plan = new Plan(engine, look, { source: striped, target: { width, height, encoding: 'float' }, rate: 50 });
    for (const [n, level] of [
      [0, 0.1],
      [1, 0.5],
      [2, 0.1],
      [3, 0.5],
    ] as const) {
      const plane = plan.render(n, striped)[1]!;
      const values = new Float32Array(plane.buffer, plane.byteOffset, width * height);
      for (const found of [Math.min(...values), Math.max(...values)]) expect(found).toBeCloseTo(level, 3);
    }
    plan.dispose();
  });

  test('noise after the fields is of the raster’s pictures, and what happened before is of each field', () => {
    const look = lookOf(
      {
        carrier: 'film16',
        traits: [
          { trait: 'cadence', settings: { rate: 24 } },
          { trait: 'flicker', settings: { amount: 10 } },
        ],
      },
      { carrier: 'broadcast', traits: [interlace()] },
    );
    const rate = FRAMES_525;
    const [width, height] = [16, 486];
    const plan = new Plan(engine, look, { source: { width, height, encoding: RGB16 }, target: { width, height, encoding: 'float' }, rate });
    const grey = painted(width, height, () => 0.5);
    const lines = (n: number): number[] => {
      const plane = plan.render(n, grey)[1]!;
      const values = new Float32Array(plane.buffer, plane.byteOffset, width * height);
      return [values[8]!, values[width + 8]!];
    };
    const [bb, bc, cd, dd] = [1, 2, 3, 4].map(lines) as [number[], number[], number[], number[]];
    expect(bb[0]).toBeCloseTo(bb[1]!, 5);
    expect(bc[0]).toBeCloseTo(bb[0]!, 5);
    expect(cd[0]).toBeCloseTo(bc[1]!, 5);
    expect(dd[0]).toBeCloseTo(cd[1]!, 5);
    expect(Math.abs(bc[0]! - bc[1]!)).toBeGreaterThan(0.002);
    plan.dispose();
  });
});

test('film that holds nothing has as many pictures as the shot, not as many as there are fields', () => {
  const look = lookOf({ carrier: 'film16', traits: [{ trait: 'grain' }] }, { carrier: 'broadcast625', traits: [interlace({ moments: 'between' })] });
  const counted = (rate: number): unknown =>
    [0, 1, 2, 3].map((n) => countPictures(look, n, countingOf(look, rate))).map(({ source, lives: [film] }) => [source, film!.picture, film!.rate]);
  expect(counted(25)).toEqual([0, 1, 2, 3].map((n) => [n, n, 25]));
  expect(counted(50)).toEqual([0, 0, 2, 2].map((n) => [n, n, 50]));
});

describe('any footage', () => {
  const look = lookOf(
    { carrier: 'super8', traits: [{ trait: 'cadence' }, { trait: 'frame-slip', settings: { count: 60 } }, { trait: 'gate-frame', settings: { scale: 80, open: 1 } }] },
    { carrier: 'vhs', traits: [interlace(), { trait: 'tape-noise' }] },
    { carrier: 'broadcast', traits: [interlace({ shown: 'turn' }), { trait: 'phosphor', settings: { green: 60 } }] },
  );
  test.each([12, FILM, 120])('at %d a second: made from what is told, alone as in sequence', (rate) => {
    const [width, height] = [24, 18];
    const options = { source: { width, height, encoding: RGB16 }, target: { width, height, encoding: RGB8 }, rate };
    const given = numbered(width, height);
    const plan = new Plan(engine, look, { ...options, footage: 'numbered' });
    const whole = new Plan(engine, look, options);
    let [first, last] = [0, 0];
    for (let n = 0; n < 7; n++) {
      const told = whole.sourcePictures(n);
      const fewer = plan.sourcePictures(n);
      const window = whole.score.sourceWindow(n);
      expect([min(...told) >= window.first, max(...told) <= window.last, window.first >= first, window.last >= last]).toEqual([true, true, true, true]);
      ({ first, last } = window);
      const from = (list: readonly number[]) => (picture: number) => {
        if (!list.includes(picture)) throw new Error(`picture ${picture} was not told`);
        return given(picture);
      };
      expect(plan.render(n, from(fewer))).toEqual(whole.render(n, from(told)));
    }
    plan.dispose();
    whole.dispose();
  });

  test('of a single pixel', () => {
    const frame = painted(1, 1, () => 0.5);
    const plan = new Plan(engine, look, { source: frame, target: { width: 1, height: 1, encoding: RGB8 }, rate: 25 });
    expect(plan.render(2, frame).map((p) => p.length)).toEqual([1, 1, 1]);
    plan.dispose();
  });
});
