/** Prints of each kind, read back: images to the bit, loops, sound, timecode, and the wear alone laid back over its picture. */
import { execFileSync } from 'node:child_process';
import { mkdir, mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, LOOK_SCHEMA, wearAlone, type Look } from '@tin-ghost/core';
import {
  filmOf,
  joinSegments,
  printPoster,
  probe,
  segmentsFor,
  segmentsOf,
  strike,
  strikeSegment,
  WorkError,
  type Coding,
  type Container,
  type FilmOptions,
  type Footage,
} from './index';
import { openZip, list, nameOf } from './zip';

let folder: string;
let footage: Footage;
const SIZE = { width: 256, height: 144 };
const PIXELS = SIZE.width * SIZE.height;
const file = (name: string): string => join(folder, name);
const worn: Look = {
  schema: LOOK_SCHEMA,
  shape: 'carrier',
  name: 'Worn',
  seed: 5,
  lives: [
    {
      carrier: 'super8',
      traits: [
        { trait: 'grain' },
        { trait: 'gate-weave' },
        { trait: 'dust', settings: { count: 40 } },
        { trait: 'scratches' },
        { trait: 'light-leak' },
        { trait: 'gate-frame', settings: { scale: 95, open: 0.2 } },
      ],
    },
  ],
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-formats-'));
  const source = ['-f', 'lavfi', '-i', 'testsrc2=s=256x144:r=24:d=2', '-f', 'lavfi', '-i', 'sine=frequency=440:d=2', '-shortest', '-timecode', '10:00:01:00'];
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...source, file('a.mov')]);
  footage = await probe(file('a.mov'), 'a.mov');
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Pictures of a file as raw pixels, one after the other. */
const raw = (input: readonly string[], format: string): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', ...input, '-pix_fmt', format, '-f', 'rawvideo', 'pipe:1'], { maxBuffer: 1e9, stdio: ['ignore', 'pipe', 'ignore'] });
const described = (path: string) =>
  JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-show_format', '-of', 'json', path], { encoding: 'utf8' }));

/** Strikes a film. @returns its pictures as they went to the encoder, each in one piece */
async function pictures(options: Omit<FilmOptions, 'footage' | 'look'> & { look?: Look; file: string }): Promise<Buffer[]> {
  const seen: Buffer[] = [];
  await strike({ footage, look: worn, threads: 1, ...options, onPicture: (planes) => void seen.push(Buffer.concat(planes)) });
  return seen;
}

/** Made in segments, joined. @returns the file */
async function joined(options: Omit<FilmOptions, 'footage' | 'look'> & { look?: Look }, name: string, seconds?: number): Promise<string> {
  const film = filmOf({ footage, look: worn, ...options });
  const cut = seconds === undefined ? segmentsFor(film) : segmentsOf(film.frames, 24, seconds);
  const segments = cut.map((segment, i) => ({ ...segment, file: file(`${name}.${i}.part`) }));
  for (const segment of segments) await strikeSegment(film, segment, { file: segment.file, threads: 1 });
  await joinSegments(film, { segments, file: file(name), stem: 'last tram' });
  for (const segment of segments) await rm(segment.file);
  return file(name);
}

describe.each<[Container, number, string]>([
  ['png', 8, 'gbrp'],
  ['png', 16, 'gbrp16le'],
  ['tiff', 16, 'gbrp16le'],
])('images as %s of %d bits', (container, bits, format) => {
  test('are numbered as asked, and hold every bit', async () => {
    const ending = container === 'tiff' ? 'tif' : container;
    const out = join(folder, `${container}${bits}`);
    const seen = await pictures({ container, bits, from: 3, to: 6, firstNumber: 998, file: join(out, `tram %04d.${ending}`) });
    const names = (await readdir(out)).sort();
    expect(names).toEqual([`tram 0998.${ending}`, `tram 0999.${ending}`, `tram 1000.${ending}`]);
    // ffmpeg hands these planes on as green, blue, red.
    for (const [i, name] of names.entries()) {
      const plane = seen[i]!.length / 3;
      const [r, g, b] = [0, 1, 2].map((p) => seen[i]!.subarray(p * plane, (p + 1) * plane));
      expect(raw(['-i', join(out, name)], format).equals(Buffer.concat([g!, b!, r!]))).toBe(true);
    }
  });
});

