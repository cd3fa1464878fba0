import { rm } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { basename, join } from 'node:path';
import { plateIds, shippedPlates, type Look, type PlateAsked, type PlateInfo, type PlanOptions, type PlatePictures, type RawFrame } from '@tin-ghost/core';
import { decode } from './decode';
import { InputError, WorkError } from './errors';
import { LARGEST_PIXELS, LARGEST_SIDE, rateValue, type Footage } from './footage';
import { alphaOf, probe, wholeInput } from './probe';
import { FFMPEG, run } from './process';

/** What a look and a preparation refer to. */
export interface LookFiles extends Pick<PlanOptions, 'tables' | 'fonts'> {
  readonly plates?: Readonly<Record<string, Footage>>;
}

/** What the engine knows of a plate. */
export const plateInfo = ({ width, height, encoding, frames, rate, stacked, light }: Footage): PlateInfo => ({
  light,
  width,
  height,
  encoding,
  lines: stacked ? height / 2 : height,
  frames,
  rate: rateValue(rate),
  stacked: stacked === true,
});

/** What a plan takes of the files of a look. */
export const plannedFiles = ({ tables, fonts, plates }: LookFiles = {}): Pick<PlanOptions, 'tables' | 'fonts' | 'plates'> => ({
  tables,
  fonts,
  ...(plates && { plates: Object.fromEntries(Object.entries(plates).map(([id, footage]) => [id, plateInfo(footage)])) }),
});

const locate = createRequire(import.meta.url);

/** The file of a plate that ships; undefined where there is none of that identity. */
export function shippedPlateFile(id: string): string | undefined {
  const shipped = shippedPlates.find((one) => one.id === id);
  return shipped && locate.resolve(`@tin-ghost/media/plates/${shipped.file}`);
}

/**
 * The plates that a look refers to.
 * @throws WorkError where one is not there: a picture without it would not be what was seen
 */
export async function platesFor(look: Look, find: (id: string) => Promise<Footage | undefined>): Promise<Record<string, Footage>> {
  const found = plateIds(look).map(async (id) => {
    const footage = await find(id);
    if (!footage) throw new WorkError(`a plate of the look is not here: ${id}; bring its file in again, or choose another`);
    return [id, footage] as const;
  });
  return Object.fromEntries(await Promise.all(found));
}

/** Name of what a plate with alpha is turned into. */
const STACKED = 'plate.mkv';

/**
 * Footage as a plate: one with alpha is turned into a clip without, whose pictures hold the colours, times their alpha, above and the alpha below. Its sound stays behind.
 * @param folder where that is written
 * @throws InputError as `probe`
 */
export async function plateFrom(footage: Footage, folder: string, signal?: AbortSignal): Promise<Footage> {
  const alpha = await alphaOf(footage, signal);
  if (!alpha) return { ...footage, sound: null, light: await lightOf(footage, signal) };
  const file = join(folder, STACKED);
  // The two pictures together are no larger than one may be.
  const { width, height } = footage;
  const shrink = Math.min(1, Math.sqrt(LARGEST_PIXELS / (2.02 * width * height)), LARGEST_SIDE / (2.02 * height));
  const side = (v: number): number => Math.max(2, Math.floor(v * shrink));
  const square = footage.stretched || shrink < 1 ? `scale=${side(width)}:${side(height)}:flags=bicubic,setsar=1,` : '';
  const bits = alpha.deep ? '16le' : '';
  // Both halves have even sides, so that colour that is halved stays in its own.
  const filter =
    `[0:${footage.stream}]${square}format=gbrap${bits},pad=ceil(iw/2)*2:ceil(ih/2)*2:color=black@0,split[c][a];` +
    `[a]alphaextract,format=gbrp${bits}[m];[c]premultiply=inplace=1,format=gbrp${bits}[k];[k][m]vstack[v]`;
  const one = footage.kind === 'still' ? ['-frames:v', '1'] : [];
  const coding = ['-c:v', 'ffv1', '-level', '3', '-g', '1', '-slicecrc', '1', '-f', 'matroska', '-y', file];
  try {
    await run('ffmpeg', [...FFMPEG, ...alpha.decoder, ...wholeInput(footage), '-filter_complex', filter, '-map', '[v]', ...one, ...coding], { signal, stallSeconds: 600 });
    const made = { ...(await probe(file, basename(footage.path), signal)), stacked: true, sound: null };
    const light = await lightOf(made, signal);
    // What is black may be there all the same: then its alpha tells.
    if (light.every((v) => v === 0) && (await brightest(made, signal)) === 0)
      throw new InputError(basename(footage.path), 'its alpha is 0 in every picture, so nothing of it would be seen');
    return { ...made, light };
  } catch (error) {
    await rm(file, { force: true });
    throw error;
  }
}

