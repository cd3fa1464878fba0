import { carrierById } from '../carriers';
import { LINES_525, LINES_625, RATE_525, type Raster } from '../carriers/carrier';
import { LUMA_WEIGHTS } from '../frame/encoding';
import { valuesOf } from '../look/resolve';
import type { Look } from '../look/look';
import { shownSize } from '../look/shape';
import type { Size } from '../score/size';
import { traitById } from '../traits/known';

/** What is looked at along a line. */
export const LINE_PARTS = { luma: 'Luma', blue: 'B − Y', red: 'R − Y' } as const;
export type LinePart = keyof typeof LINE_PARTS;

/** A line standard as a line scope draws it: times in microseconds from the edge of line sync (ITU-R BT.1700, BT.601), levels in hundredths of white. */
export interface LineStandard {
  readonly name: string;
  readonly raster: Raster;
  /** End of the sync pulse; first and one past the last of the 720 samples; end of the line. */
  readonly pulse: number;
  readonly from: number;
  readonly to: number;
  readonly end: number;
  /** Level of sync. */
  readonly sync: number;
}

const SAMPLES_PER_MICROSECOND = 13.5;
const standard = (name: string, raster: Raster, first: number, sync: number): LineStandard => ({
  name,
  raster,
  pulse: 4.7,
  from: first / SAMPLES_PER_MICROSECOND,
  to: (first + raster.width) / SAMPLES_PER_MICROSECOND,
  end: raster.lineMicroseconds,
  sync,
});
const STANDARD_525 = standard('525 lines', LINES_525, 122, -40);
const STANDARD_625 = standard('625 lines', LINES_625, 132, -43);

/** The standard in which a line of a look's picture is drawn: that of its last raster, else that of the file's rate. */
export function lineStandard(look: Look, rate: number): LineStandard {
  const raster = look.lives.map((life) => carrierById(life.carrier)?.raster).findLast((r) => r !== undefined);
  if (raster) return raster.height === LINES_525.height ? STANDARD_525 : STANDARD_625;
  return Math.abs(rate / RATE_525 - Math.round(rate / RATE_525)) < 0.002 ? STANDARD_525 : STANDARD_625;
}

/** What limits detail along the line in a look, lowest first: recorders, band limits that are on, and the colour carrier. */
export function lineLimits(look: Look): { readonly name: string; readonly megahertz: number }[] {
  const limits = look.lives.flatMap(({ carrier: id, traits }) => {
    const carrier = carrierById(id);
    const of = traits.flatMap((use) => {
      const trait = traitById(use.trait);
      return trait?.limits && use.on !== false ? [trait.limits(valuesOf(trait, use))] : [];
    });
    // Where a band limit stands at the recorder's own, one mark says both.
    const recorder = carrier?.recorder && !of.some(({ megahertz }) => megahertz === carrier.recorder!.luma) ? [{ name: 'recorder', megahertz: carrier.recorder.luma }] : [];
    const subcarrier = carrier?.raster ? [{ name: 'subcarrier', megahertz: carrier.raster.subcarrierMegahertz }] : [];
    return [...of, ...recorder, ...subcarrier];
  });
  const seen = new Set<string>();
  return limits.filter(({ name, megahertz }) => !seen.has(`${name}${megahertz}`) && seen.add(`${name}${megahertz}`)).sort((a, b) => a.megahertz - b.megahertz);
}

/** The row of a picture of this size that is the line at a place, in shares of the height: one of what the look shows, not of its bars. */
export function lineRow(look: Look, size: Size, place: number): number {
  const shown = shownSize(look, size);
  const top = Math.floor((size.height - shown.height) / 2);
  return Math.max(top, Math.min(top + shown.height - 1, Math.floor(place * size.height)));
}

/**
 * A line of a picture of 8-bit RGBA: luma 0 to 1, or a colour difference -1/2 to 1/2 (BT.601).
 * @param row from the top @param left @param count where on the row the picture lies, without bars
 */
