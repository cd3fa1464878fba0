import { once } from 'node:events';
import type { Encoding } from '@tin-ghost/core';
import { codec, type CodingOptions } from './codings';
import type { Footage, Rate } from './footage';
import { fileInput } from './inputs';
import { FFMPEG, LOCAL_ONLY, start, type Child } from './process';

/** Sound of footage from this second of it on, to last this many seconds at a speed (its pitch is kept); silence where the footage has none. */
export interface Sound {
  readonly footage: Footage;
  readonly from: number;
  readonly seconds: number;
  readonly speed?: number;
}

export interface EncodeOptions extends CodingOptions {
  readonly rate: Rate;
  /** Whose sound is laid in, one after the other. */
  readonly sound?: readonly Sound[];
  readonly signal?: AbortSignal;
}

const pixelFormat = (e: Encoding): string => `${e.layout === 'rgb' ? 'gbrp' : e.subY ? 'yuv420p' : 'yuv422p'}${e.bits > 8 ? `${e.bits}le` : ''}`;

/**
 * Arguments that lay the sound of footage beside pictures that begin at its picture `from`: seeks to that time and, where
 * the sound begins late, fills with silence so that it stays in step.
 */
export function soundInput(footage: Footage, from: number, seconds: number, speed = 1): { input: string[]; filter: string[] } {
  const seek = footage.start + from;
  return {
    input: [...(seek > 0.0005 ? ['-ss', seek.toFixed(6)] : []), '-t', (seconds * speed).toFixed(6), ...fileInput(footage.path)],
    filter: ['-af', [...inStep(speed), `atrim=end=${seconds.toFixed(6)}`].join(',')],
  };
}

/** Filters that keep sound in step with its pictures, and go on with silence where it ends. */
const inStep = (speed = 1): string[] => ['aresample=async=1:first_pts=0', ...tempo(speed), 'apad'];

/** Samples a second of sound that is joined. */
const JOINED_RATE = 48_000;

/** Arguments that lay sounds one after the other, each as long as its pictures to the sample, whatever their rates and channels. */
export function joinedSound(sounds: readonly Sound[]): { input: string[]; filter: string[] } {
  const [input, chains, names]: [string[], string[], string[]] = [[], [], []];
  let [at, until, inputs] = [0, 0, 0];
  for (const [i, { footage, from, seconds, speed }] of sounds.entries()) {
    until += seconds;
    const end = Math.round(until * JOINED_RATE);
    const exactly = `atrim=end_sample=${end - at},asetpts=PTS-STARTPTS[s${i}]`;
    at = end;
    names.push(`[s${i}]`);
    if (footage.sound) {
      // The pictures are the first input.
      chains.push(`[${++inputs}:a:0]${inStep(speed).join(',')},aformat=sample_rates=${JOINED_RATE}:channel_layouts=stereo,${exactly}`);
      input.push(...soundInput(footage, from, seconds, speed).input);
    } else chains.push(`anullsrc=r=${JOINED_RATE}:cl=stereo,${exactly}`);
  }
  return { input, filter: ['-filter_complex', `${chains.join(';')};${names.join('')}concat=n=${sounds.length}:v=0:a=1[sound]`] };
}

/** Filters that change the speed of sound; one alone does no less than half. */
function tempo(speed: number): string[] {
  if (speed === 1) return [];
  return speed < 0.5 ? ['atempo=0.5', `atempo=${(speed / 0.5).toFixed(6)}`] : [`atempo=${speed.toFixed(6)}`];
}

/** An encoder of 8K that looks ahead holds many pictures. */
const ENCODER_BYTES = 10e9;

/** Takes pictures in order and writes a file. */
export class Encoder {
  private readonly child: Child;

  constructor(private readonly options: EncodeOptions) {
    const { width, height, rate, encoding, sound = [] } = options;
    const video = [
      '-f',
      'rawvideo',
      '-pix_fmt',
      pixelFormat(encoding),
      '-s',
      `${width}x${height}`,
      '-framerate',
      `${rate.num}/${rate.den}`,
      '-color_range',
      encoding.layout === 'rgb' ? 'pc' : 'tv',
      '-i',
      'pipe:0',
    ];
    const heard = options.coding !== 'png' && options.coding !== 'proxy' && sound.some(({ footage }) => footage.sound);
    const [only] = sound;
    const laid = !heard ? null : sound.length > 1 ? joinedSound(sound) : soundInput(only!.footage, only!.from, only!.seconds, only!.speed);
    const maps = ['-map', '0:v', ...(laid ? ['-map', sound.length > 1 ? '[sound]' : '1:a:0', ...laid.filter] : [])];
    const args = [...FFMPEG, ...LOCAL_ONLY, ...video, ...(laid?.input ?? []), ...maps, '-map_metadata', '-1', ...codec(options), options.file];
    this.child = start('ffmpeg', args, { signal: options.signal, stallSeconds: 600, memoryBytes: ENCODER_BYTES });
    this.child.stdout.resume();
  }

  /** Hands one picture over; resolves when the next may follow. Throws as `Child.done` once the program has ended. */
  async write(planes: readonly Uint8Array[]): Promise<void> {
    const order = this.options.encoding.layout === 'rgb' ? [planes[1]!, planes[2]!, planes[0]!] : planes;
    let free = true;
    for (const plane of order) free = this.child.stdin.write(plane);
    if (!free) await Promise.race([once(this.child.stdin, 'drain').catch(() => undefined), this.failure()]);
    this.child.alive();
  }

  /** Says that no more pictures come, and waits until the file is whole. */
  async finish(): Promise<void> {
    this.child.stdin.end();
    await this.child.done;
  }

  kill(): void {
    this.child.kill();
  }

  private async failure(): Promise<never> {
    await this.child.done;
    throw new Error('the encoder ended before the last picture');
  }
}
