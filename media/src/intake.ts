import { createReadStream } from 'node:fs';
import { rm, writeFile } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { EMPTY_LOOK, type RawFrame } from '@tin-ghost/core';
import { encodingFor, usualDepth } from './codings';
import { renderFrame } from './frame';
import { soundInput } from './sound';
import { footageSeconds, rateValue, type Footage } from './footage';
import { CAREFUL } from './inputs';
import { FFMPEG, run, start } from './process';
import { printSize } from './film-canvas';
import { strike } from './strike';

/** Widest and tallest preview; the bench never shows a fitted picture larger. */
export const PROXY_WIDTH = 960;
const PROXY_HEIGHT = 2160;
const POSTER = { width: 480, height: 480 };
/** Pictures of the filmstrip: one in so many seconds, in an hour as many as an image may be wide. */
const STRIP_SECONDS = 2;
const STRIP_PICTURES = { least: 12, most: 160 };
const STRIP_HEIGHT = 54;
const STRIP_WIDTH = 160;
/** Parts of the sound of which the peak is kept: so many a second, so that its shape is still there when a minute of an hour fills the strip. */
const PEAKS_A_SECOND = 25;
const PEAKS = { least: 1200, most: 60_000 };
const PEAK_RATE = 8000;

/** What is made of footage on its way in; names of files in its folder. */
export const INTAKE_FILES = { proxy: 'proxy.mp4', poster: 'poster.jpg', strip: 'strip.jpg', sound: 'sound.m4a', peaks: 'peaks.json' } as const;

