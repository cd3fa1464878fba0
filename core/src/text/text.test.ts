/** Text as outlines: what fonts give, how it is laid out, how much of each pixel it covers. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { newEngine, shippedFont } from '../testing';
import { charactersFor, filledIn, unknownFields, type FieldSettings } from './fields';
import { hasCharacter } from './characters';
import { layOut, type Layout } from './layout';
import { addLines, type FontOutlines, type Lines } from './outlines';
import { charactersOf, FontError, readFont } from './read-font';
import { shippedFonts } from './shipped-fonts';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const fontFile = (id: string): Promise<Buffer> => readFile(createRequire(import.meta.url).resolve(shippedFonts.find((font) => font.id === id)!.file));

/** Coverage of each pixel inside lines. */
function covered(lines: Lines, width: number, height: number): Float32Array {
  const stride = (width + 8) * 4;
  const [rows, at] = [engine.allocate(stride * height), engine.allocate(lines.length * 4)];
  engine.bytes(rows, stride * height).fill(0);
  engine.floats(at, lines.length).set(lines);
  engine.kernels.outlineLines(rows, width, height, stride, at, lines.length / 4);
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    engine.kernels.coverageRow(rows + y * stride, width);
    out.set(engine.floats(rows + y * stride, width), y * width);
  }
  engine.release(rows);
  engine.release(at);
  return out;
}
const sum = (values: ArrayLike<number>): number => Array.from(values).reduce((a, b) => a + b, 0);

/** The lines round a polygon. */
const round = (points: readonly (readonly [number, number])[]): Lines => points.flatMap(([x, y], i) => [x, y, ...points[(i + 1) % points.length]!]);
/** Twice the area is the sum of the cross products (the shoelace formula). */
const areaOf = (points: readonly (readonly [number, number])[]): number =>
  Math.abs(points.reduce((a, [x, y], i) => a + x * points[(i + 1) % points.length]![1] - points[(i + 1) % points.length]![0] * y, 0)) / 2;

describe('outlines', () => {
  const shapes: [string, [number, number][]][] = [
    [
      'a sliver',
      [
        [3.2, 1.1],
        [3.4, 18.7],
        [3.9, 18.9],
      ],
    ],
    [
      'a flat triangle',
      [
        [1.3, 4.21],
        [28.7, 4.83],
        [2.1, 5.07],
      ],
    ],
    [
      'a kite',
      [
        [14.5, 1.25],
        [27.9, 9.6],
        [15.1, 18.8],
        [2.2, 10.3],
      ],
    ],
    [
      'a square between pixels',
      [
        [4.5, 3.5],
        [20.25, 3.5],
        [20.25, 15.75],
        [4.5, 15.75],
      ],
    ],
  ];
  test.each(shapes)('%s covers its area, and each pixel by as much of it as lies inside', (_, points) => {
    const found = covered(round(points), 32, 20);
    expect(sum(found)).toBeCloseTo(areaOf(points), 2);
    expect(sum(covered(round([...points].reverse()), 32, 20))).toBeCloseTo(areaOf(points), 2);
    // By counting in a fine grid.
    const fine = 40;
    const inside = (x: number, y: number): boolean =>
      points.reduce((odd, [x0, y0], i) => {
        const [x1, y1] = points[(i + 1) % points.length]!;
        return y0 > y !== y1 > y && x < x0 + ((y - y0) * (x1 - x0)) / (y1 - y0) ? !odd : odd;
      }, false);
    for (let i = 0; i < found.length; i++) {
      let count = 0;
      for (let v = 0; v < fine; v++) for (let u = 0; u < fine; u++) if (inside((i % 32) + (u + 0.5) / fine, Math.floor(i / 32) + (v + 0.5) / fine)) count++;
      expect(Math.abs(found[i]! - count / fine ** 2)).toBeLessThan(0.03);
    }
  });

  test('what lies outside of the picture is cut, not folded back', () => {
    const found = covered(
      round([
        [-30, -10],
        [16, -10],
        [16, 60],
        [-30, 60],
      ]),
      32,
      20,
    );
    for (let y = 0; y < 20; y++) for (let x = 0; x < 32; x++) expect(found[y * 32 + x]).toBeCloseTo(x < 16 ? 1 : 0, 4);
    expect(
      sum(
        covered(
          round([
            [40, 2],
            [60, 2],
            [60, 12],
          ]),
          32,
          20,
        ),
      ),
    ).toBe(0);
    expect(
      sum(
        covered(
          round([
            [-40, 2],
            [-20, 2],
            [-20, 12],
          ]),
          32,
          20,
        ),
      ),
    ).toBe(0);
  });

  test('curves are drawn as near as a fiftieth of a pixel: a circle has its area at any size', () => {
    const c = 0.5522847498;
    for (const r of [3, 30, 300]) {
      const lines: Lines = [];
      addLines(
        lines,
        [['move', 1, 0], ['cubic', 1, c, c, 1, 0, 1], ['cubic', -c, 1, -1, c, -1, 0], ['cubic', -1, -c, -c, -1, 0, -1], ['cubic', c, -1, 1, -c, 1, 0], ['close']],
        (x, y) => [r * x, r * y],
      );
      let twice = 0;
      for (let i = 0; i < lines.length; i += 4) twice += lines[i]! * lines[i + 3]! - lines[i + 2]! * lines[i + 1]!;
      expect(Math.abs(twice / 2 - Math.PI * r * r)).toBeLessThan(0.02 * 2 * Math.PI * r + 3e-4 * Math.PI * r * r);
    }
  });
});

