/** What the strip is drawn from: pictures of all of the footage, and the shape of its sound; and pictures that are seen before there is a proxy. */
import { execFileSync } from 'node:child_process';
import { mkdir, mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import { intake, INTAKE_FILES, proxyPicture, proxySize, stripPictures } from './intake';
import { probe } from './probe';
import { strike } from './strike';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-intake-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Footage that brightens evenly from black to white, and what is made of it. */
async function brightening(frames: number, sound: string[] = []) {
  const place = join(folder, `${frames}`);
  await mkdir(place);
  const file = join(place, 'brightening.mkv');
  const grey = `color=c=black:s=64x48:r=10:d=${frames / 10},format=gray,geq=lum=N*255/${Math.max(1, frames - 1)}`;
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', grey, ...sound, '-shortest', '-c:v', 'ffv1', '-c:a', 'pcm_s16le', file]);
  const footage = await probe(file);
  expect(footage.frames).toBe(frames);
  await intake(footage, place);
  return { place, footage };
}

test.each([5, 23, 100, 900])('a filmstrip of %i frames shows all of the footage, each picture its own part', async (frames) => {
  const { place, footage } = await brightening(frames);
  const count = stripPictures(footage);
  const grey = execFileSync('ffmpeg', ['-v', 'error', '-i', join(place, INTAKE_FILES.strip), '-vf', `scale=${count}:1:flags=area`, '-f', 'rawvideo', '-pix_fmt', 'gray', '-']);
  expect(count).toBe(frames === 5 ? 5 : frames === 900 ? 45 : 12);
  expect(grey).toHaveLength(count);
  grey.forEach((light, i) => expect(Math.abs(light - (255 * Math.ceil((i * frames) / count)) / (frames - 1))).toBeLessThan(8));
  // The poster is the picture a third in.
  const [light] = execFileSync('ffmpeg', ['-v', 'error', '-i', join(place, INTAKE_FILES.poster), '-vf', 'scale=1:1:flags=area', '-f', 'rawvideo', '-pix_fmt', 'gray', '-']);
  expect(Math.abs(light! - (255 * Math.floor(frames / 3)) / (frames - 1))).toBeLessThan(3);
});

test('where the sound fails nothing is left, not of what was being made beside it either', async () => {
  const { place, footage } = await brightening(1000);
  const made = Object.values(INTAKE_FILES);
  expect((await readdir(place)).sort()).toEqual(['brightening.mkv', ...made.filter((name) => ![INTAKE_FILES.sound, INTAKE_FILES.peaks].includes(name as never))].sort());
  // Said to have sound, it has none: that is found long before the filmstrip is there.
  const claimed = { ...footage, sound: { codec: 'pcm_s16le', channels: 2, sampleRate: 48_000 } };
  await expect(intake(claimed, place)).rejects.toThrow();
  expect(await readdir(place)).toEqual(['brightening.mkv']);
  await pause(1000);
  expect(await readdir(place)).toEqual(['brightening.mkv']);
});

test('a click in a minute and a half of sound is one peak, to a twentieth of a second', async () => {
  const click = 'aevalsrc=if(between(t\\,61.5\\,61.502)\\,0.8\\,0):s=48000:d=90';
  const { place } = await brightening(899, ['-f', 'lavfi', '-i', click]);
  const peaks = JSON.parse(await readFile(join(place, INTAKE_FILES.peaks), 'utf8')) as number[];
  expect(peaks.length).toBeGreaterThan(2000);
  const loud = peaks.flatMap((peak, i) => (peak > 0.1 ? [((i + 0.5) / peaks.length) * 89.9] : []));
  expect(loud.length).toBeGreaterThan(0);
  for (const at of loud) expect(Math.abs(at - 61.501)).toBeLessThan(0.05);
});

test.each([
  ['a clip wider than a proxy', ['-f', 'lavfi', '-i', 'testsrc2=s=1280x718:r=25:d=0.4', '-c:v', 'libx264', '-pix_fmt', 'yuv420p'], 'wide.mp4', { width: 960, height: 538 }],
  [
    'fields of 10 bits',
    ['-f', 'lavfi', '-i', 'testsrc2=s=96x64:r=50:d=0.4', '-vf', 'interlace,setfield=tff', '-c:v', 'ffv1', '-pix_fmt', 'yuv422p10le'],
    'fields.mkv',
    { width: 96, height: 64 },
  ],
  ['a still', ['-f', 'lavfi', '-i', 'testsrc2=s=64x48', '-frames:v', '1'], 'still.png', { width: 64, height: 48 }],
] as const)('of %s, any picture is made before there is a proxy, as the proxy is made of it, bit for bit', async (_, args, name, size) => {
  const file = join(folder, name);
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, file]);
  const footage = await probe(file);
  expect(proxySize(footage)).toEqual(size);
  const struck: Buffer[] = [];
  await strike({ footage, look: EMPTY_LOOK, file: `${file}.proxy.mp4`, container: 'proxy', ...size, sound: false, onPicture: (planes) => struck.push(Buffer.concat(planes)) });
  expect(struck).toHaveLength(footage.frames);
  for (const n of [0, 1, footage.frames - 1].filter((one) => one < footage.frames)) {
    const { width, height, encoding, planes } = await proxyPicture(footage, n);
    expect({ width, height }).toEqual(size);
    expect(encoding).toMatchObject({ layout: 'yuv', bits: 8, subX: 1, subY: 1 });
    expect(Buffer.concat(planes).equals(struck[n]!)).toBe(true);
  }
  if (footage.kind === 'clip') expect(struck[0]!.equals(struck[1]!)).toBe(false);
});
