import { COLUMNS, LEVELS } from '@tin-ghost/core';
import type { ScopeData } from '../render/protocol';

/** Ink of a trace as red, green, blue: on the pale bench, and with the lights down. */
type Ink = readonly [number, number, number];
export const INKS: Record<'luma' | 'red' | 'green' | 'blue' | 'reference', readonly [Ink, Ink]> = {
  luma: [
    [27, 30, 31],
    [213, 217, 216],
  ],
  red: [
    [140, 47, 37],
    [224, 122, 104],
  ],
  green: [
    [40, 104, 58],
    [120, 190, 134],
  ],
  blue: [
    [44, 76, 140],
    [132, 164, 226],
  ],
  reference: [
    [156, 59, 30],
    [208, 106, 70],
  ],
};
const CHANNELS = ['red', 'green', 'blue'] as const;
/** How strongly the reference's spread shows behind. */
const REFERENCE = 0.42;
/** Room between the parts of the parade, in columns. */
const GAP = 6;
/** The middle part of the vector scope that is drawn: colour differences to this share of full scale each way. */
export const REACH = 0.44;
const BINS = 256;

export const SIZES = {
  Waveform: { width: COLUMNS, height: LEVELS },
  Parade: { width: 3 * COLUMNS + 2 * GAP, height: LEVELS },
  Vector: { width: LEVELS, height: LEVELS },
  Histogram: { width: BINS, height: 64 },
} as const;
export type ScopeName = keyof typeof SIZES;

/** An image whose pixels are written whole, kept from picture to picture. */
interface Sheet {
  readonly image: ImageData;
  readonly pixels: Uint32Array;
}

function sheetOf(name: ScopeName): Sheet {
  const { width, height } = SIZES[name];
  const image = new ImageData(width, height);
  return { image, pixels: new Uint32Array(image.data.buffer) };
}

/** How many pixels at one place are drawn as dark as can be, in those that a place would hold if all were spread evenly. */
const FULL = 24;

/** How dark a place of so many pixels is drawn, 0..255: few are still seen, many do not drown the rest. */
function darkness(pixels: number, places: number, strength: number): Uint8Array {
  const scale = 215 / Math.log2(1 + (FULL * pixels) / places);
  return Uint8Array.from({ length: 256 }, (_, n) => (n === 0 ? 0 : strength * Math.min(255, 40 + scale * Math.log2(1 + n))));
}

const word = ([r, g, b]: Ink): number => (b << 16) | (g << 8) | r;

/** Draws the scopes of one picture after another on the same sheets. */
export class ScopeDrawing {
  private readonly sheets = { Waveform: sheetOf('Waveform'), Parade: sheetOf('Parade'), Vector: sheetOf('Vector'), Histogram: sheetOf('Histogram') };

  /** @param dark 1 with the lights down */
  draw(canvases: Readonly<Record<ScopeName, HTMLCanvasElement | null>>, now: ScopeData, reference: ScopeData | null, dark: 0 | 1): void {
    for (const sheet of Object.values(this.sheets)) sheet.pixels.fill(0);
    const { Waveform, Parade, Vector, Histogram } = this.sheets;
    const ofWave = darkness(now.pixels, COLUMNS * LEVELS, 1);
    wave(Waveform, now.waves[0]!, INKS.luma[dark], ofWave, 0);
    CHANNELS.forEach((channel, i) => wave(Parade, now.waves[i + 1]!, INKS[channel][dark], ofWave, i * (COLUMNS + GAP)));
    vector(Vector, now.vector, INKS.luma[dark], darkness(now.pixels, LEVELS * LEVELS, 1));
    if (reference) {
      const behind = darkness(reference.pixels, COLUMNS * LEVELS, REFERENCE);
      wave(Waveform, reference.waves[0]!, INKS.reference[dark], behind, 0);
      CHANNELS.forEach((_, i) => wave(Parade, reference.waves[i + 1]!, INKS.reference[dark], behind, i * (COLUMNS + GAP)));
      vector(Vector, reference.vector, INKS.reference[dark], darkness(reference.pixels, LEVELS * LEVELS, REFERENCE));
      hill(Histogram, reference.bins[0]!, INKS.reference[dark], 60);
    }
    hill(Histogram, now.bins[0]!, INKS.luma[dark], 60);
    CHANNELS.forEach((channel, i) => ridge(Histogram, now.bins[i + 1]!, INKS[channel][dark]));
    for (const [name, sheet] of Object.entries(this.sheets)) canvases[name as ScopeName]?.getContext('2d')!.putImageData(sheet.image, 0, 0);
  }
}

/** One place inked; what is darker there already stays. */
function mark(pixels: Uint32Array, at: number, ink: number, alpha: number): void {
  if (alpha > pixels[at]! >>> 24) pixels[at] = ink | (alpha << 24);
}

/** A trace of columns of levels, the highest on top. */
function wave({ pixels, image }: Sheet, data: Uint8Array, ink: Ink, shade: Uint8Array, from: number): void {
  const colour = word(ink);
  for (let c = 0; c < COLUMNS; c++) {
    for (let level = 0, at = (LEVELS - 1) * image.width + from + c; level < LEVELS; level++, at -= image.width) {
      const v = data[c * LEVELS + level]!;
      if (v) mark(pixels, at, colour, shade[v]!);
    }
  }
}

/** Colour differences, the middle part of them, enlarged. */
function vector({ pixels }: Sheet, data: Uint8Array, ink: Ink, shade: Uint8Array): void {
  const colour = word(ink);
  const scale = 0.5 / REACH;
  const middle = LEVELS / 2;
  const place = Int32Array.from({ length: LEVELS }, (_, i) => Math.round(middle + (i + 0.5 - middle) * scale - 0.5));
  for (let y = 0; y < LEVELS; y++) {
    const row = place[y]!;
    if (row < 0 || row >= LEVELS) continue;
    for (let x = 0; x < LEVELS; x++) {
      const v = data[y * LEVELS + x]!;
      const column = place[x]!;
      if (!v || column < 0 || column >= LEVELS) continue;
      mark(pixels, row * LEVELS + column, colour, shade[v]!);
      // Enlarged, some steps would leave a gap.
      if (column + 1 < LEVELS) mark(pixels, row * LEVELS + column + 1, colour, shade[v]!);
      if (row + 1 < LEVELS) mark(pixels, (row + 1) * LEVELS + column, colour, shade[v]!);
      if (column + 1 < LEVELS && row + 1 < LEVELS) mark(pixels, (row + 1) * LEVELS + column + 1, colour, shade[v]!);
    }
  }
}

const heightOf = (v: number, height: number): number => Math.round(Math.sqrt(v) * (height - 2));

function hill({ pixels, image }: Sheet, bins: Float32Array, ink: Ink, alpha: number): void {
  const colour = word(ink);
  for (let i = 0; i < BINS; i++) {
    const top = heightOf(bins[i]!, image.height);
    for (let k = 0; k < top; k++) mark(pixels, (image.height - 1 - k) * image.width + i, colour, alpha);
  }
}

function ridge({ pixels, image }: Sheet, bins: Float32Array, ink: Ink): void {
  const colour = word(ink);
  let before = heightOf(bins[0]!, image.height);
  for (let i = 0; i < BINS; i++) {
    const here = heightOf(bins[i]!, image.height);
    for (let k = Math.min(before, here); k <= Math.max(before, here); k++) pixels[(image.height - 1 - k) * image.width + i] = colour | (255 << 24);
    before = here;
  }
}