export function lineOf(rgba: Uint8Array, width: number, row: number, left: number, count: number, part: LinePart): Float32Array {
  const { kr, kb } = LUMA_WEIGHTS.bt601;
  const out = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const at = (row * width + left + i) * 4;
    const [r, g, b] = [rgba[at]! / 255, rgba[at + 1]! / 255, rgba[at + 2]! / 255];
    const y = kr * r + (1 - kr - kb) * g + kb * b;
    out[i] = part === 'luma' ? y : part === 'blue' ? (b - y) / (2 * (1 - kb)) : (r - y) / (2 * (1 - kr));
  }
  return out;
}

/** Points of a chart, one after the other: across, up, across, up. Many a second are made, and an array for each would have to be cleared away again. */
export type Points = Float64Array;

/** A line as a scope draws it: microseconds and hundredths of white, with sync and blanking before and after. */
export function lineTrace(samples: Float32Array, { pulse, from, to, end, sync }: LineStandard, part: LinePart): Points {
  const step = (to - from) / samples.length;
  const [before, after] =
    part === 'luma'
      ? [
          [0, 0, 0, sync, pulse, sync, pulse, 0, from, 0],
          [to, 0, end, 0],
        ]
      : [[], []];
  const points = new Float64Array(before.length + 2 * samples.length + after.length);
  points.set(before);
  for (let i = 0; i < samples.length; i++) {
    points[before.length + 2 * i] = from + (i + 0.5) * step;
    points[before.length + 2 * i + 1] = 100 * samples[i]!;
  }
  points.set(after, points.length - after.length);
  return points;
}

/** Spectra end here: half of 13.5 MHz, beyond which a line of 720 samples holds nothing. */
export const HIGHEST_MEGAHERTZ = SAMPLES_PER_MICROSECOND / 2;
const FAINTEST = 1e-5;

/**
 * What frequencies are in a line, in dB against a sine of full range. Hann's window, so that a line's ends do not show as detail.
 * @returns megahertz and dB, up to `HIGHEST_MEGAHERTZ`
 */
export function lineSpectrum(samples: Float32Array, { from, to }: LineStandard): Points {
  const count = samples.length;
  let size = 1;
  while (size < count * 2) size *= 2;
  const [re, im] = [new Float64Array(size), new Float64Array(size)];
  const mean = samples.reduce((a, b) => a + b, 0) / count;
  for (let i = 0; i < count; i++) re[i] = (samples[i]! - mean) * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / count));
  transform(re, im);
  const bin = count / (to - from) / size;
  const points = new Float64Array(2 * Math.min(size / 2 - 1, Math.floor(HIGHEST_MEGAHERTZ / bin)));
  for (let i = 0; 2 * i < points.length; i++) {
    // A sine of full range has an amplitude of one half; the window passes half of it.
    const amplitude = (2 * Math.hypot(re[i + 1]!, im[i + 1]!)) / (count / 2);
    points[2 * i] = (i + 1) * bin;
    points[2 * i + 1] = 20 * Math.log10(Math.max(FAINTEST, 2 * amplitude));
  }
  return points;
}

/** Fourier's transform in place, of a power of two (Cooley and Tukey). */
function transform(re: Float64Array, im: Float64Array): void {
  const n = re.length;
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j]!, re[i]!];
      [im[i], im[j]] = [im[j]!, im[i]!];
    }
  }
  for (let size = 2; size <= n; size *= 2) {
    const half = size >> 1;
    for (let k = 0; k < half; k++) {
      const c = Math.cos((-2 * Math.PI * k) / size);
      const s = Math.sin((-2 * Math.PI * k) / size);
      for (let i = k; i < n; i += size) {
        const tr = re[i + half]! * c - im[i + half]! * s;
        const ti = re[i + half]! * s + im[i + half]! * c;
        re[i + half] = re[i]! - tr;
        im[i + half] = im[i]! - ti;
        re[i] = re[i]! + tr;
        im[i] = im[i]! + ti;
      }
    }
  }
}