/** A plate is measured this wide: its mean is the same. */
const MEASURED_WIDTH = 64;

/** Mean brightness of each picture, 0 to 1: full scale of 8-bit luma (ITU-R BT.709, limited range). Stills have the same all over. */
async function lightOf(footage: Footage, signal?: AbortSignal): Promise<number[]> {
  const upper = footage.stacked ? 'crop=iw:ih/2:0:0,' : '';
  const filter = `${upper}scale=${MEASURED_WIDTH}:-2:out_range=tv,format=yuv420p,signalstats,metadata=print:key=lavfi.signalstats.YAVG:file=-`;
  const once = footage.kind === 'still' ? ['-frames:v', '1'] : [];
  const { printed } = await run('ffmpeg', [...FFMPEG, ...wholeInput(footage), '-map', `0:${footage.stream}`, '-vf', filter, ...once, '-f', 'null', '-'], {
    signal,
    stallSeconds: 600,
  });
  const found = [...printed.toString().matchAll(/YAVG=([\d.]+)/g)].map(([, value]) => Math.round(1000 * Math.max(0, Math.min(1, (Number(value) - 16) / 219))) / 1000);
  return Array.from({ length: footage.frames }, (_, n) => found[Math.min(n, found.length - 1)] ?? 0);
}

/** The highest alpha in a plate of two pictures, 0 to 255. */
async function brightest(footage: Footage, signal?: AbortSignal): Promise<number> {
  const filter = 'crop=iw:ih/2:0:ih/2,scale=out_range=pc,format=yuvj420p,signalstats,metadata=print:key=lavfi.signalstats.YMAX:file=-';
  const { printed } = await run('ffmpeg', [...FFMPEG, ...wholeInput(footage), '-map', `0:${footage.stream}`, '-vf', filter, '-f', 'null', '-'], { signal, stallSeconds: 600 });
  return [...printed.toString().matchAll(/YMAX=([\d.]+)/g)].reduce((most, [, value]) => Math.max(most, Number(value)), 0);
}

/** A picture of a plate that has been read. */
export interface PlateRead extends PlateAsked {
  readonly frame: RawFrame;
}

/** As a plan takes them. */
export const platesAt =
  (read: readonly PlateRead[]): PlatePictures =>
  (plate, picture) => {
    const found = read.find((one) => one.plate === plate && one.picture === picture);
    if (!found) throw new Error(`picture ${picture} of the plate ${plate} was not read`);
    return found.frame;
  };

/** Reads the pictures of plates in the order a print asks for them: on from the last one, or anew where it goes back. */
export class PlateReader {
  private readonly streams = new Map<
    string,
    { readonly from: AsyncGenerator<RawFrame, void, void>; next: number; last?: { readonly picture: number; readonly frame: RawFrame } }[]
  >();

  constructor(
    private readonly plates: Readonly<Record<string, Footage>>,
    private readonly signal?: AbortSignal,
  ) {}

  /** The pictures asked for; each is the caller's own. */
  async read(asked: readonly PlateAsked[]): Promise<PlateRead[]> {
    const found: PlateRead[] = [];
    for (const { plate, picture } of asked) {
      const frame = await this.picture(plate, picture);
      found.push({ plate, picture, frame: { ...frame, planes: frame.planes.map((p) => p.slice()) } });
    }
    return found;
  }

  async close(): Promise<void> {
    for (const streams of this.streams.values()) for (const { from } of streams) await from.return();
    this.streams.clear();
  }

  private async picture(id: string, n: number): Promise<RawFrame> {
    const footage = this.plates[id];
    if (!footage) throw new WorkError(`a plate of the look is not here: ${id}`);
    const streams = this.streams.get(id) ?? [];
    this.streams.set(id, streams);
    const held = streams.find(({ last }) => last?.picture === n);
    if (held) return held.last!.frame;
    // Two at a time are read where an end runs into a beginning.
    let stream = streams.filter(({ next }) => next <= n && n - next < AHEAD).sort((a, b) => b.next - a.next)[0];
    if (!stream) {
      if (streams.length >= STREAMS) await streams.shift()!.from.return();
      stream = { from: decode(footage, { from: n, to: footage.frames, signal: this.signal }), next: n };
      streams.push(stream);
    }
    while (stream.next <= n) {
      const { value } = await stream.from.next();
      if (!value) throw new InputError(footage.path, 'the plate is cut short', `picture ${n}`);
      stream.last = { picture: stream.next++, frame: value };
    }
    return stream.last!.frame;
  }
}

/** A picture so little ahead is read on to; one farther is sought. */
const AHEAD = 48;
/** A loop with its seam reads in two places, fast motion of two uses in more. */
const STREAMS = 4;
