/** Footage of many kinds, made by ffmpeg with known colours, read back through probe and decode. */
import { execFileSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, Plan } from '@tin-ghost/core';
import { decode, decodeOne } from './decode';
import type { Footage } from './footage';
import { newEngine } from './pool';
import { probe } from './probe';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-probe-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

function make(name: string, args: string[]): string {
  const file = join(folder, name);
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, file]);
  return file;
}

/** R'G'B' of a pixel of a picture, 0..255, through the engine. */
async function colourAt(footage: Footage, n: number, x: number, y: number): Promise<number[]> {
  const frame = await decodeOne(footage, n);
  const { width, height } = footage;
  const plan = new Plan(await newEngine(), EMPTY_LOOK, { source: frame, target: { width, height, encoding: 'float' }, rate: 24 });
  return plan.render(0, frame).map((plane) => new Float32Array(plane.buffer, plane.byteOffset)[y * width + x]! * 255);
}

const RED = 'color=c=0xc82828:s=64x48:r=25:d=0.4';
const near = (got: number[], wanted: number[], by = 3): void => got.forEach((v, i) => expect(Math.abs(v - wanted[i]!)).toBeLessThan(by));

describe('colours are read by the file’s matrix, range and depth', () => {
  test.each([
    ['bt709', 'tv', 'yuv420p'],
    ['bt709', 'pc', 'yuv420p'],
    ['bt470bg', 'tv', 'yuv420p'],
    ['bt470bg', 'pc', 'yuv422p'],
    ['bt709', 'tv', 'yuv444p'],
    ['bt709', 'tv', 'yuv420p10le'],
    ['bt709', 'pc', 'yuv422p10le'],
  ])('%s, %s, %s', async (matrix, range, format) => {
    const conversion = `format=gbrp,scale=out_color_matrix=${matrix}:out_range=${range},format=${format}`;
    const file = make(`${matrix}-${range}-${format}.mkv`, ['-f', 'lavfi', '-i', RED, '-vf', conversion, '-c:v', 'ffv1', '-colorspace', matrix, '-color_range', range]);
    const footage = await probe(file);
    expect(footage.encoding).toMatchObject({ matrix: matrix === 'bt709' ? 'bt709' : 'bt601', range: range === 'pc' ? 'full' : 'limited', bits: format.includes('10') ? 10 : 8 });
    near(await colourAt(footage, 3, 30, 20), [200, 40, 40]);
  });

  test('an R’G’B’ file', async () => {
    const footage = await probe(make('rgb.mkv', ['-f', 'lavfi', '-i', RED, '-pix_fmt', 'gbrp', '-c:v', 'ffv1']));
    near(await colourAt(footage, 0, 5, 5), [200, 40, 40]);
  });
});

test('pixels that are all but square are square', async () => {
  // What is left of a shape that a whole number of pixels does not fit.
  const footage = await probe(make('nearly.mkv', ['-f', 'lavfi', '-i', 'testsrc2=s=1920x64:r=25:d=0.2', '-vf', 'setsar=3610/3609', '-c:v', 'ffv1']));
  expect(footage).toMatchObject({ width: 1920, height: 64, stretched: false });
  expect((await decodeOne(footage, 2)).planes[0]!.length).toBe(1920 * 64);
});

test('a rotation flag turns the picture', async () => {
  const upright = make('upright.mp4', ['-f', 'lavfi', '-i', 'color=c=black:s=64x32:r=25:d=0.4,drawbox=0:0:16:32:white:fill', '-c:v', 'libx264', '-pix_fmt', 'yuv420p']);
  const turned = join(folder, 'turned.mp4');
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', upright, '-c', 'copy', '-metadata:s:v', 'rotate=90', turned]);
  const footage = await probe(turned);
  expect([footage.width, footage.height]).toEqual([32, 64]);
  expect([90, 270]).toContain(footage.rotation);
  // Turned clockwise, the white left side of the stored picture is the top of the seen one; the other way its foot.
  const [top, bottom] = [(await colourAt(footage, 0, 16, 5))[0]!, (await colourAt(footage, 0, 16, 58))[0]!];
  const [white, black] = footage.rotation === 90 ? [top, bottom] : [bottom, top];
  expect(white).toBeGreaterThan(220);
  expect(black).toBeLessThan(30);
});

