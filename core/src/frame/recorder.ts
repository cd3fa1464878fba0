import type { Carrier } from '../carriers';
import type { Engine, Kernels, Store } from '../engine';
import { hash } from '../random/random';
import { lowPassTaps, responseOf } from './fir';
import { RowShift } from './row-shift';
import { floatStride, rowAt, type Surface } from './surface';

/** Megahertz of sampling (ITU-R BT.601). */
const SAMPLING = 13.5;
/** Luma's emphasis: time constant in microseconds, and boost of what is finest as a ratio of amplitudes (14 dB; IEC 60774). */
const EMPHASIS = { microseconds: 1.3, boost: 5 };
/** Emphasised luma is clipped so far below black and above white. */
const CLIP = { low: -0.4, high: 1.6 };
/** The tip of the synchronising pulse below black, against white: 40 units of 100 (525 lines), 300 mV of 700 (625). */
const SYNC_525 = 0.4;
const SYNC_625 = 3 / 7;
/** What the path holds beyond the luma, on either side of the carrier, and how much wider than the luma the playback filter is. */
const BESIDE = 1.2;
const PLAYBACK = 1.3;
const STEEP = 4;
/** RMS of the colour noise that stands where the carrier is gone, and how many samples to either side it is alike: colour's own filter is narrow. */
const COLOUR_NOISE = 0.07;
const COLOUR_ALIKE = 10;
const COLOUR_LEAD = 12;
/** Samples of blanking before what is seen: the demodulator has come to rest when the line begins (five time constants of its de-emphasis). */
const BLANKING = 88;
/** Lines whose filters of one pole run side by side. */
const TOGETHER = 4;

/** Coefficients of a filter of one pole and one zero, as `shelfRow` takes them. */
interface Shelf {
  readonly b0: number;
  readonly b1: number;
  readonly a1: number;
}

/** The emphasis (1 + s T) / (1 + s T / boost) by the bilinear transform. */
function emphasis(): Shelf {
  const zero = 2 * EMPHASIS.microseconds * SAMPLING;
  const pole = zero / EMPHASIS.boost;
  return { b0: (1 + zero) / (1 + pole), b1: (1 - zero) / (1 + pole), a1: (1 - pole) / (1 + pole) };
}

const inverse = ({ b0, b1, a1 }: Shelf): Shelf => ({ b0: 1 / b0, b1: a1 / b0, a1: b1 / b0 });

/** |H|^2 of a shelf at a frequency in cycles a sample. */
function power({ b0, b1, a1 }: Shelf, frequency: number, cos: Kernels['cos']): number {
  const c = cos(2 * Math.PI * frequency);
  return (b0 * b0 + b1 * b1 + 2 * b0 * b1 * c) / (1 + a1 * a1 + 2 * a1 * c);
}

/**
 * What happens to the signal on its way from head to demodulator, for the rows at work: traits of the domain `rf` write to it. How strong the carrier is
 * (1 where it is as recorded), how strong the noise about it (RMS of each of its two parts), and how far a line is displaced, in samples to the right.
 */
export class Channel {
  static readonly STRENGTH = 0;
  static readonly NOISE = 1;
  static readonly SHIFT = 2;
  private readonly store: Store;
  private rows: Surface = { planes: [0, 0, 0], stride: 0, width: 0, height: 0, top: 0, bottom: 0 };
  private touched = [false, false, false];
  /** Rows that have noise already, and those whose strength was changed. */
  private noisy = new Uint8Array(0);
  private weakened = new Uint8Array(0);
  /** A row may be displaced otherwise at one place than at another. */
  bent = false;
  /** Where the carrier is weaker than this, the line before stands in; 0 where nothing does. */
  conceals = 0;

  constructor(private readonly engine: Engine) {
    this.store = engine.store();
  }

  release(): void {
    this.store.release();
  }

