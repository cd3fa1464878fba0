import { open } from 'node:fs/promises';
import { basename } from 'node:path';
import { readTimecode, type Encoding, type Matrix } from '@tin-ghost/core';
import { InputError, WorkError } from './errors';
import { LARGEST_PIXELS, LARGEST_SIDE, STILL_RATE, STILL_SECONDS, type Footage, type Rate } from './footage';
import { CAREFUL, fileInput, footageFile } from './inputs';
import { run } from './process';

interface Stream {
  index: number;
  codec_type: string;
  codec_name?: string;
  width?: number;
  height?: number;
  pix_fmt?: string;
  color_range?: string;
  color_space?: string;
  field_order?: string;
  sample_aspect_ratio?: string;
  r_frame_rate?: string;
  avg_frame_rate?: string;
  nb_frames?: string;
  channels?: number;
  sample_rate?: string;
  disposition?: { attached_pic?: number };
  tags?: { alpha_mode?: string; ALPHA_MODE?: string; timecode?: string; TIMECODE?: string };
  side_data_list?: { rotation?: number }[];
}

interface Probed {
  streams?: Stream[];
  format?: { format_name?: string; start_time?: string; duration?: string; tags?: { timecode?: string; TIMECODE?: string } };
}

const STILL_FORMAT = /^(image2|.*_pipe)$/;

/**
 * Reads what a file holds.
 * @param path of a file on this machine
 * @param name what to call it in messages; the file's own name by default
 * @throws InputError where there is no footage in it that can be read whole
 */
export async function probe(path: string, name = basename(path), signal?: AbortSignal): Promise<Footage> {
  const file = await footageFile(path, name);
  const found = await describe(fileInput(file), name, signal).catch(async (error: unknown) => {
    // The ending of the name makes ffmpeg look for an index; without the format's mark there is no such file to be cut short.
    if (error instanceof InputError && error.code === 'no-index' && !(await looksLikeMp4(file))) throw new InputError(name, 'no footage that can be read');
    throw error;
  });
  const format = found.format?.format_name ?? '';
  const still = STILL_FORMAT.test(format) && format !== 'gif';
  return footageOf(found, file, name, still ? 'still' : 'clip', signal);
}

/**
 * As `probe`, for numbered images.
 * @param pattern printf pattern such as `/folder/%06d.png`, numbered from 0 @param count how many there are
 */
export async function probeSequence(pattern: string, count: number, rate: Rate, name: string, signal?: AbortSignal): Promise<Footage> {
  const found = await describe([...CAREFUL, ...sequenceInput(rate), '-i', pattern], name, signal);
  return { ...(await footageOf(found, pattern, name, 'sequence', signal)), rate, frames: count };
}

/** Formats of pixels whose name holds no `a` for their alpha. */
const NAMED_ALPHA = /^(yuva|gbrap|ya8|ya16|rgba|bgra|argb|abgr|pal8)/;
/** WebM says so in a tag, and needs the decoder that reads it. */
const WEBM_ALPHA: Readonly<Record<string, string>> = { vp9: 'libvpx-vp9', vp8: 'libvpx' };

/** Arguments that open footage as a whole. */
export const wholeInput = ({ kind, path, rate }: Pick<Footage, 'kind' | 'path' | 'rate'>): string[] =>
  kind === 'sequence' ? [...CAREFUL, ...sequenceInput(rate), '-i', path] : fileInput(path);

/**
 * Whether the pictures of footage have alpha: whether it is finer than 8 bits, and how it is read; undefined where they have none.
 * @throws InputError as `probe`
 */
export async function alphaOf(footage: Footage, signal?: AbortSignal): Promise<{ readonly deep: boolean; readonly decoder: readonly string[] } | undefined> {
  const { streams = [] } = await describe(wholeInput(footage), basename(footage.path), signal);
  const video = streams.find((s) => s.index === footage.stream);
  const says = video?.tags?.alpha_mode ?? video?.tags?.ALPHA_MODE;
  const decoder = says === '1' ? WEBM_ALPHA[video?.codec_name ?? ''] : undefined;
  if (decoder) return { deep: false, decoder: ['-c:v', decoder] };
  const format = video?.pix_fmt ?? '';
  return NAMED_ALPHA.test(format) ? { deep: /(9|1[0-6]|64)(le|be)?$/.test(format), decoder: [] } : undefined;
}

/** Arguments before `-i` for an image sequence. */
export const sequenceInput = (rate: Rate): string[] => ['-f', 'image2', '-framerate', `${rate.num}/${rate.den}`, '-start_number', '0'];