test('images of light hold what the display gives, by its curve, as half floats', async () => {
  const [seen] = await pictures({ container: 'exr', from: 5, to: 6, file: file('one.exr') });
  const codes = new Uint16Array(seen!.buffer, seen!.byteOffset, 3 * PIXELS);
  const light = raw(['-i', file('one.exr')], 'gbrpf32le');
  const red = new Float32Array(light.buffer.slice(light.byteOffset + 8 * PIXELS, light.byteOffset + 12 * PIXELS));
  let worst = 0;
  for (let i = 0; i < PIXELS; i++) worst = Math.max(worst, Math.abs(red[i]! - (codes[i]! / 65_535) ** 2.4) - red[i]! / 1024);
  // Halves end in steps of 2^-24.
  expect(worst).toBeLessThan(1e-6);
  expect(Math.max(...red)).toBeGreaterThan(0.5);
});

test('segments of images become one archive, in order, named and numbered', async () => {
  const path = await joined({ container: 'png', firstNumber: 9_990 }, 'images.zip', 0.7);
  const archive = await openZip(path, path);
  const entries = await list(archive, path, 100);
  archive.close();
  expect(entries.map(nameOf)).toEqual(Array.from({ length: 48 }, (_, n) => `last tram.${String(9_990 + n).padStart(5, '0')}.png`));
  await mkdir(file('out'));
  execFileSync('python3', ['-m', 'zipfile', '-e', path, file('out')]);
  const back = raw(['-start_number', '9990', '-i', join(folder, 'out', 'last tram.%05d.png')], 'gbrp');
  const seen = await pictures({ container: 'png', file: join(folder, 'again', '%04d.png') });
  for (const n of [0, 15, 16, 47]) {
    const [r, g, b] = [0, 1, 2].map((p) => seen[n]!.subarray(p * PIXELS, (p + 1) * PIXELS));
    expect(back.subarray(n * 3 * PIXELS, (n + 1) * 3 * PIXELS).equals(Buffer.concat([g!, b!, r!]))).toBe(true);
  }
  await printPoster({ path, container: 'png', frames: 48, seconds: 2 }, file('images.jpg'));
  expect(described(file('images.jpg')).streams[0]).toMatchObject({ codec_name: 'mjpeg', width: 384, height: 216 });
});

test('one image stands by itself, made in one segment as in one go', async () => {
  const path = await joined({ container: 'png', bits: 16, from: 7, to: 8 }, 'one.png');
  await pictures({ container: 'png', bits: 16, from: 7, to: 8, file: file('alone.png') });
  expect((await readFile(path)).equals(await readFile(file('alone.png')))).toBe(true);
});

test('loops play without end, with every picture; longer ones are refused before anything is made', async () => {
  const gif = await joined({ container: 'gif', from: 0, to: 12 }, 'loop.gif');
  expect(described(gif)).toMatchObject({ streams: [{ codec_name: 'gif', nb_read_frames: '12', ...SIZE }] });
  // The block that tells how often: 0 is without end.
  expect((await readFile(gif)).includes(Buffer.from('NETSCAPE2.0\x03\x01\x00\x00', 'latin1'))).toBe(true);
  const webp = await readFile(await joined({ container: 'webp', quality: 'master', from: 0, to: 12 }, 'loop.webp'));
  const at = webp.indexOf('ANIM');
  expect(webp.readUInt16LE(at + 12)).toBe(0);
  // Seen by a still, though ffmpeg reads no loops of this kind.
  await printPoster({ path: file('loop.webp'), container: 'webp', frames: 12, seconds: 0.5 }, file('webp.jpg'));
  expect(described(file('webp.jpg')).streams[0]).toMatchObject({ codec_name: 'mjpeg', width: 384 });
  // Each is a chunk of its own, but those that look as the one before.
  expect(webp.toString('latin1').split('ANMF').length - 1).toBe(12);
  const long = { ...footage, frames: 700 };
  expect(() => filmOf({ footage: long, look: worn, container: 'gif' })).toThrow('a loop has at most 600 pictures, not 700');
});

test('the sound alone is that of the film, to the sample', async () => {
  const wav = await joined({ container: 'wav', from: 12, to: 36 }, 'sound.wav');
  await pictures({ container: 'mkv', from: 12, to: 36, file: file('film.mkv') });
  expect(described(wav)).toMatchObject({ streams: [{ codec_name: 'pcm_s16le' }], format: { duration: '1.000000' } });
  const samples = (path: string): Int16Array => {
    const pcm = execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-map', 'a', '-f', 's16le', 'pipe:1']);
    return new Int16Array(pcm.buffer.slice(pcm.byteOffset, pcm.byteOffset + pcm.length));
  };
  const [alone, beside] = [samples(wav), samples(file('film.mkv'))];
  expect(alone.length).toBe(beside.length);
  // The film's has more bits.
  expect(alone.every((v, i) => Math.abs(v - beside[i]!) <= 1)).toBe(true);
  expect(Math.max(...alone)).toBeGreaterThan(1000);
  expect(() => filmOf({ footage: { ...footage, sound: null }, look: worn, container: 'wav' })).toThrow(WorkError);
  await expect(printPoster({ path: wav, container: 'wav', frames: 24, seconds: 1 }, file('none.jpg'))).rejects.toThrow('no pictures');
});

