/** A film made in segments is the film made in one go: its pictures, their times, its sound. */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, LOOK_SCHEMA, type Ground, type Look } from '@tin-ghost/core';
import { filmOf, joinSegments, probe, segmentsOf, strike, strikeSegment, WorkError, type Coding, type Container, type Film, type Footage } from './index';

let folder: string;
let footage: Footage;
let silent: Footage;
const file = (name: string): string => join(folder, name);
const look: Look = { schema: LOOK_SCHEMA, shape: 'file', name: 'Worn', seed: 5, lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }, { trait: 'gate-weave' }] }] };

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-segments-'));
  const make = (name: string, ...args: string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, file(name)]);
  make('a.mp4', '-f', 'lavfi', '-i', 'testsrc2=s=256x144:r=24000/1001:d=2', '-f', 'lavfi', '-i', 'sine=frequency=440:d=2', '-shortest');
  make('b.mp4', '-f', 'lavfi', '-i', 'testsrc2=s=256x144:r=25:d=1');
  footage = await probe(file('a.mp4'), 'a.mp4');
  silent = await probe(file('b.mp4'), 'b.mp4');
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const hashOf = (planes: readonly Uint8Array[]): string => planes.reduce((hash, plane) => hash.update(plane), createHash('sha256')).digest('hex');

/** Made in segments of about 16 pictures, the last first. @returns hashes of the pictures as they went to the encoder */
async function inSegments(film: Film, name: string): Promise<string[]> {
  const hashes: string[] = [];
  const segments = segmentsOf(film.frames, 24, 0.7).map((segment, i) => ({ ...segment, file: file(`${name}-it's ${i}`) }));
  expect(segments.length).toBeGreaterThan(2);
  for (const segment of [...segments].reverse()) {
    let at = segment.from;
    await strikeSegment(film, segment, { file: segment.file, threads: 1, onPicture: (planes) => void (hashes[at++] = hashOf(planes)) });
    expect(at).toBe(segment.to);
  }
  await joinSegments(film, { segments, file: file(name) });
  return hashes;
}

/** Times and lengths of the packets of a stream. */
const packets = (path: string, stream: 'v' | 'a'): string =>
  execFileSync('ffprobe', ['-v', 'error', '-select_streams', stream, '-show_entries', 'packet=pts_time,duration_time', '-of', 'csv=p=0', path], { encoding: 'utf8' });
const frameHashes = (path: string, stream: 'v' | 'a'): string[] =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-map', `0:${stream}`, '-f', 'framemd5', '-'], { encoding: 'utf8' })
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => line.split(',').at(-1)!.trim());
const tags = (path: string): object =>
  JSON.parse(
    execFileSync(
      'ffprobe',
      [
        '-v',
        'error',
        '-show_entries',
        'stream=codec_name,profile,pix_fmt,codec_tag_string,color_space,color_transfer,color_primaries,color_range,r_frame_rate,width,height:stream_tags=timecode,alpha_mode:format_tags=timecode',
        '-of',
        'json',
        path,
      ],
      { encoding: 'utf8' },
    ).replaceAll('ALPHA_MODE', 'alpha_mode'),
  );

describe.each<[Container, Coding, boolean, Ground?]>([
  ['mp4', 'h264', false],
  ['mp4', 'h265', false],
  ['webm', 'vp9', false],
  ['webm', 'av1', false],
  ['mov', 'prores', true],
  ['mov', 'dnxhr', true],
  ['mov', 'prores4444', true, 'alpha'],
  ['mxf', 'dnxhr444', true],
  ['mkv', 'ffv1', true],
  ['webm', 'vp9', false, 'alpha'],
])('%s with %s', (container, coding, alone, ground) => {
  test('has the pictures, their times, the sound and the tags of the film made in one go', async () => {
    const film = { footage, look, container, coding, ground, from: 2 };
    const [whole, joined] = [`whole-${coding}${ground ?? ''}.${container}`, `joined-${coding}${ground ?? ''}.${container}`];
    const pictures: string[] = [];
    await strike({ ...film, file: file(whole), onPicture: (planes) => void pictures.push(hashOf(planes)) });
    expect(await inSegments(filmOf(film), joined)).toEqual(pictures);
    expect(new Set(pictures).size).toBeGreaterThan(25);
    expect(packets(file(joined), 'v').trim().split('\n').sort()).toEqual(packets(file(whole), 'v').trim().split('\n').sort());
    expect(frameHashes(file(joined), 'a')).toEqual(frameHashes(file(whole), 'a'));
    expect(tags(file(joined))).toEqual(tags(file(whole)));
    const decoded = frameHashes(file(joined), 'v');
    expect(decoded).toHaveLength(pictures.length);
    // An encoder that looks at other pictures makes other ones where it begins anew; the others make the same bits.
    if (alone) expect(decoded).toEqual(frameHashes(file(whole), 'v'));
  });
});

test('segments go across the shots of a film, and its sound is that of the film made in one go', async () => {
  const film = { footage, look, following: [{ footage: silent, look: EMPTY_LOOK }], container: 'mkv', rate: { num: 24, den: 1 } } as const;
  await strike({ ...film, file: file('whole.mkv') });
  await inSegments(filmOf(film), 'joined.mkv');
  expect(frameHashes(file('joined.mkv'), 'v')).toEqual(frameHashes(file('whole.mkv'), 'v'));
  expect(frameHashes(file('joined.mkv'), 'a')).toEqual(frameHashes(file('whole.mkv'), 'a'));
});

test('a film that lacks pictures is refused, and nothing is left of it', async () => {
  const film = filmOf({ footage, look: EMPTY_LOOK, container: 'mp4' });
  const [first, ...others] = segmentsOf(film.frames, 24, 1).map((segment, i) => ({ ...segment, file: file(`part-${i}`) }));
  for (const segment of others) await strikeSegment(film, segment, { file: segment.file });
  const before = (await readdir(folder)).sort();
  await expect(joinSegments(film, { segments: others, file: file('short.mp4') })).rejects.toThrow(`has ${film.frames - first!.to} pictures where ${film.frames} were made`);
  await expect(joinSegments(film, { segments: [first!, ...others], file: file('short.mp4') })).rejects.toThrow(WorkError);
  expect((await readdir(folder)).sort()).toEqual(before);
});

test.each([
  [1, 24, [[0, 1]]],
  [143, 24, [[0, 143]]],
  [
    300,
    24,
    [
      [0, 150],
      [150, 300],
    ],
  ],
  [86_400, 24, 450],
])('%d pictures at %d fps are cut evenly', (frames, perSecond, expected) => {
  const segments = segmentsOf(frames, perSecond);
  if (typeof expected === 'number') expect(segments).toHaveLength(expected);
  else expect(segments.map(({ from, to }) => [from, to])).toEqual(expected);
  expect(segments[0]!.from).toBe(0);
  expect(segments.at(-1)!.to).toBe(frames);
  for (const [i, segment] of segments.slice(1).entries()) expect(segment.from).toBe(segments[i]!.to);
});