/** ISO 14496-12 files begin with a box, nearly always `ftyp`. */
async function looksLikeMp4(file: string): Promise<boolean> {
  const handle = await open(file);
  try {
    const head = Buffer.alloc(8);
    await handle.read(head, 0, 8, 0);
    return /ftyp|moov|mdat|free|wide|skip/.test(head.toString('latin1', 4, 8));
  } finally {
    await handle.close();
  }
}

async function describe(input: string[], name: string, signal?: AbortSignal): Promise<Probed> {
  try {
    const { printed, said } = await run('ffprobe', ['-v', 'error', '-show_format', '-show_streams', '-of', 'json', ...input], { signal, limitSeconds: DESCRIBE_SECONDS });
    const large = /Picture size (\d+)x(\d+) exceeds/.exec(said);
    if (large) throw tooLarge(name, Number(large[1]), Number(large[2]));
    return JSON.parse(printed.toString()) as Probed;
  } catch (error) {
    if (error instanceof WorkError && error.code !== 'not-installed') throw new InputError(name, error.message, undefined, undefined, error.code);
    throw error;
  }
}

/** A header is read within milliseconds; what takes this long is made to take long. */
const DESCRIBE_SECONDS = 60;

const tooLarge = (name: string, width: number, height: number): InputError =>
  new InputError(name, `its picture is ${width} x ${height}; at most ${LARGEST_SIDE} a side and ${LARGEST_PIXELS / 1e6} megapixels can be worked on`);

async function footageOf(found: Probed, path: string, name: string, kind: Footage['kind'], signal?: AbortSignal): Promise<Footage> {
  const streams = found.streams ?? [];
  const video = streams.find((s) => s.codec_type === 'video' && !s.disposition?.attached_pic);
  if (!video) throw new InputError(name, streams.length ? 'there is no picture in it, only sound or data' : 'there is no picture in it');
  const { width, height } = video;
  if (!width || !height || !video.pix_fmt) throw new InputError(name, 'its picture cannot be read: the file is damaged or its coding is unknown');
  const rotation = (((Math.round((video.side_data_list?.find((d) => d.rotation !== undefined)?.rotation ?? 0) / 90) * -90) % 360) + 360) % 360;
  const seen = displaySize(width, height, video.sample_aspect_ratio, rotation);
  for (const size of [{ width, height }, seen])
    if (Math.max(size.width, size.height) > LARGEST_SIDE || size.width * size.height > LARGEST_PIXELS) throw tooLarge(name, size.width, size.height);
  const audio = streams.find((s) => s.codec_type === 'audio' && s.codec_name);
  const times = kind === 'clip' ? await timing(video, path, name, signal) : { rate: STILL_RATE, constant: true, frames: STILL_SECONDS * STILL_RATE.num, first: 0 };
  const timecode = [...streams, found.format].map((part) => part?.tags?.timecode ?? part?.tags?.TIMECODE).find((text) => text !== undefined && readTimecode(text, times.rate));
  return {
    path,
    kind,
    format: found.format?.format_name ?? '',
    codec: video.codec_name ?? '',
    ...seen,
    rate: times.rate,
    constantRate: times.constant,
    frames: times.frames,
    ...readAs(video, seen.width, seen.height),
    interlaced: ['tt', 'bb', 'tb', 'bt'].includes(video.field_order ?? ''),
    rotation,
    stream: video.index,
    ...(timecode !== undefined && kind === 'clip' && { timecode }),
    start: Math.max(0, times.first - Number(found.format?.start_time ?? 0) || 0),
    sound: audio && kind === 'clip' ? { codec: audio.codec_name!, channels: audio.channels ?? 0, sampleRate: Number(audio.sample_rate ?? 0) } : null,
  };
}

function displaySize(width: number, height: number, aspect: string | undefined, rotation: number): { width: number; height: number; stretched: boolean } {
  const [num, den] = (aspect ?? '1:1').split(':').map(Number) as [number, number];
  const told = num > 0 && den > 0 ? num / den : 1;
  // A thousandth from square is how a whole number of pixels was made to fit some shape.
  const stretched = Math.abs(told - 1) > 0.001;
  const ratio = stretched ? told : 1;
  // The longer way round: pixels are added, never thrown away.
  const wide = ratio >= 1 ? Math.round(width * ratio) : width;
  const high = ratio >= 1 ? height : Math.round(height / ratio);
  return rotation % 180 === 0 ? { width: wide, height: high, stretched } : { width: high, height: wide, stretched };
}

const MATRICES: Record<string, Matrix> = {
  bt709: 'bt709',
  smpte170m: 'bt601',
  bt470bg: 'bt601',
  fcc: 'bt601',
  smpte240m: 'bt709',
  bt2020nc: 'bt2020',
  bt2020c: 'bt2020',
};