test.each<[Container, Coding, string]>([
  ['mov', 'prores', '10:00:01:12'],
  ['mxf', 'dnxhr', '10:00:01:12'],
  ['mp4', 'h264', '10:00:01:12'],
  ['mkv', 'ffv1', '10:00:01:12'],
])('%s tells the timecode of its first picture, of the footage, in one go and joined', async (container, coding, timecode) => {
  await pictures({ container, coding, from: 12, to: 16, file: file(`timed.${container}`) });
  expect((await probe(file(`timed.${container}`))).timecode).toBe(timecode);
  expect((await probe(await joined({ container, coding, from: 12, to: 16 }, `parts.${container}`, 0.1))).timecode).toBe(timecode);
});

test.each([300, 0.4])('at %d fps, which no timecode counts by, a film is made without one', async (rate) => {
  const source = file(`at${rate}.mkv`);
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', `testsrc2=s=96x96:r=${rate}`, '-frames:v', '3', '-c:v', 'ffv1', source]);
  const fast = await probe(source, 'fast.mkv');
  for (const container of ['mp4', 'mov', 'mkv'] as const) {
    const out = file(`of${rate}.${container}`);
    await strike({ footage: fast, look: EMPTY_LOOK, container, file: out, threads: 1 });
    const made = await probe(out);
    expect([made.frames, made.timecode]).toEqual([3, undefined]);
  }
});

test.each([8, 10, 16])('lossless pictures of %d bits say that they are RGB of BT.709, of the full range', async (bits) => {
  const [video] = described(await joined({ container: 'mkv', bits, from: 0, to: 4 }, `tags${bits}.mkv`, 0.1)).streams;
  expect(video).toMatchObject({ color_space: 'gbr', color_primaries: 'bt709', color_transfer: 'bt709', color_range: 'pc' });
});

test('MXF has no place for some rates; it is told, and nothing is made', () => {
  expect(() => filmOf({ footage: { ...footage, rate: { num: 18, den: 1 } }, look: worn, container: 'mxf' })).toThrow('MXF has no place for 18 fps; MOV takes any');
});