test('pixels that are not square are made so', async () => {
  const footage = await probe(make('anamorphic.mkv', ['-f', 'lavfi', '-i', 'testsrc2=s=720x576:r=25:d=0.2', '-vf', 'setsar=16/15', '-c:v', 'ffv1']));
  expect(footage.stretched).toBe(true);
  expect(footage.width / footage.height).toBeCloseTo((720 * 16) / 15 / 576, 2);
  expect((await decodeOne(footage, 2)).width).toBe(footage.width);
});

test.each([
  [63, 47],
  [1, 1],
  [2, 5],
])('an odd size, %d x %d', async (width, height) => {
  const footage = await probe(
    make(`odd-${width}x${height}.mkv`, ['-f', 'lavfi', '-i', 'color=c=0x28c828:s=128x96:r=25:d=0.2', '-vf', `format=gbrp,crop=${width}:${height}:0:0`, '-c:v', 'ffv1']),
  );
  expect([footage.width, footage.height]).toEqual([width, height]);
  near(await colourAt(footage, 1, width - 1, height - 1), [40, 200, 40]);
});

test('an uneven rate is brought to an even one that lasts as long', async () => {
  // Ten pictures at 25 a second, then ten at 10.
  const file = make('uneven.mkv', ['-f', 'lavfi', '-i', 'testsrc2=s=64x48:r=25:d=0.8', '-vf', "setpts='if(lt(N,10),N/25,0.4+(N-10)/10)/TB'", '-fps_mode', 'vfr', '-c:v', 'ffv1']);
  const footage = await probe(file);
  expect(footage.constantRate).toBe(false);
  expect(footage.frames / (footage.rate.num / footage.rate.den)).toBeCloseTo(1.4, 0);
  let count = 0;
  for await (const frame of decode(footage, { from: 0, to: footage.frames })) count += frame.width === 64 ? 1 : 0;
  expect(count).toBe(footage.frames);
});

test('an interlaced flag is seen and the fields are made whole pictures', async () => {
  const args = [
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=128x96:r=50:d=1',
    '-vf',
    'interlace=scan=tff',
    '-c:v',
    'libx264',
    '-flags',
    '+ilme+ildct',
    '-x264opts',
    'tff=1',
    '-pix_fmt',
    'yuv420p',
  ];
  const footage = await probe(make('fields.mp4', args));
  expect(footage.interlaced).toBe(true);
  expect(footage.frames).toBe(25);
  // A moving comb of lines is what weaving two moments leaves; the rows of a whole picture resemble their neighbours.
  const frame = await decodeOne(footage, 12);
  const luma = frame.planes[0]!;
  let [near1, near2] = [0, 0];
  for (let i = 0; i < 128 * 94; i++) {
    near1 += Math.abs(luma[i]! - luma[i + 128]!);
    near2 += Math.abs(luma[i]! - luma[i + 256]!);
  }
  expect(near1).toBeLessThan(1.25 * near2);
});

test('any picture can be taken alone: it is the one of the sequence', async () => {
  const footage = await probe(make('long.mp4', ['-f', 'lavfi', '-i', 'testsrc2=s=96x64:r=30000/1001:d=3', '-c:v', 'libx264', '-g', '30', '-bf', '3', '-pix_fmt', 'yuv420p']));
  expect(footage.rate).toEqual({ num: 30000, den: 1001 });
  const wanted = new Map<number, Uint8Array>();
  let n = 0;
  for await (const frame of decode(footage, { from: 0, to: footage.frames })) wanted.set(n++, frame.planes[0]!.slice());
  for (const at of [0, 1, 29, 30, 31, 59, footage.frames - 1]) expect((await decodeOne(footage, at)).planes[0]).toEqual(wanted.get(at));
});
