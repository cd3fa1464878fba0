import { COLUMNS, LEVELS } from '@tin-ghost/core';
import type { ScopeData } from '../../render/protocol';

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

/** Places of a waveform, and of the vector scope. */
const PLACES = LEVELS * COLUMNS;

/** How dark a place is drawn, as pixels of an ink by the count there: few are still seen, many do not drown the rest. @param pixels counted in all */
function inked(ink: Ink, pixels: number, strength: number): Uint32Array {
  const scale = 215 / Math.log2(1 + (FULL * pixels) / PLACES);
  const colour = word(ink);
  return Uint32Array.from({ length: 256 }, (_, n) => (n === 0 ? 0 : colour | (Math.floor(strength * Math.min(255, 40 + scale * Math.log2(1 + n))) << 24)));
}

const word = ([r, g, b]: Ink): number => (b << 16) | (g << 8) | r;

type Sheets = Readonly<Record<ScopeName, Sheet>>;
const newSheets = (): Sheets => ({ Waveform: sheetOf('Waveform'), Parade: sheetOf('Parade'), Vector: sheetOf('Vector'), Histogram: sheetOf('Histogram') });

/** Draws the scopes of one picture after another on the same sheets. */
export class ScopeDrawing {
  /** From picture to picture the same inks are wanted again. */
  private readonly inks = new Map<string, Uint32Array>();
  private readonly sheets = newSheets();
  /** What lies behind, drawn once for all pictures. */
  private behind: { readonly of: ScopeData; readonly dark: 0 | 1; readonly sheets: Sheets } | undefined;

  /** @param dark 1 with the lights down */
  draw(canvases: Readonly<Record<ScopeName, HTMLCanvasElement | null>>, now: ScopeData, reference: ScopeData | null, dark: 0 | 1): void {
    const luma = this.inksOf(INKS.luma[dark], now, 1);
    wave(this.sheets.Waveform, now.waves[0]!, luma, 0);
    CHANNELS.forEach((channel, i) => wave(this.sheets.Parade, now.waves[i + 1]!, this.inksOf(INKS[channel][dark], now, 1), i * (COLUMNS + GAP)));
    vector(this.sheets.Vector, now.vector, luma);
    hill(this.sheets.Histogram, now.bins[0]!, INKS.luma[dark], HILL);
    if (reference) for (const [name, sheet] of Object.entries(this.behindOf(reference, dark))) layBehind(this.sheets[name as ScopeName].pixels, sheet.pixels);
    CHANNELS.forEach((channel, i) => ridge(this.sheets.Histogram, now.bins[i + 1]!, INKS[channel][dark]));
    for (const [name, sheet] of Object.entries(this.sheets)) canvases[name as ScopeName]?.getContext('2d')!.putImageData(sheet.image, 0, 0);
  }

  private behindOf(reference: ScopeData, dark: 0 | 1): Sheets {
    if (this.behind?.of !== reference || this.behind.dark !== dark) {
      const sheets = newSheets();
      const inks = this.inksOf(INKS.reference[dark], reference, REFERENCE);
      wave(sheets.Waveform, reference.waves[0]!, inks, 0);
      CHANNELS.forEach((_, i) => wave(sheets.Parade, reference.waves[i + 1]!, inks, i * (COLUMNS + GAP)));
      vector(sheets.Vector, reference.vector, inks);
      hill(sheets.Histogram, reference.bins[0]!, INKS.reference[dark], HILL);
      this.behind = { of: reference, dark, sheets };
    }
    return this.behind.sheets;
  }

  private inksOf(ink: Ink, { pixels }: ScopeData, strength: number): Uint32Array {
    const key = `${word(ink)},${pixels},${strength}`;
    let made = this.inks.get(key);
    if (!made) this.inks.set(key, (made = inked(ink, pixels, strength)));
    return made;
  }
}

// All of a sheet is written with every picture, in the order in which it lies in memory.

/** A waveform, from a column of the sheet on. */
function wave({ pixels, image: { width } }: Sheet, counts: Uint8Array, inks: Uint32Array, from: number): void {
  for (let level = 0, i = 0; level < LEVELS; level++) {
    const end = level * width + from + COLUMNS;
    for (let at = level * width + from; at < end; at++, i++) pixels[at] = inks[counts[i]!]!;
  }
}

/** For each place of the vector scope, whose middle part is drawn enlarged, the step of a colour difference that stands there. */
const STEPS = Int32Array.from({ length: LEVELS }, (_, place) => Math.round(LEVELS / 2 + (place + 0.5 - LEVELS / 2) * 2 * REACH - 0.5));

/** Colour differences. */
function vector({ pixels }: Sheet, counts: Uint8Array, inks: Uint32Array): void {
  for (let y = 0, at = 0; y < LEVELS; y++) {
    const row = STEPS[y]! * LEVELS;
    for (let x = 0; x < LEVELS; x++, at++) pixels[at] = inks[counts[row + STEPS[x]!]!]!;
  }
}

/** Lays what is darker behind over what is on a sheet. */
function layBehind(pixels: Uint32Array, behind: Uint32Array): void {
  for (let i = 0; i < pixels.length; i++) if (behind[i]! >>> 24 > pixels[i]! >>> 24) pixels[i] = behind[i]!;
}

/** How dark a filled histogram is, of 255. */
const HILL = 60;

const heightOf = (v: number, height: number): number => Math.round(Math.sqrt(v) * (height - 2));

function hill({ pixels, image: { height } }: Sheet, bins: Float32Array, ink: Ink, alpha: number): void {
  const colour = word(ink) | (alpha << 24);
  const tops = Uint8Array.from(bins, (v) => height - heightOf(v, height));
  for (let y = 0, at = 0; y < height; y++) for (let i = 0; i < BINS; i++, at++) pixels[at] = y >= tops[i]! ? colour : 0;
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