  /** A clean signal for the rows of a surface. */
  begin(surface: Surface): void {
    const bytes = (surface.bottom - surface.top) * surface.stride;
    const at = this.store.at(3 * bytes);
    this.rows = { ...surface, planes: [at, at + bytes, at + 2 * bytes] };
    this.engine.kernels.fillRow(at, bytes >> 2, 1);
    this.engine.kernels.fillRow(at + bytes, (2 * bytes) >> 2, 0);
    this.touched = [false, false, false];
    if (this.noisy.length < surface.bottom - surface.top)
      [this.noisy, this.weakened] = [0, 0].map(() => new Uint8Array(surface.bottom - surface.top)) as [Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>];
    this.noisy.fill(0);
    this.weakened.fill(0);
    this.bent = false;
    this.conceals = 0;
  }

  /** The rows as a picture of three planes. */
  get surface(): Surface {
    return this.rows;
  }

  /** Address of a row that is going to be changed. @param plane one of STRENGTH, NOISE, SHIFT */
  row(plane: number, y: number): number {
    this.touched[plane] = true;
    if (plane === Channel.NOISE) this.noisy[y - this.rows.top] = 1;
    if (plane === Channel.STRENGTH) this.weakened[y - this.rows.top] = 1;
    return rowAt(this.rows, plane, y);
  }

  /** Adds noise of an RMS of its own to that which a row has. */
  addNoise(y: number, rms: number): void {
    const k = this.engine.kernels;
    const { width } = this.rows;
    const clean = !this.noisy[y - this.rows.top];
    const row = this.row(Channel.NOISE, y);
    if (clean) {
      k.fillRow(row, width, rms);
      return;
    }
    k.timesRow(row, row, width);
    k.affineRow(row, width, 1, rms * rms);
    k.powRow(row, width, 0.5, 1e-20);
  }

  /** Moves a row to the right, by samples. */
  shift(y: number, samples: number): void {
    this.engine.kernels.affineRow(this.row(Channel.SHIFT, y), this.rows.width, 1, samples);
  }

  /** Whether the carrier of a row may be another than was recorded. */
  isWeak(y: number): boolean {
    return this.weakened[y - this.rows.top] === 1;
  }

  /** Whether anything of a plane may have been changed. */
  changed(plane: number): boolean {
    return this.touched[plane]!;
  }
}

/** A recorder's path for luma: emphasis, clipping, FM, channel, limiter, demodulator, de-emphasis, as complex baseband on each line; and what it does to colour. */
export class RecorderPath {
  readonly channel: Channel;
  /** Of a noise of 1 in the channel, the RMS that is left in luma (white is 1), above the threshold of FM. */
  readonly noiseGain: number;
  private readonly up = emphasis();
  private readonly down = inverse(this.up);
  /** Luma to cycles a sample about the middle of the carrier. */
  private readonly perLuma: number;
  private readonly offset: number;
  private readonly pass: Float32Array;
  private readonly playback: Float32Array;
  private readonly weights: Store;
  private readonly work: Store;
  private readonly above: Store;
  private readonly moved: Store;
  private readonly joined: Store;
  private readonly shift: RowShift;

  constructor(
    private readonly engine: Engine,
    carrier: Carrier,
    private readonly width: number,
  ) {
    const { recorder, raster } = carrier;
    if (!recorder || !raster) throw new RangeError(`${carrier.name} has no recorder`);
    const k = engine.kernels;
    const sync = raster.height > 500 ? SYNC_625 : SYNC_525;
    this.perLuma = (recorder.white - recorder.sync) / (1 + sync) / SAMPLING;
    // About the middle of what is seen, so that both sidebands have room.
    this.offset = -0.5 * this.perLuma;
    this.pass = lowPassTaps((recorder.luma + BESIDE) / SAMPLING, k);
    this.playback = lowPassTaps((recorder.luma * PLAYBACK) / SAMPLING, k, STEEP);
    this.channel = new Channel(engine);
    [this.weights, this.work, this.above, this.moved, this.joined] = [0, 1, 2, 3, 4].map(() => engine.store()) as [Store, Store, Store, Store, Store];
    this.shift = new RowShift(engine, width);
    this.noiseGain = this.gain();
  }

