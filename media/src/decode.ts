import { splitPlanes, type RawFrame } from '@tin-ghost/core';
import { InputError, WorkError, type WorkCode } from './errors';
import { rateValue, type Footage } from './footage';
import { CAREFUL, fileInput } from './inputs';
import { sequenceInput } from './probe';
import { memoryFor, type PictureMemory } from './picture-memory';
import { openPipe } from './pipe';
import { FFMPEG, run, start, type Child } from './process';

export interface DecodeOptions {
  /** First picture, and the one after the last. */
  readonly from: number;
  readonly to: number;
  readonly signal?: AbortSignal;
  /** Where the pictures' memory is taken from, and given back by whoever is done with one. */
  readonly memory?: PictureMemory;
}

/** Containers in which a seek lands on the picture asked for. */
const SEEKABLE = /\b(mov|mp4|matroska|webm)\b/;
/** A deinterlacer looks at the neighbours, so reading begins a little earlier. */
const RUN_IN = 4;

/** Pictures read from the start are skipped in our own reader; where the container allows, ffmpeg seeks. */
function seekPoint(footage: Footage, from: number): number {
  if (footage.kind !== 'clip' || !footage.constantRate || !SEEKABLE.test(footage.format)) return 0;
  return Math.max(0, footage.interlaced ? from - RUN_IN : from);
}

function inputArgs(footage: Footage, at: number): string[] {
  // What cannot be read ends it: passed over, it would shift all that follow.
  if (footage.kind === 'sequence') return ['-xerror', '-err_detect', 'crccheck+explode', ...CAREFUL, ...sequenceInput(footage.rate), '-i', footage.path];
  if (footage.kind === 'still') return fileInput(footage.path);
  const seek = at > 0 ? ['-ss', ((at - 0.5) / rateValue(footage.rate) + footage.start).toFixed(6)] : [];
  return [...seek, ...fileInput(footage.path)];
}

function filters(footage: Footage): string {
  const chain: string[] = [];
  if (footage.interlaced) chain.push('bwdif=mode=send_frame');
  if (footage.stretched) chain.push(`scale=${footage.width}:${footage.height}:flags=bicubic`, 'setsar=1');
  if (!footage.constantRate) chain.push('setpts=PTS-STARTPTS', `fps=${footage.rate.num}/${footage.rate.den}`);
  return chain.length ? chain.join(',') : 'null';
}

/** A file's R'G'B' planes stand in the order green, blue, red. */
function arrange(frame: RawFrame): RawFrame {
  if (frame.encoding.layout !== 'rgb') return frame;
  const [g, b, r] = frame.planes;
  return { ...frame, planes: [r!, g!, b!] };
}

/** Pictures a file may lack at its end before it counts as cut short; they are filled by the last one. */
const FORGIVEN = (frames: number): number => Math.max(2, Math.ceil(frames * 0.01));

/**
 * The pictures `from` to `to` (not included), in order, each in memory of its own. Reads no faster than they are taken.
 * @throws InputError where a picture cannot be read @throws CancelledError
 */
export async function* decode(footage: Footage, options: DecodeOptions): AsyncGenerator<RawFrame, void, void> {
  const { from, to } = options;
  if (!(from >= 0 && to > from && to <= footage.frames)) throw new RangeError(`pictures ${from} to ${to} of ${footage.frames}`);
  const { width, height, encoding } = footage;
  if (footage.kind === 'still') {
    const [picture] = await collect(readPipe(footage, 0, 1, options.signal));
    if (!picture) throw new InputError(footage.path, 'the picture cannot be read');
    for (let n = from; n < to; n++) yield { ...picture, planes: picture.planes.map((p) => p.slice()) };
    return;
  }
  const at = seekPoint(footage, from);
  let n = at;
  let last: RawFrame | undefined;
  try {
    for await (const frame of readPipe(footage, at, to - at, options.signal, options.memory)) {
      // Whoever takes a picture may hand its memory to another thread, so the copy is made first.
      last = to - n <= FORGIVEN(footage.frames) + 1 ? { width, height, encoding, planes: frame.planes.map((p) => p.slice()) } : undefined;
      if (n >= from) yield frame;
      else options.memory?.give(frame.planes);
      n++;
    }
  } catch (error) {
    throw footage.kind === 'sequence' && error instanceof InputError ? await brokenImage(footage, n, to, error, options.signal) : error;
  }
  const missing = to - n;
  if (missing > 0 && footage.kind === 'sequence') throw await brokenImage(footage, n, to, new InputError(footage.path, 'an image is missing', `picture ${n}`, n), options.signal);
  if (missing > 0 && (!last || missing > FORGIVEN(footage.frames)))
    throw new InputError(footage.path, `the file is cut short: of ${footage.frames} pictures only ${n} can be read`, `picture ${n}`);
  for (; n < to; n++) if (n >= from) yield { ...last!, planes: last!.planes.map((p) => p.slice()) };
}