describe('the wear alone', () => {
  const range = { from: 4, to: 6 } as const;
  /** Pictures as R'G'B' of the width asked, red first. */
  const rgb = (path: string, format: 'rgb24' | 'rgb48le'): Buffer => raw(['-i', path], format);
  let [clean8, worn8]: Buffer[] = [];
  beforeAll(async () => {
    await pictures({ look: EMPTY_LOOK, container: 'mkv', ...range, file: file('clean.mkv') });
    await pictures({ look: wearAlone(worn).look, container: 'mkv', ...range, file: file('worn.mkv') });
    [clean8, worn8] = [rgb(file('clean.mkv'), 'rgb24'), rgb(file('worn.mkv'), 'rgb24')];
  });

  test('leaves out what moves and colours the picture, and says so', () => {
    const { look, left } = wearAlone(worn);
    expect(left).toEqual(['Gate weave']);
    expect(look.lives[0]!.traits.map(({ trait }) => trait)).toEqual(['grain', 'dust', 'scratches', 'light-leak', 'gate-frame']);
    expect(look.shape).toBe('file');
    let changed = 0;
    for (let i = 0; i < clean8!.length; i++) if (Math.abs(clean8![i]! - worn8![i]!) > 2) changed++;
    expect(changed / clean8!.length).toBeGreaterThan(0.05);
  });

  test('with alpha, laid over its picture by `normal`, is the worn picture within a code of 8 bits', async () => {
    await pictures({ container: 'png', ground: 'alpha', ...range, file: join(folder, 'alpha', '%04d.png') });
    const laid = raw(['-start_number', '4', '-i', join(folder, 'alpha', '%04d.png')], 'rgba');
    let [worst, clear] = [0, 0];
    for (let i = 0; i < 2 * PIXELS; i++) {
      const a = laid[4 * i + 3]! / 255;
      if (a === 0) clear++;
      for (let c = 0; c < 3; c++) worst = Math.max(worst, Math.abs(laid[4 * i + c]! * a + clean8![3 * i + c]! * (1 - a) - worn8![3 * i + c]!));
    }
    expect(worst).toBeLessThanOrEqual(1);
    expect(clear).toBeGreaterThan(0);
  });

  test('over grey, laid by `linear light`, is the worn picture within a code', async () => {
    await pictures({ container: 'mkv', bits: 16, ground: 'grey', ...range, file: file('grey.mkv') });
    const laid = rgb(file('grey.mkv'), 'rgb48le');
    let worst = 0;
    for (let i = 0; i < 6 * PIXELS; i++) worst = Math.max(worst, Math.abs(clean8![i]! + 255 * ((2 * laid.readUInt16LE(2 * i)) / 65_535 - 1) - worn8![i]!));
    expect(worst).toBeLessThanOrEqual(1);
  });

  test.each<[Container, Coding, string[]]>([
    ['mov', 'prores4444', []],
    ['webm', 'vp9', ['-c:v', 'libvpx-vp9']],
  ])('in %s with %s has its alpha, and laid over its picture is near the worn one', async (container, coding, decoder) => {
    // Specks and the frame: of grain as fine as a pixel halved chroma keeps little.
    const look: Look = { ...worn, lives: [{ carrier: 'super8', traits: [{ trait: 'dust', settings: { count: 40, size: 300 } }, { trait: 'gate-frame' }] }] };
    await pictures({ look: wearAlone(look).look, container: 'mkv', ...range, file: file('dusty.mkv') });
    const dusty = rgb(file('dusty.mkv'), 'rgb24');
    await joined({ look, container, coding, quality: 'master', ground: 'alpha', ...range }, `alpha.${container}`);
    await printPoster({ path: file(`alpha.${container}`), container, frames: 2, seconds: 2 / 24, alpha: true }, file('alpha.jpg'));
    // Grey where nothing lies.
    const seen = raw(['-i', file('alpha.jpg')], 'gray');
    expect(Math.abs([...seen].sort((a, b) => a - b)[seen.length >> 1]! - 128)).toBeLessThan(6);
    const laid = raw([...decoder, '-i', file(`alpha.${container}`)], 'rgba');
    let [off, without] = [0, 0];
    for (let i = 0; i < 2 * PIXELS; i++) {
      const a = laid[4 * i + 3]! / 255;
      for (let c = 0; c < 3; c++) {
        off += Math.abs(laid[4 * i + c]! * a + clean8![3 * i + c]! * (1 - a) - dusty[3 * i + c]!);
        without += Math.abs(clean8![3 * i + c]! - dusty[3 * i + c]!);
      }
    }
    expect(off).toBeLessThan(without / 4);
  });

  test('is refused where the coding has no place for alpha', () => {
    expect(() => filmOf({ footage, look: worn, container: 'mp4', ground: 'alpha' })).toThrow('no place for alpha');
    expect(() => filmOf({ footage, look: worn, container: 'webm', bits: 10, ground: 'alpha' })).toThrow('8 bits alone');
    expect(() => filmOf({ footage, look: worn, container: 'exr', ground: 'grey' })).toThrow('do not hold the wear alone');
  });
});

describe('a bit rate that is set', () => {
  const noisy: Look = { ...EMPTY_LOOK, lives: [{ carrier: 'none', traits: [{ trait: 'noise', settings: { amount: 0.2 } }] }] };
  /** Mean Mbit/s of the pictures of a file: the bytes of their packets over the time they last. */
  const measured = (path: string): number => {
    const { packets } = JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-select_streams', 'v', '-show_entries', 'packet=size', '-of', 'json', path], { encoding: 'utf8' })) as {
      packets: { size: string }[];
    };
    return (packets.reduce((sum, { size }) => sum + Number(size), 0) * 8) / (packets.length / 24) / 1e6;
  };

  test.each<[Container, Coding]>([
    ['mp4', 'h264'],
    ['mp4', 'h265'],
    ['webm', 'vp9'],
    ['webm', 'av1'],
  ])('is kept on the mean, %s %s', async (container, coding) => {
    const source = ['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=24:d=3'];
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...source, file('rated.mov')]);
    const longer = await probe(file('rated.mov'), 'rated.mov');
    for (const bitRate of coding === 'h264' ? [0.5, 1.5] : [1.5]) {
      const out = file(`rated-${coding}-${bitRate}.${container}`);
      await strike({ footage: longer, look: noisy, container, coding, bitRate, sound: false, file: out });
      // These pictures take several times as much in the best quality: what is made of them goes by the rate.
      expect(Math.abs(measured(out) / bitRate - 1)).toBeLessThan(0.15);
    }
  });

  test('is refused of a coding that has its own', () => {
    for (const [container, coding] of [
      ['mov', 'prores'],
      ['mkv', 'ffv1'],
      ['gif', 'gif'],
    ] as const)
      expect(() => filmOf({ footage, look: noisy, container, coding, bitRate: 5 })).toThrow(new WorkError(`a bit rate cannot be set for ${coding}`));
  });
});