  release(): void {
    for (const thing of [this.channel, this.weights, this.work, this.above, this.moved, this.joined, this.shift]) thing.release();
  }

  /** Luma as it is recorded: the carrier's frequency. Rows in place; colour stays as it is, two parts of its own carrier. */
  record(surface: Surface): void {
    const k = this.engine.kernels;
    this.channel.begin(surface);
    const { b0, b1, a1 } = this.up;
    const together = surface.bottom - ((surface.bottom - surface.top) % TOGETHER);
    for (let y = surface.top; y < together; y += TOGETHER) this.fourJoined(rowAt(surface, 0, y), surface.stride, this.width, (rows) => k.shelfFour(rows, this.width, b0, b1, a1));
    for (let y = together; y < surface.bottom; y++) k.shelfRow(rowAt(surface, 0, y), this.width, b0, b1, a1);
    for (let y = surface.top; y < surface.bottom; y++) {
      const row = rowAt(surface, 0, y);
      k.clampRow(row, this.width, CLIP.low, CLIP.high);
      k.affineRow(row, this.width, this.perLuma, this.offset);
    }
  }

  /** Has something done to four rows, `stride` bytes apart, that stand joined meanwhile: a vector for each column. */
  private fourJoined(row: number, stride: number, count: number, work: (joined: number) => void): void {
    const k = this.engine.kernels;
    const joined = this.joined.at((count + 8) * 4 * TOGETHER);
    k.joinRow(joined, row, stride, count);
    work(joined);
    k.splitRow(row, stride, joined, count);
  }

  /** What is played back of the rows, through the channel as traits have left it. Bands of one picture come in their order. */
  play(surface: Surface, seed: number, picture: number): void {
    const k = this.engine.kernels;
    const { width, channel, pass, playback } = this;
    const reach = Math.max(pass.length >> 1, playback.length >> 1, 1);
    const whole = width + BLANKING;
    const bytes = floatStride(whole + BLANKING + 2 * reach + 32) + 128;
    const work = this.work.at((7 + 2 * TOGETHER) * bytes);
    const [i, q, passedI, passedQ, noise, spare, full] = [0, 1, 2, 3, 4, 5, 6].map((n) => work + n * bytes) as [number, number, number, number, number, number, number];
    const phases = work + 7 * bytes;
    k.fillRow(full, whole, 1);
    const lines = phases + TOGETHER * bytes;
    const [half, lead] = [pass.length >> 1, playback.length >> 1];
    // Both filters are the same from either end: their middles and what is beyond.
    const passWeights = this.weights.floats([...pass.subarray(half), ...playback.subarray(lead)]);
    const playWeights = passWeights + (half + 1) * 4;
    const above = this.above.at(3 * surface.stride);
    const noisy = channel.changed(Channel.NOISE);
    // Room on either side for the filter, and a sample before the first.
    const [ri, rq] = [i + 64 + reach * 4, q + 64 + reach * 4];
    const [pi, pq] = half > 0 ? [passedI + 64, passedQ + 64] : [ri, rq];
    const demodulated = lines + 64 + lead * 4;
    const shifted = channel.changed(Channel.SHIFT);
    const rows = channel.surface;
    /** From the carrier's phase to what the discriminator makes of it. */
    const through = (y: number, phase: number, to: number): void => {
      const weak = channel.isWeak(y);
      if (weak) k.padRow(spare, rowAt(rows, Channel.STRENGTH, y), width, BLANKING);
      k.carrierRow(ri, rq, phase, weak ? spare : full, whole);
      if (noisy) {
        const line = hash(seed, picture, y);
        k.padRow(spare, rowAt(rows, Channel.NOISE, y), width, BLANKING);
        k.whiteRow(noise, whole, line, 0);
        k.addTimesRow(ri, noise, spare, whole);
        k.whiteRow(noise, whole, ~line >>> 0, 0);
        k.addTimesRow(rq, noise, spare, whole);
      }
      k.extendRow(ri, whole, reach);
      k.extendRow(rq, whole, reach);
      if (half > 0) {
        k.bellRow(pi, ri, whole, passWeights, half);
        k.bellRow(pq, rq, whole, passWeights, half);
        k.extendRow(pi, whole, 1);
        k.extendRow(pq, whole, 1);
      }
      k.discriminateRow(to, pi, pq, whole);
      k.affineRow(to, whole, 1 / this.perLuma, -this.offset / this.perLuma);
    };
    for (let top = surface.top; top < surface.bottom; top += TOGETHER) {
      const bottom = Math.min(surface.bottom, top + TOGETHER);
      // Beyond the last line its neighbours' memory runs along for nothing.
      for (let y = top; y < bottom; y++) k.padRow(phases + (y - top) * bytes, rowAt(surface, 0, y), width, BLANKING);
      this.fourJoined(phases, bytes, whole, (four) => k.phaseFour(four, whole));
      for (let y = top; y < bottom; y++) through(y, phases + (y - top) * bytes, demodulated + (y - top) * bytes);
      this.fourJoined(demodulated, bytes, whole, (four) => k.shelfFour(four, whole, this.down.b0, this.down.b1, this.down.a1));
      for (let y = top; y < bottom; y++) {
        const line = demodulated + (y - top) * bytes;
        k.extendRow(line, whole, lead);
        k.bellRow(rowAt(surface, 0, y), line + BLANKING * 4, width, playWeights, lead);
        const strength = rowAt(rows, Channel.STRENGTH, y);
        const planes = [0, 1, 2].map((plane) => rowAt(surface, plane, y));
        if (channel.isWeak(y)) {
          for (const plane of [1, 2]) this.weaken(planes[plane]!, strength, noise, spare, hash(seed, picture, y, 2 + plane));
          if (channel.conceals > 0 && y > 0) planes.forEach((at, plane) => k.concealRow(at, above + plane * surface.stride, strength, width, channel.conceals));
        }
        // What the line below may need: it may be of the next band.
        if (y === surface.bottom - 1 || channel.isWeak(y + 1)) planes.forEach((at, plane) => k.copy(above + plane * surface.stride, at, width * 4));
        if (!shifted) continue;
        for (const at of planes) this.displace(at, rowAt(rows, Channel.SHIFT, y));
      }
    }
  }