/** The error that names the image of a sequence that cannot be read: the first, from one on, that cannot be decoded alone. */
async function brokenImage(footage: Footage, from: number, to: number, error: InputError, signal?: AbortSignal): Promise<InputError> {
  for (let n = from; n < Math.min(to, from + LOOKED_AT); n++) {
    // The pattern's one number, with the doubled percent signs of its folder made single again.
    const file = footage.path.replace(/%06d(?=[^%]*$)/, String(n).padStart(6, '0')).replaceAll('%%', '%');
    const args = [...FFMPEG, '-xerror', '-err_detect', 'crccheck+explode', ...fileInput(file), '-frames:v', '1', '-f', 'null', '-'];
    const broken = await run('ffmpeg', args, { signal }).then(
      ({ said }) => (said ? 'the image is damaged' : undefined),
      (failure: unknown) => (failure instanceof WorkError ? failure.message : undefined),
    );
    if (broken) return new InputError(footage.path, broken, `picture ${n}`, n);
  }
  return error;
}

/** Threads read ahead by some pictures, so the one that broke lies within these. */
const LOOKED_AT = 64;

async function collect(frames: AsyncIterable<RawFrame>): Promise<RawFrame[]> {
  const out: RawFrame[] = [];
  for await (const frame of frames) out.push(frame);
  return out;
}

async function* readPipe(footage: Footage, at: number, count: number, signal?: AbortSignal, memory = memoryFor(footage)): AsyncGenerator<RawFrame, void, void> {
  const args = [...FFMPEG, ...inputArgs(footage, at), '-map', `0:${footage.stream}`, '-frames:v', String(count), '-vf', filters(footage)];
  const pipe = await openPipe();
  let child: Child;
  try {
    child = start('ffmpeg', [...args, '-fps_mode', 'passthrough', '-pix_fmt', footage.pixelFormat, '-f', 'rawvideo', 'pipe:1'], { signal, stallSeconds: 600, output: pipe.input });
  } catch (error) {
    pipe.close();
    throw error;
  }
  child.stdin.end();
  let ended = false;
  try {
    for await (const picture of pipe.read(
      () => memory.take(),
      () => child.alive(),
    ))
      yield arrange(splitPlanes(picture, footage.width, footage.height, footage.encoding));
    ended = true;
    await child.done.catch((error: unknown) => {
      throw error instanceof WorkError && FOOTAGES_FAULT.has(error.code) ? new InputError(footage.path, error.message) : error;
    });
  } finally {
    if (!ended) child.kill();
  }
}

/** What a decoder fails by that is no fault of the program's or of this machine's. */
const FOOTAGES_FAULT: ReadonlySet<WorkCode> = new Set(['failed', 'no-index']);

/** One picture. Throws as `decode`. */
export async function decodeOne(footage: Footage, n: number, signal?: AbortSignal): Promise<RawFrame> {
  for await (const frame of decode(footage, { from: n, to: n + 1, signal })) return frame;
  throw new InputError(footage.path, 'the picture cannot be read', `picture ${n}`);
}
