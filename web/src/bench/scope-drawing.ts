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

/** How dark a place of so many pixels is drawn, as pixels of an ink by their count: few are still seen, many do not drown the rest. */
function inked(ink: Ink, pixels: number, places: number, strength: number): Uint32Array {
  const scale = 215 / Math.log2(1 + (FULL * pixels) / places);
  const colour = word(ink);
  return Uint32Array.from({ length: 256 }, (_, n) => (n === 0 ? 0 : colour | (Math.floor(strength * Math.min(255, 40 + scale * Math.log2(1 + n))) << 24)));
}

const word = ([r, g, b]: Ink): number => (b << 16) | (g << 8) | r;

/** Draws the scopes of one picture after another on the same sheets. */
export class ScopeDrawing {
  private readonly sheets = { Waveform: sheetOf('Waveform'), Parade: sheetOf('Parade'), Vector: sheetOf('Vector'), Histogram: sheetOf('Histogram') };

  /** @param dark 1 with the lights down */
  draw(canvases: Readonly<Record<ScopeName, HTMLCanvasElement | null>>, now: ScopeData, reference: ScopeData | null, dark: 0 | 1): void {
    for (const sheet of Object.values(this.sheets)) sheet.pixels.fill(0);
    const { Waveform, Parade, Vector, Histogram } = this.sheets;
    const ofWave = (ink: Ink): Uint32Array => inked(ink, now.pixels, COLUMNS * LEVELS, 1);
    wave(Waveform, now.waves[0]!, ofWave(INKS.luma[dark]), 0);
    CHANNELS.forEach((channel, i) => wave(Parade, now.waves[i + 1]!, ofWave(INKS[channel][dark]), i * (COLUMNS + GAP)));
    vector(Vector, now.vector, inked(INKS.luma[dark], now.pixels, LEVELS * LEVELS, 1));
    if (reference) {
      const behind = inked(INKS.reference[dark], reference.pixels, COLUMNS * LEVELS, REFERENCE);
      wave(Waveform, reference.waves[0]!, behind, 0);
      CHANNELS.forEach((_, i) => wave(Parade, reference.waves[i + 1]!, behind, i * (COLUMNS + GAP)));
      vector(Vector, reference.vector, inked(INKS.reference[dark], reference.pixels, LEVELS * LEVELS, REFERENCE));
      hill(Histogram, reference.bins[0]!, INKS.reference[dark], 60);
    }
    hill(Histogram, now.bins[0]!, INKS.luma[dark], 60);
    CHANNELS.forEach((channel, i) => ridge(Histogram, now.bins[i + 1]!, INKS[channel][dark]));
    for (const [name, sheet] of Object.entries(this.sheets)) canvases[name as ScopeName]?.getContext('2d')!.putImageData(sheet.image, 0, 0);
  }
}

/** One place inked; what is darker there already stays. */
function mark(pixels: Uint32Array, at: number, ink: number): void {
  if (ink >>> 24 > pixels[at]! >>> 24) pixels[at] = ink;
}

/** A trace of columns of levels, the highest on top. */
function wave({ pixels, image }: Sheet, data: Uint8Array, inks: Uint32Array, from: number): void {
  // Row by row, as the image lies in memory.
  for (let level = 0; level < LEVELS; level++) {
    const row = (LEVELS - 1 - level) * image.width + from;
    for (let c = 0, i = level; c < COLUMNS; c++, i += LEVELS) {
      const v = data[i]!;
      if (v) mark(pixels, row + c, inks[v]!);
    }
  }
}

/** Colour differences, the middle part of them, enlarged. */
function vector({ pixels }: Sheet, data: Uint8Array, inks: Uint32Array): void {
  const scale = 0.5 / REACH;
  const middle = LEVELS / 2;
  const place = Int32Array.from({ length: LEVELS }, (_, i) => Math.round(middle + (i + 0.5 - middle) * scale - 0.5));
  for (let y = 0; y < LEVELS; y++) {
    const row = place[y]!;
    if (row < 0 || row >= LEVELS) continue;
    for (let x = 0; x < LEVELS; x++) {
      const v = data[y * LEVELS + x]!;
      if (!v) continue;
      const column = place[x]!;
      if (column < 0 || column >= LEVELS) continue;
      const ink = inks[v]!;
      mark(pixels, row * LEVELS + column, ink);
      // Enlarged, some steps would leave a gap.
      if (column + 1 < LEVELS) mark(pixels, row * LEVELS + column + 1, ink);
      if (row + 1 < LEVELS) mark(pixels, (row + 1) * LEVELS + column, ink);
      if (column + 1 < LEVELS && row + 1 < LEVELS) mark(pixels, (row + 1) * LEVELS + column + 1, ink);
    }
  }
}

const heightOf = (v: number, height: number): number => Math.round(Math.sqrt(v) * (height - 2));

function hill({ pixels, image }: Sheet, bins: Float32Array, ink: Ink, alpha: number): void {
  const colour = word(ink) | (alpha << 24);
  for (let i = 0; i < BINS; i++) {
    const top = heightOf(bins[i]!, image.height);
    for (let k = 0; k < top; k++) mark(pixels, (image.height - 1 - k) * image.width + i, colour);
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