  /** Moves a row by what stands in `shifts`, to the right. */
  private displace(row: number, shifts: number): void {
    const k = this.engine.kernels;
    const { width } = this;
    if (this.channel.bent) {
      const before = this.moved.at(floatStride(width) + 64);
      k.copy(before, row, width * 4);
      k.displaceRow(row, before, width, shifts);
      return;
    }
    this.shift.by(row, this.engine.samples[shifts >> 2]!);
  }

  /** Colour sinks with its carrier, and noise comes up in its place. */
  private weaken(row: number, strength: number, noise: number, spare: number, seed: number): void {
    const k = this.engine.kernels;
    const { width } = this;
    k.timesRow(row, strength, width);
    k.whiteRow(spare, width + 2 * COLOUR_LEAD, seed, -COLOUR_LEAD);
    k.boxRow(noise, spare + COLOUR_LEAD * 4, width, COLOUR_ALIKE);
    k.copy(spare, strength, width * 4);
    const scale = COLOUR_NOISE * Math.sqrt(2 * COLOUR_ALIKE + 1);
    k.affineRow(spare, width, -scale, scale);
    k.addTimesRow(row, noise, spare, width);
  }

  /** RMS of luma from the channel's noise: its spectrum after limiter and difference, de-emphasis and playback filter, summed over the band. */
  private gain(): number {
    const { sin, cos } = this.engine.kernels;
    const steps = 512;
    let sum = 0;
    for (let n = 0; n < steps; n++) {
      const f = (n + 0.5) / (2 * steps);
      const turn = (2 * sin(Math.PI * f)) / (2 * Math.PI);
      const through = responseOf(this.pass, f, cos) * responseOf(this.playback, f, cos);
      sum += (turn * through) ** 2 * power(this.down, f, cos);
    }
    return Math.sqrt(sum / steps) / this.perLuma;
  }
}