/** SHA-256 of files one after the other, as hexadecimal digits. */
export async function hashFiles(paths: readonly string[]): Promise<string> {
  const hash = createHash('sha256');
  for (const path of paths) for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/**
 * One picture of footage as its proxy has it, before that is coded: it needs no proxy, so that it can be seen as soon as the footage has been read.
 * Throws as `decode`.
 */
export async function proxyPicture(footage: Footage, n: number, signal?: AbortSignal): Promise<RawFrame> {
  const size = proxySize(footage);
  const encoding = encodingFor('proxy', usualDepth('proxy'));
  return { ...size, encoding, planes: await renderFrame(footage, EMPTY_LOOK, n, { size, encoding, signal }) };
}

/**
 * Makes the preview of footage: an all-intra proxy, poster, filmstrip, sound and its peaks, in `folder`. The footage is
 * read, never changed. On failure what was made is removed.
 * @param onProgress told the share done, 0 to 1 @param threads to render with; as many as there are cores without
 * @returns whether there is sound to be heard
 */
export async function intake(
  footage: Footage,
  folder: string,
  onProgress: (share: number) => void = () => undefined,
  { signal, threads }: { readonly signal?: AbortSignal; readonly threads?: number } = {},
): Promise<boolean> {
  try {
    const size = proxySize(footage);
    const proxy = join(folder, INTAKE_FILES.proxy);
    await strike({ footage, look: EMPTY_LOOK, file: proxy, container: 'proxy', ...size, sound: false, signal, threads, onProgress: (p) => onProgress((0.85 * p.done) / p.total) });
    const [, , sound] = await allEnded([
      poster(footage, size, proxy, folder, signal),
      strip(footage, size, proxy, folder, signal).then(() => onProgress(0.93)),
      footage.sound ? listen(footage, folder, signal) : false,
    ]);
    onProgress(1);
    return sound;
  } catch (error) {
    await Promise.all(Object.values(INTAKE_FILES).map((name) => rm(join(folder, name), { force: true })));
    throw error;
  }
}

/** The size of a picture that fits into a box, no larger than it is, in even sides: thin footage stays at least two pixels thin. */
function within({ width, height }: { width: number; height: number }, most: number, tallest: number): { width: number; height: number } {
  const scale = Math.min(1, most / width, tallest / height);
  return printSize(Math.round(width * scale), Math.round(height * scale), 'proxy');
}

/** The size of the proxy of footage. Of a plate that holds two pictures each stays whole. */
export function proxySize(footage: Footage): { width: number; height: number } {
  if (!footage.stacked) return within(footage, PROXY_WIDTH, PROXY_HEIGHT);
  const half = within({ width: footage.width, height: footage.height / 2 }, PROXY_WIDTH, PROXY_HEIGHT / 2);
  return { width: half.width, height: 2 * half.height };
}

/** What of a proxy is seen, and its size: of a plate with alpha its colours, on black. */
function seenOf(footage: Footage, size: { width: number; height: number }): { width: number; height: number; crop: string } {
  return footage.stacked ? { width: size.width, height: size.height / 2, crop: 'crop=iw:ih/2:0:0,' } : { ...size, crop: '' };
}

const limits = (signal?: AbortSignal) => ({ signal, stallSeconds: 300, limitSeconds: 1800 });
const image = (quality: number, file: string): string[] => ['-frames:v', '1', '-q:v', String(quality), '-update', '1', '-f', 'image2', file];

async function poster(footage: Footage, size: { width: number; height: number }, proxy: string, folder: string, signal?: AbortSignal): Promise<void> {
  const middle = Math.floor(footage.frames / 3);
  const { crop, ...shown } = seenOf(footage, size);
  const { width, height } = within(shown, POSTER.width, POSTER.height);
  // Every picture of a proxy is whole in itself, so that only the one that is seen is decoded.
  const moment = ['-ss', ((Math.max(0.25, middle) - 0.25) / rateValue(footage.rate)).toFixed(6)];
  await run('ffmpeg', [...FFMPEG, ...moment, ...CAREFUL, '-i', proxy, '-vf', `${crop}scale=${width}:${height}`, ...image(3, join(folder, INTAKE_FILES.poster))], limits(signal));
}

async function strip(footage: Footage, size: { width: number; height: number }, proxy: string, folder: string, signal?: AbortSignal): Promise<void> {
  const count = stripPictures(footage);
  const { crop, ...shown } = seenOf(footage, size);
  const { width, height } = within(shown, STRIP_WIDTH, STRIP_HEIGHT);
  // The first picture of each of equal parts; of an hour's many only those are decoded.
  const part = (n: string): string => `floor(${n}*${count}/${footage.frames})`;
  const few = join(folder, 'few.mkv');
  try {
    const others = `noise=drop=not(gt(${part('n')}\\,${part('(n-1)')}))`;
    await run('ffmpeg', [...FFMPEG, ...CAREFUL, '-i', proxy, '-map', '0:v', '-c', 'copy', '-bsf:v', others, '-f', 'matroska', '-y', few], limits(signal));
    const tiles = `${crop}scale=${width}:${height},tile=${count}x1`;
    await run('ffmpeg', [...FFMPEG, ...CAREFUL, '-i', few, '-vf', tiles, '-fps_mode', 'passthrough', ...image(4, join(folder, INTAKE_FILES.strip))], limits(signal));
  } finally {
    await rm(few, { force: true });
  }
}

/** What several works gave, once all have ended, also where one fails: none is still writing when what was made is removed. */
async function allEnded<T extends readonly unknown[]>(works: T): Promise<{ -readonly [K in keyof T]: Awaited<T[K]> }> {
  await Promise.allSettled(works);
  return Promise.all(works);
}

const clamp = (n: number, { least, most }: { least: number; most: number }): number => Math.round(Math.max(least, Math.min(most, n)));

/** How many pictures the filmstrip of footage has. */
export const stripPictures = (footage: Footage): number => Math.min(footage.frames, clamp(footageSeconds(footage) / STRIP_SECONDS, STRIP_PICTURES));

/** Sound for the preview, in step with the first picture, and its peaks. False where the sound cannot be read. */
async function listen(footage: Footage, folder: string, signal?: AbortSignal): Promise<boolean> {
  const seconds = footageSeconds(footage);
  const { input, filter } = soundInput(footage, 0, seconds);
  const track = [...FFMPEG, ...input, '-map', '0:a:0', ...filter];
  await run('ffmpeg', [...track, '-c:a', 'aac', '-b:a', '160k', '-movflags', '+faststart', '-f', 'mp4', join(folder, INTAKE_FILES.sound)], { signal, stallSeconds: 600 });
  const peaks = await soundPeaks([...track, '-ac', '1', '-ar', String(PEAK_RATE), '-f', 's16le', 'pipe:1'], seconds, signal);
  await writeFile(join(folder, INTAKE_FILES.peaks), JSON.stringify(peaks));
  return true;
}

/** Largest sample (0..1) in each of equal parts of the sound. */
async function soundPeaks(args: string[], seconds: number, signal?: AbortSignal): Promise<number[]> {
  const parts = clamp(seconds * PEAKS_A_SECOND, PEAKS);
  const perPart = Math.max(1, (seconds * PEAK_RATE) / parts);
  const peaks = new Array<number>(parts).fill(0);
  const child = start('ffmpeg', args, { signal, stallSeconds: 600 });
  child.stdin.end();
  let index = 0;
  let odd: number | undefined;
  for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
    child.alive();
    const bytes = odd === undefined ? chunk : Buffer.concat([Buffer.from([odd]), chunk]);
    const even = bytes.length & ~1;
    odd = bytes.length > even ? bytes[even] : undefined;
    for (let i = 0; i < even; i += 2) {
      const part = Math.min(parts - 1, Math.floor(index++ / perPart));
      peaks[part] = Math.max(peaks[part]!, Math.abs(bytes.readInt16LE(i)) / 32768);
    }
  }
  await child.done;
  return peaks.map((p) => Math.round(p * 1000) / 1000);
}
