import bidiFactory from 'bidi-js';
import { joined, unjoined } from './joining';
import { addLines, type FontOutlines, type Glyph, type Lines } from './outlines';
import { SIGN_CAPITAL, signOf } from './signs';

const bidi = bidiFactory();

export interface Layout {
  /** Height of a capital, in pixels down the picture. */
  readonly size: number;
  /** Width of letters over what the font says. */
  readonly stretch: number;
  /** Between letters, over the size. */
  readonly spacing: number;
  /** From line to line, over the size. */
  readonly leading: number;
  readonly align: 'left' | 'middle' | 'right';
  /** Of the block: its left, middle or right, and its middle down, in pixels. */
  readonly x: number;
  readonly y: number;
  /** In radians, clockwise. */
  readonly turn: number;
  /** Samples across for one down, so that the text is not wide where pixels are. */
  readonly squeeze: number;
}

/** Text as it lies in the picture. */
export interface LaidText {
  readonly lines: Lines;
  /** Corners of the block: the capitals' height of all lines by the longest one's width, before any turn. */
  readonly block: { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number };
  /** From a place of the block before its turn to the picture. */
  readonly place: (x: number, y: number) => readonly [number, number];
}

/** Joiners and variation selectors show nothing of themselves. */
const unseen = (point: number): boolean => point === 0x200d || (point >= 0xfe00 && point <= 0xfe0f) || point < 0x20;

/** A line's characters in the order they are seen, from the left (Unicode Bidirectional Algorithm, UAX 9), joined where their writing joins them and the font can. */
function seenOrder(written: string, font: FontOutlines): number[] {
  const line = [...joined(written)].map((c) => (font.glyphs[c.codePointAt(0)!] ? c : String.fromCodePoint(...unjoined(c.codePointAt(0)!)))).join('');
  // Plain Latin needs no reordering.
  const text = /^[\x00-\u024f]*$/.test(line) ? line : bidi.getReorderedString(line, bidi.getEmbeddingLevels(line));
  // Reordering goes by halves of characters.
  return [...text.replace(/([\udc00-\udfff])([\ud800-\udbff])/g, '$2$1')].map((c) => c.codePointAt(0)!).filter((point) => !unseen(point));
}

interface Set {
  readonly glyph: Glyph;
  /** Pixels a unit. */
  readonly scale: number;
  readonly x: number;
}

/** Letters of a line side by side, in pixels of the height. */
function setLine(line: string, font: FontOutlines, { size, stretch, spacing }: Layout): { sets: Set[]; width: number } {
  const sets: Set[] = [];
  const unit = size / font.capHeight;
  const points = seenOrder(line, font);
  let x = 0;
  points.forEach((point, i) => {
    const sign = signOf(point);
    const glyph = sign ?? font.glyphs[point] ?? font.lacking;
    const scale = sign ? size / SIGN_CAPITAL : unit;
    sets.push({ glyph, scale, x });
    const next = points[i + 1];
    const kern = next === undefined ? 0 : (font.kerning[String.fromCodePoint(point) + String.fromCodePoint(next)] ?? 0);
    x += (glyph.advance + kern) * scale * stretch + (next === undefined ? 0 : spacing * size);
  });
  return { sets, width: x };
}

/** Lays out a text of one line or several. */
export function layOut(text: string, font: FontOutlines, layout: Layout, maths: { sin(x: number): number; cos(x: number): number }): LaidText {
  const { size, stretch, leading, align, squeeze } = layout;
  const rows = text.split(/\r\n|\r|\n/).map((line) => setLine(line, font, layout));
  const widest = Math.max(...rows.map((row) => row.width));
  const pitch = leading * size;
  const high = (rows.length - 1) * pitch + size;
  const share = align === 'left' ? 0 : align === 'right' ? 1 : 0.5;
  const [c, s] = [maths.cos(layout.turn), maths.sin(layout.turn)];
  // Lengths are of the height until here.
  const place = (x: number, y: number): readonly [number, number] => [layout.x + (c * x - s * y) * squeeze, layout.y + s * x + c * y];
  const lines: Lines = [];
  rows.forEach(({ sets, width }, row) => {
    const left = -share * width;
    const base = -high / 2 + size + row * pitch;
    for (const { glyph, scale, x } of sets) addLines(lines, glyph.steps, (gx, gy) => place(left + x + gx * scale * stretch, base - gy * scale));
  });
  return { lines, block: { left: -share * widest, top: -high / 2, right: (1 - share) * widest, bottom: high / 2 }, place };
}
