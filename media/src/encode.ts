import { pictureCoding, pixelFormat, type CodingOptions } from './codings';
import type { Rate } from './footage';
import { FFMPEG, LOCAL_ONLY, start, type Child } from './process';
import { laidSound, type Sound } from './sound';

export interface EncodeOptions extends CodingOptions {
  readonly rate: Rate;
  /** Whose sound is laid in, one after the other. */
  readonly sound?: readonly Sound[];
  /** ffmpeg's arguments for the kind of file and its sound. */
  readonly fileArgs: readonly string[];
  readonly signal?: AbortSignal;
}

/** Display light of each code of 16 bits (BT.1886 with black at nothing, white at 1), as files of light hold it; made when it is first needed. */
let lights: Float32Array | undefined;

/** A plane of codes as light. */
function lit(plane: Uint8Array): Uint8Array {
  const codes = new Uint16Array(plane.buffer, plane.byteOffset, plane.length >> 1);
  lights ??= Float32Array.from({ length: 65_536 }, (_, code) => (code / 65_535) ** 2.4);
  const light = new Float32Array(codes.length);
  for (let i = 0; i < codes.length; i++) light[i] = lights[codes[i]!]!;
  return new Uint8Array(light.buffer);
}

/** An encoder of 8K that looks ahead holds many pictures. */
const ENCODER_BYTES = 10e9;

/** Takes pictures in order and writes a file. */
export class Encoder {
  private readonly child: Child;

  constructor(private readonly options: EncodeOptions) {
    const { width, height, rate, encoding, coding, sound = [], fileArgs, alpha = false } = options;
    const video = [
      '-f',
      'rawvideo',
      '-pix_fmt',
      coding === 'exr' ? 'gbrpf32le' : pixelFormat(encoding, alpha),
      '-s',
      `${width}x${height}`,
      '-framerate',
      `${rate.num}/${rate.den}`,
      '-color_range',
      encoding.layout === 'rgb' ? 'pc' : 'tv',
      '-i',
      'pipe:0',
    ];
    const { input, maps } = laidSound(sound);
    const args = [...FFMPEG, ...LOCAL_ONLY, ...video, ...input, '-map', '0:v', ...maps, '-map_metadata', '-1', ...pictureCoding(options), ...fileArgs, options.file];
    this.child = start('ffmpeg', args, { signal: options.signal, stallSeconds: 600, memoryBytes: ENCODER_BYTES });
    this.child.stdout.resume();
  }

  /** Hands one picture over; resolves when the next may follow, and the planes are no longer read. Throws as `Child.done` once the program has ended. */
  async write(planes: readonly Uint8Array[]): Promise<void> {
    const order = this.options.encoding.layout === 'rgb' ? [planes[1]!, planes[2]!, planes[0]!, ...planes.slice(3)] : planes;
    const { stdin } = this.child;
    const written = order.map(
      (plane) => new Promise<void>((resolve, reject) => stdin.write(this.options.coding === 'exr' ? lit(plane) : plane, (error) => (error ? reject(error) : resolve()))),
    );
    // Why it takes nothing is told by the program's end.
    const taken = Promise.all(written).catch(() => this.failure());
    await Promise.race([taken, this.failure()]);
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
