import { createReadStream } from 'node:fs';
import { rm, writeFile } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { EMPTY_LOOK } from '@tin-ghost/core';
import { soundInput } from './encode';
import { footageSeconds, type Footage } from './footage';
import { FFMPEG, LOCAL_ONLY, run, start } from './process';
import { printSize, strike } from './strike';

/** Widest preview; the bench never shows a fitted picture larger. */
export const PROXY_WIDTH = 960;
/** Pictures of the filmstrip and their height. */
export const STRIP_PICTURES = 12;
const STRIP_HEIGHT = 54;
const PEAKS = 1200;
const PEAK_RATE = 8000;

/** What is made of footage on its way in; names of files in its folder. */
export const INTAKE_FILES = { proxy: 'proxy.mp4', poster: 'poster.jpg', strip: 'strip.jpg', sound: 'sound.m4a', peaks: 'peaks.json' } as const;

export interface IntakeResult {
  readonly proxyWidth: number;
  readonly proxyHeight: number;
  readonly sound: boolean;
}

/** SHA-256 of a file, as hexadecimal digits. */
export async function hashFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/**
 * Makes the preview of footage: an all-intra proxy, poster, filmstrip, sound and its peaks, in `folder`. The footage is
 * read, never changed. On failure what was made is removed.
 * @param onProgress told the share done, 0 to 1
 */
export async function intake(footage: Footage, folder: string, onProgress: (share: number) => void = () => undefined, signal?: AbortSignal): Promise<IntakeResult> {
  try {
    const scale = Math.min(1, PROXY_WIDTH / footage.width);
    const size = printSize(Math.round(footage.width * scale), Math.round(footage.height * scale), 'proxy');
    const proxy = join(folder, INTAKE_FILES.proxy);
    await strike({ footage, look: EMPTY_LOOK, file: proxy, container: 'proxy', ...size, sound: false, signal, onProgress: (p) => onProgress((0.85 * p.done) / p.total) });
    await pictures(footage, proxy, folder, signal);
    onProgress(0.93);
    const sound = footage.sound ? await listen(footage, folder, signal) : false;
    onProgress(1);
    return { proxyWidth: size.width, proxyHeight: size.height, sound };
  } catch (error) {
    await Promise.all(Object.values(INTAKE_FILES).map((name) => rm(join(folder, name), { force: true })));
    throw error;
  }
}

async function pictures(footage: Footage, proxy: string, folder: string, signal?: AbortSignal): Promise<void> {
  const middle = Math.floor(footage.frames / 3);
  const pick = (n: number): string => `select=eq(n\\,${n})`;
  await run(
    'ffmpeg',
    [...FFMPEG, ...LOCAL_ONLY, '-i', proxy, '-vf', `${pick(middle)},scale=480:-2`, '-frames:v', '1', '-q:v', '3', '-update', '1', join(folder, INTAKE_FILES.poster)],
    { signal, stallSeconds: 300 },
  );
  const every = Math.max(1, Math.floor(footage.frames / STRIP_PICTURES));
  const tiles = `select=not(mod(n\\,${every})),scale=-2:${STRIP_HEIGHT},tile=${STRIP_PICTURES}x1`;
  await run('ffmpeg', [...FFMPEG, ...LOCAL_ONLY, '-i', proxy, '-vf', tiles, '-frames:v', '1', '-q:v', '4', '-update', '1', join(folder, INTAKE_FILES.strip)], {
    signal,
    stallSeconds: 300,
  });
}

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
  const perPart = Math.max(1, (seconds * PEAK_RATE) / PEAKS);
  const peaks = new Array<number>(PEAKS).fill(0);
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
      const part = Math.min(PEAKS - 1, Math.floor(index++ / perPart));
      peaks[part] = Math.max(peaks[part]!, Math.abs(bytes.readInt16LE(i)) / 32768);
    }
  }
  await child.done;
  return peaks.map((p) => Math.round(p * 1000) / 1000);
}
