/** Plates of every kind of alpha, read on and anew, and struck into prints. */
import { execFileSync } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { checkLook, LOOK_SCHEMA, type Look, type RawFrame, type TraitUse } from '@tin-ghost/core';
import { decodeOne } from './decode';
import type { Footage } from './footage';
import { renderFrame } from './frame';
import { plateFrom, plateInfo, PlateReader, platesFor, shippedPlateFile } from './plates';
import { probe, probeSequence } from './probe';
import { strike } from './strike';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-plates-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const at = (name: string): string => join(folder, name);
const ffmpeg = (...args: string[]): void => void execFileSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...args]);
const lookOf = (traits: TraitUse[]): Look => checkLook({ schema: LOOK_SCHEMA, name: 'test', seed: 1, shape: 'file', lives: [{ carrier: 'none', traits }] });

/** Eight pictures, orange, its alpha rising from left to right; as raw RGBA. */
const [WIDE, HIGH, PICTURES] = [66, 38, 8];
async function orange(): Promise<string> {
  const raw = Buffer.alloc(WIDE * HIGH * 4 * PICTURES);
  for (let i = 0; i < raw.length / 4; i++) raw.set([220, 110, 30, Math.round((255 * (i % WIDE)) / (WIDE - 1))], 4 * i);
  await writeFile(at('orange.rgba'), raw);
  return at('orange.rgba');
}
const RAW = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${WIDE}x${HIGH}`, '-r', '24', '-i'];

const KINDS: [string, string, string[], number][] = [
  ['PNG', 'orange.png', ['-frames:v', '1', '-c:v', 'png'], 1.5],
  ['WebP', 'orange.webp', ['-frames:v', '1', '-c:v', 'libwebp', '-lossless', '1'], 1.5],
  ['VP9', 'orange.webm', ['-c:v', 'libvpx-vp9', '-pix_fmt', 'yuva420p', '-crf', '4', '-b:v', '0'], 6],
  ['ProRes 4444', 'orange.mov', ['-c:v', 'prores_ks', '-profile:v', '4444', '-pix_fmt', 'yuva444p10le', '-alpha_bits', '16'], 4],
];

/** Colours times alpha, and the alpha, at a column of the middle row, of 255. */
function sample({ width, height, planes, encoding }: RawFrame, x: number): { colour: number[]; alpha: number } {
  const deep = encoding.bits > 8;
  const value = (plane: number, y: number): number => {
    const i = y * width + x;
    return deep ? ((planes[plane]![2 * i]! + 256 * planes[plane]![2 * i + 1]!) / 65535) * 255 : planes[plane]![i]!;
  };
  return { colour: [0, 1, 2].map((plane) => value(plane, Math.floor(height / 4))), alpha: value(1, Math.floor((3 * height) / 4)) };
}

test.each(KINDS)('%s with alpha becomes its colours times alpha above, the alpha below', async (_, name, coding, near) => {
  ffmpeg(...RAW, await orange(), ...coding, at(name));
  const own = await mkdtemp(at('own-'));
  const plate = await plateFrom(await probe(at(name)), own);
  expect(plate).toMatchObject({ stacked: true, width: WIDE, height: 2 * HIGH, sound: null });
  expect(plateInfo(plate)).toMatchObject({ stacked: true, lines: HIGH });
  const frame = await decodeOne(plate, 0);
  for (const x of [0, 20, 40, WIDE - 1]) {
    const alpha = x / (WIDE - 1);
    const found = sample(frame, x);
    expect(Math.abs(found.alpha - 255 * alpha)).toBeLessThan(near);
    [220, 110, 30].forEach((v, i) => expect(Math.abs(found.colour[i]! - v * alpha)).toBeLessThan(near + 1));
  }
  await rm(own, { recursive: true });
});

test('a sequence of images with alpha is one, too; footage without any stays as it is, its sound behind', async () => {
  ffmpeg(...RAW, await orange(), at('%06d.png'));
  await Promise.all([1, 2, 3, 4, 5, 6, 7, 8].map(async (n) => writeFile(at(`s${String(n - 1).padStart(6, '0')}.png`), await readFile(at(`${String(n).padStart(6, '0')}.png`)))));
  const sequence = await plateFrom(await probeSequence(at('s%06d.png'), PICTURES, { num: 24, den: 1 }, 'orange'), await mkdtemp(at('own-')));
  expect(sequence).toMatchObject({ stacked: true, frames: PICTURES });
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=64x48:r=24:d=1', '-f', 'lavfi', '-i', 'sine=d=1', at('plain.mp4'));
  const plain = await plateFrom(await probe(at('plain.mp4')), folder);
  expect(plain.stacked).toBeUndefined();
  expect(plain).toMatchObject({ path: at('plain.mp4'), sound: null });
});

test('one whose alpha is 0 everywhere is refused with the reason; one that is black and there is not', async () => {
  ffmpeg('-f', 'lavfi', '-i', 'color=red:s=64x36:r=24:d=0.5,format=rgba,colorchannelmixer=aa=0', '-c:v', 'qtrle', at('clear.mov'));
  const own = await mkdtemp(at('own-'));
  await expect(probe(at('clear.mov')).then((footage) => plateFrom(footage, own))).rejects.toThrow(/its alpha is 0 in every picture/);
  expect(await readdir(own)).toEqual([]);
  // Nearly clear, in one picture alone.
  ffmpeg('-f', 'lavfi', '-i', "color=black:s=64x36:r=24:d=0.5,format=rgba,geq=r=0:g=0:b=0:a='eq(N,7)*eq(X,9)*3'", '-c:v', 'qtrle', at('black.mov'));
  expect(await probe(at('black.mov')).then((footage) => plateFrom(footage, own))).toMatchObject({ stacked: true });
  await rm(own, { recursive: true });
});

test('one of 8K with alpha is brought down to what two pictures together may be, in its shape', async () => {
  ffmpeg('-f', 'lavfi', '-i', 'color=red:s=7680x4320,format=rgba,colorchannelmixer=aa=0.5', '-frames:v', '1', at('large.png'));
  const own = await mkdtemp(at('own-'));
  const plate = await plateFrom(await probe(at('large.png')), own);
  expect(plate.stacked).toBe(true);
  expect(plate.width * plate.height).toBeLessThanOrEqual(50e6);
  expect(plate.width / (plate.height / 2)).toBeCloseTo(7680 / 4320, 2);
  const frame = await decodeOne(plate, 0);
  expect(Math.abs(sample(frame, 100).alpha - 127.5)).toBeLessThan(2.5);
  await rm(own, { recursive: true });
});

test('what is no picture, or is broken, is refused and leaves nothing', async () => {
  await writeFile(at('words.png'), 'no picture');
  await expect(probe(at('words.png')).then((footage) => plateFrom(footage, folder))).rejects.toThrow(/words.png/);
  const own = await mkdtemp(at('own-'));
  ffmpeg(...RAW, await orange(), '-c:v', 'prores_ks', '-profile:v', '4444', '-pix_fmt', 'yuva444p10le', at('cut.mov'));
  const footage = await probe(at('cut.mov'));
  await rm(at('cut.mov'));
  await expect(plateFrom(footage, own)).rejects.toThrow();
  await expect(readFile(join(own, 'plate.mkv'))).rejects.toThrow();
});

describe('reading', () => {
  let counting: Footage;
  beforeAll(async () => {
    // Each picture its own grey.
    const raw = Buffer.concat(Array.from({ length: 40 }, (_, n) => Buffer.alloc(32 * 18 * 3, 20 + 5 * n)));
    await writeFile(at('counting.rgb'), raw);
    ffmpeg('-f', 'rawvideo', '-pix_fmt', 'rgb24', '-s', '32x18', '-r', '24', '-i', at('counting.rgb'), '-c:v', 'ffv1', '-pix_fmt', 'gbrp', at('counting.mkv'));
    counting = await probe(at('counting.mkv'));
  });
  const greys = (frames: { frame: RawFrame }[]): number[] => frames.map(({ frame }) => (frame.planes[0]![0]! - 20) / 5);

  test('on, back, in two places at once: every picture is the one that was asked for', async () => {
    const reader = new PlateReader({ mine: counting });
    for (const pictures of [[0], [1], [1], [5], [39], [0], [1, 30], [2, 31], [3, 32], [20], [39, 0]])
      expect(greys(await reader.read(pictures.map((picture) => ({ plate: 'mine', picture }))))).toEqual(pictures);
    await reader.close();
    await expect(new PlateReader({}).read([{ plate: 'lost', picture: 0 }])).rejects.toThrow(/a plate of the look is not here: lost/);
  });

  test('in a print each picture is as it is alone, through the seam of a loop', async () => {
    ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=96x54:r=25:d=3', '-c:v', 'ffv1', '-pix_fmt', 'gbrp', at('shot.mkv'));
    const footage = await probe(at('shot.mkv'));
    const look = lookOf([{ trait: 'plate', settings: { plate: 'mine', mode: 'screen', seam: 5, to: 1.2, scale: 70, turn: 4 } }]);
    const files = { plates: await platesFor(look, async (id) => (id === 'mine' ? counting : undefined)) };
    await strike({ footage, look, files, file: at('print.mkv'), container: 'mkv' });
    const print = await probe(at('print.mkv'));
    expect(print.frames).toBe(75);
    for (const n of [0, 24, 25, 27, 49, 74]) {
      const [struck, alone] = [await decodeOne(print, n), await renderFrame(footage, look, n, { files })];
      expect(struck.planes.every((plane, i) => Buffer.compare(plane, alone[i]!) === 0)).toBe(true);
    }
  });

  test('a look without its plate is not struck, and says which', async () => {
    const look = lookOf([{ trait: 'plate', settings: { plate: 'a'.repeat(64) } }]);
    await expect(platesFor(look, async () => undefined)).rejects.toThrow(/plate of the look is not here: a{64}/);
  });
});

test('the brightness of each picture is measured: of colours times their alpha, against the mean of the picture itself', async () => {
  const raw = Buffer.concat(Array.from({ length: 12 }, (_, n) => Buffer.alloc(64 * 36 * 3, n === 5 ? 230 : 20 + n)));
  await writeFile(at('flash.rgb'), raw);
  ffmpeg('-f', 'rawvideo', '-pix_fmt', 'rgb24', '-s', '64x36', '-r', '24', '-i', at('flash.rgb'), '-c:v', 'ffv1', '-pix_fmt', 'gbrp', at('flash.mkv'));
  const { light } = await plateFrom(await probe(at('flash.mkv')), folder);
  expect(light).toHaveLength(12);
  light!.forEach((v, n) => expect(Math.abs(v - (n === 5 ? 230 : 20 + n) / 255)).toBeLessThan(0.006));
  ffmpeg(...RAW, await orange(), '-frames:v', '1', '-c:v', 'png', at('half.png'));
  const half = await plateFrom(await probe(at('half.png')), await mkdtemp(at('own-')));
  const whole = (0.2126 * 220 + 0.7152 * 110 + 0.0722 * 30) / 255;
  expect(Math.abs(half.light![0]! - whole / 2)).toBeLessThan(0.02);
});

test('the plates that ship can be read', async () => {
  for (const id of ['drifting-dust', 'paper-grunge', 'leak', 'reel-end-flash', 'gate-on-white', 'countdown']) {
    const plate = await probe(shippedPlateFile(id)!);
    expect(plate.width).toBe(1280);
  }
  expect(shippedPlateFile('nothing')).toBeUndefined();
});