describe('fonts', () => {
  test.each(shippedFonts.map(({ id }) => id))('%s has every character of plain text, with capitals of one height', async (id) => {
    const bytes = await fontFile(id);
    const has = hasCharacter(charactersOf(bytes));
    for (const c of 'The LAST tram of line 14, at 23:52; (Orrin Vale) £/-.&') expect([c, has(c.codePointAt(0)!)]).toEqual([c, true]);
    expect(has(0x1f600)).toBe(false);
    const font = readFont(bytes, 'HI😀');
    expect(font.glyphs[0x1f600]).toBeUndefined();
    const top = Math.max(...font.glyphs[0x48]!.steps.flatMap(([, ...numbers]) => numbers.filter((_, i) => i % 2 === 1)));
    expect(top).toBeCloseTo(font.capHeight, 6);
  });

  test('what is no font is refused with the reason', async () => {
    const whole = await fontFile('mono');
    expect(() => readFont(Buffer.from('wOF2 and what follows'), 'a')).toThrow(/WOFF2.*TTF, OTF and WOFF/);
    expect(() => readFont(Buffer.from('not a font at all'), 'a')).toThrow(FontError);
    expect(() => readFont(whole.subarray(0, 2000), 'a')).toThrow(FontError);
    expect(() => readFont(new Uint8Array(0), 'a')).toThrow(FontError);
  });
});

/** A font of squares: each character as wide as its place in the alphabet. */
const letter = (width: number) => ({ advance: width, steps: [['move', 0, 0], ['line', 0, 100], ['line', width, 100], ['line', width, 0], ['close']] as const });
const squares: FontOutlines = {
  unitsPerEm: 100,
  capHeight: 100,
  glyphs: { 0x61: letter(10), 0x62: letter(20), 0x63: letter(40), 0x5d0: letter(10), 0x5d1: letter(20), 0x5d2: letter(40), 0x20: { advance: 10, steps: [] } },
  lacking: letter(80),
  kerning: { ab: -5 },
};
const plain: Layout = { size: 100, stretch: 1, spacing: 0, leading: 1.5, align: 'left', x: 0, y: 0, turn: 0, squeeze: 1 };
const lefts = (text: string, layout: Partial<Layout> = {}): number[] => {
  const { lines } = layOut(text, squares, { ...plain, ...layout }, Math);
  // Each square begins with its left side.
  return lines.filter((_, i) => i % 16 === 0);
};

