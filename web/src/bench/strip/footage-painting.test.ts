import { expect, test } from '@jest/globals';
import { paintFilmstrip, peaksOf } from './footage-painting';

test('a clap in the sound is one pixel wide at any size, and stays where it is', () => {
  const peaks = new Array<number>(1000).fill(0.1);
  peaks[500] = 0.9;
  expect(peaksOf(peaks, { from: 0, to: 1 }, 100).indexOf(0.9)).toBe(50);
  const near = peaksOf(peaks, { from: 0.45, to: 0.55 }, 100);
  expect(near.filter((p) => p === 0.9)).toHaveLength(1);
  expect(near.indexOf(0.9)).toBe(50);
  // Nearer than its parts are, each covers several pixels.
  expect(peaksOf(peaks, { from: 0.5, to: 0.502 }, 10).filter((p) => p === 0.9)).toHaveLength(5);
});

test('frames of the filmstrip keep their shape, fill the room, and show their own part of the footage', () => {
  const drawn: number[][] = [];
  const g = { drawImage: (_: unknown, ...numbers: number[]) => drawn.push(numbers) } as unknown as CanvasRenderingContext2D;
  const strip = { naturalWidth: 12 * 96, naturalHeight: 54 } as HTMLImageElement;
  for (const part of [
    { from: 0, to: 1 },
    { from: 0.25, to: 0.35 },
  ]) {
    drawn.length = 0;
    paintFilmstrip(g, strip, 16 / 9, part, 900, 36);
    const frames = drawn.map(([sx, , , , x, , width]) => ({ picture: sx! / 96, x: x!, width: width! }));
    expect(frames[0]!.x).toBeLessThanOrEqual(0.01);
    expect(frames.at(-1)!.x + frames.at(-1)!.width).toBeGreaterThanOrEqual(899.99);
    for (const { picture, x, width } of frames) {
      expect(width / 36 / (16 / 9)).toBeGreaterThan(0.93);
      expect(width / 36 / (16 / 9)).toBeLessThan(1.07);
      const middle = part.from + ((x + width / 2) / 900) * (part.to - part.from);
      expect(Math.abs((picture + 0.5) / 12 - middle)).toBeLessThan(1.05 / 12);
    }
  }
});