/** The layout pictures are read in: the file's own where the kernels know it, else the nearest that loses nothing. */
function readAs(video: Stream, width: number, height: number): { encoding: Encoding; pixelFormat: string } {
  const fmt = video.pix_fmt!;
  const deep = /(?:p0?|gray|rgb|gbrap|gbrp|xyz|bayer.*?|y2)(9|10|12|14|16)(?:le|be)?$/.exec(fmt) ?? /(48|64)(?:le|be)?$/.exec(fmt);
  const named = deep ? Number(deep[1]) : 8;
  const bits = /f(16|32)/.test(fmt) || named > 16 ? 16 : named;
  const suffix = bits > 8 ? `${bits}le` : '';
  const yuv = /^(yuv|yuvj|yuva|nv|p0|p2|p4|uyvy|yuyv|yvyu|y2|ayuv|vuy)/.test(fmt);
  if (!yuv) return { encoding: { layout: 'rgb', bits, subX: 0, subY: 0, matrix: 'bt709', range: 'full' }, pixelFormat: `gbrp${suffix}` };
  const chroma = /444|nv24|nv42|ayuv|vuy|p4/.test(fmt) ? '444' : /422|nv16|uyvy|yuyv|yvyu|p2|y2|411|440|410/.test(fmt) ? '422' : '420';
  const full = video.color_range === 'pc' || fmt.startsWith('yuvj');
  const sd = width <= 1024 && height <= 576;
  return {
    encoding: {
      layout: 'yuv',
      bits,
      subX: chroma === '444' ? 0 : 1,
      subY: chroma === '420' ? 1 : 0,
      matrix: MATRICES[video.color_space ?? ''] ?? (sd ? 'bt601' : 'bt709'),
      range: full ? 'full' : 'limited',
    },
    pixelFormat: bits === 8 && fmt.startsWith('yuvj') ? `yuvj${chroma}p` : `yuv${chroma}p${suffix}`,
  };
}

const COMMON_RATES: Rate[] = [...[15, 16, 18, 24, 25, 30, 48, 50, 60, 120].map((num) => ({ num, den: 1 })), ...[24000, 30000, 60000, 120000].map((num) => ({ num, den: 1001 }))];

/** The fraction of a common rate within 0.1 %, else the number itself in thousandths. */
function asRate(value: number, tolerance = 0.0004): Rate {
  const near = COMMON_RATES.map((rate) => ({ rate, off: Math.abs(rate.num / rate.den / value - 1) })).sort((a, b) => a.off - b.off)[0]!;
  return near.off < tolerance ? near.rate : { num: Math.round(value * 1000), den: 1000 };
}

function fraction(text: string | undefined): number {
  const [num, den] = (text ?? '0/1').split('/').map(Number) as [number, number];
  return den > 0 ? num / den : 0;
}

/** When the pictures come, from the packets themselves: headers are often wrong. */
async function timing(video: Stream, path: string, name: string, signal?: AbortSignal): Promise<{ rate: Rate; constant: boolean; frames: number; first: number }> {
  const args = ['-v', 'error', '-select_streams', String(video.index), '-show_entries', 'packet=pts_time', '-of', 'csv=p=0', ...fileInput(path)];
  const text = await run('ffprobe', args, { signal, stallSeconds: 300 }).catch((error: unknown) => {
    throw error instanceof WorkError ? new InputError(name, error.message) : error;
  });
  const lines = text.printed.toString().split('\n').filter(Boolean);
  const claimed = Number(video.nb_frames ?? 0);
  if (lines.length === 0) throw new InputError(name, 'there is not one picture in it');
  if (claimed > 0 && lines.length < claimed) throw new InputError(name, `the file is cut short: of ${claimed} pictures only ${lines.length} are there`, `picture ${lines.length}`);
  const stated = fraction(video.r_frame_rate) || fraction(video.avg_frame_rate) || 25;
  const times = lines
    .map((line) => Number.parseFloat(line))
    .filter(Number.isFinite)
    .sort((a, b) => a - b);
  if (times.length < 2) return { rate: asRate(stated > 1 && stated <= 240 ? stated : 25), constant: true, frames: lines.length, first: times[0] ?? 0 };
  const first = times[0]!;
  const span = times.at(-1)! - first;
  const average = (times.length - 1) / span;
  // A file that states its rate and keeps to it within its clock's ticks is constant.
  const stately = Math.abs(stated / average - 1) < 0.005 ? stated : average;
  const steady = times.every((t, i) => Math.abs(t - first - i / stately) < Math.max(0.0025, 0.1 / stately));
  const rate = asRate(stately, steady ? 0.0004 : 0.02);
  if (rate.num <= 0) throw new InputError(name, 'its pictures have no times');
  return steady ? { rate, constant: true, frames: times.length, first } : { rate, constant: false, frames: Math.max(1, Math.round(span * (rate.num / rate.den)) + 1), first };
}