describe('lay-out', () => {
  test('letters stand side by side by their widths, with kerning, spacing and stretch', () => {
    expect(lefts('abc')).toEqual([0, 5, 25]);
    expect(lefts('cba')).toEqual([0, 40, 60]);
    expect(lefts('cba', { spacing: 0.1 })).toEqual([0, 50, 80]);
    expect(lefts('cba', { stretch: 2 })).toEqual([0, 80, 120]);
    expect(lefts('cba', { align: 'right', x: 500 })).toEqual([430, 470, 490]);
    expect(lefts('cba', { align: 'middle' })).toEqual([-35, 5, 25]);
  });

  test('lines are as far apart as their leading says, the block about its place', () => {
    const { block } = layOut('a\nb\r\nc', squares, plain, Math);
    expect(block).toEqual({ left: -0, top: -200, right: 40, bottom: 200 });
  });

  test('what is written from right to left stands so, figures in it as they are (UAX 9)', () => {
    // Aleph, beth, gimel: the first stands at the right.
    expect(lefts('\u05d0\u05d1\u05d2')).toEqual([0, 40, 60]);
    expect(lefts('a \u05d0\u05d1')).toEqual([0, 20, 40]);
  });

  test('a character that the font has not is its empty box; joiners take no place', () => {
    expect(lefts('a😀b')).toEqual([0, 10, 90]);
    expect(lefts('a\u200db')).toHaveLength(2);
  });

  test('turned a quarter, what went right goes down', () => {
    const { place } = layOut('a', squares, { ...plain, x: 7, y: 9, turn: Math.PI / 2 }, Math);
    expect(place(10, 0).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([7, 19]);
  });
});

describe('fields', () => {
  const from: FieldSettings = {
    clockFrom: '23:59:58',
    clockForm: '24',
    dateFrom: '1987-12-31',
    dateForm: 'day month',
    counterFrom: '0:00:00',
    counterForm: 'time',
    timecodeFrom: '10:00:00:00',
  };
  const at = (text: string, seconds: number, more: Partial<FieldSettings> = {}, rate = 25): string =>
    filledIn(text, { ...from, ...more }, { seconds, picture: Math.round(seconds * rate), rate });
  test('run with the picture; the day goes over at midnight', () => {
    expect(at('{clock} {date}', 1.96)).toBe('23:59:59 31 DEC 1987');
    expect(at('{clock} {date}', 2)).toBe('00:00:00 1 JAN 1988');
    expect(at('{clock}', 3, { clockForm: '12' })).toBe('12:00:01 AM');
    expect(at('{clock}', 0, { clockForm: '12 short', clockFrom: '13:05' })).toBe('1:05 PM');
    expect(at('{date}', 0, { dateForm: 'iso' })).toBe('1987-12-31');
    expect(at('{date}', 0, { dateForm: 'slashes' })).toBe('12/31/87');
    expect(at('{date}', 0, { dateForm: 'dots' })).toBe('31.12.1987');
    expect(at('{date}', 0, { dateForm: 'month day' })).toBe('DEC 31 1987');
    expect(at('{date}', 0, { dateFrom: '2000-02-28', clockFrom: '47:59:00' })).toBe('29 FEB 2000');
  });
  test('count, from below zero too', () => {
    expect(at('{counter}', 3725)).toBe('1:02:05');
    expect(at('{counter}', 3, { counterFrom: '-0:00:05' })).toBe('-0:00:02');
    expect(at('{counter}', 12, { counterForm: 'digits', counterFrom: '0:00:00' })).toBe('0012');
    expect(at('{timecode}', 61.2)).toBe('10:01:01:05');
    expect(at('{timecode}', 1.001 * 10, {}, 30000 / 1001)).toBe('10:00:10:00');
  });
  test('a picture whose moment is a rounding error early shows its second', () => {
    for (let n = 0; n < 200_000; n += 997) {
      const rate = 30000 / 1001;
      expect(filledIn('{counter}', from, { seconds: n / rate, picture: n, rate })).toBe(filledIn('{counter}', from, { seconds: (n * 1001) / 30000 + 1e-9, picture: n, rate }));
    }
  });
  test('signs are characters of our own; what is no field stays, and is told', () => {
    expect(at('{play}', 0)).not.toContain('{');
    expect(at('{tape} {clock', 0)).toBe('{tape} {clock');
    expect(unknownFields('{tape} {clock} {rec}')).toEqual(['tape']);
    expect(charactersFor('{clock}')).toContain('9');
    expect(charactersFor('no field')).toBe('no field');
  });
});

test('letters of a shipped font are kerned', async () => {
  const font = await shippedFont('grotesque', 'AVAT');
  expect(Object.keys(font.kerning).length).toBeGreaterThan(0);
  expect(font.kerning.AV).toBeLessThan(0);
});
