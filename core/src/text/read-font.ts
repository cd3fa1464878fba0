import { parse, type Font, type Glyph as Parsed } from 'opentype.js/dist/opentype.mjs';
import type { FontOutlines, Glyph, Step } from './outlines';

/** A font file that cannot be read, and why. */
export class FontError extends Error {
  override readonly name = 'FontError';
}

/** Where a font does not say how high its capitals are: a common height. */
const CAPITAL = 0.7;

function stepsOf(glyph: Parsed): Step[] {
  return glyph.path.commands.map((c): Step => {
    switch (c.type) {
      case 'M':
        return ['move', c.x, c.y];
      case 'L':
        return ['line', c.x, c.y];
      case 'Q':
        return ['quadratic', c.x1, c.y1, c.x, c.y];
      case 'C':
        return ['cubic', c.x1, c.y1, c.x2, c.y2, c.x, c.y];
      case 'Z':
        return ['close'];
    }
  });
}

const outlineOf = (glyph: Parsed): Glyph => ({ advance: glyph.advanceWidth ?? 0, steps: stepsOf(glyph) });

function capitalOf(font: Font): number {
  const capital = font.charToGlyph('H');
  if (capital.index > 0) {
    const { y2 } = capital.getBoundingBox();
    if (y2 > 0) return y2;
  }
  return (font.tables.os2 as { sCapHeight?: number } | undefined)?.sCapHeight || CAPITAL * font.unitsPerEm;
}

/** A font whose file ends before its tables do may still show some glyphs; the rest would be missed. */
function complete(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 12) return false;
  // WOFF says its length (W3C WOFF 1.0, 4); others list their tables with place and length (OpenType, table directory).
  if (view.getUint32(0) === WOFF) return view.getUint32(8) <= bytes.length;
  const tables = view.getUint16(4);
  if (bytes.length < 12 + 16 * tables) return false;
  return Array.from({ length: tables }, (_, i) => view.getUint32(20 + 16 * i) + view.getUint32(24 + 16 * i)).every((end) => end <= bytes.length);
}

/** The bytes `wOFF`. */
const WOFF = 0x774f4646;

function parsed(bytes: Uint8Array): Font {
  if (String.fromCharCode(...bytes.subarray(0, 4)) === 'wOF2') throw new FontError('it is a WOFF2 file; TTF, OTF and WOFF can be read');
  try {
    if (!complete(bytes)) throw new Error('the file is not whole');
    const font = parse(bytes.slice().buffer);
    if (!(font.unitsPerEm > 0) || font.glyphs.length === 0) throw new Error('it holds no glyphs');
    return font;
  } catch (error) {
    throw new FontError(`it cannot be read as TTF, OTF or WOFF: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/**
 * The glyphs that a font has of some characters.
 * @param bytes a TTF, OTF or WOFF file @param text the characters that are asked for, neighbours as they stand
 * @throws FontError
 */
export function readFont(bytes: Uint8Array, text: string): FontOutlines {
  const font = parsed(bytes);
  try {
    const characters = [...text];
    const glyphs: Record<number, Glyph> = {};
    const kerning: Record<string, number> = {};
    for (const character of new Set(characters)) {
      const glyph = font.charToGlyph(character);
      if (glyph.index > 0) glyphs[character.codePointAt(0)!] = outlineOf(glyph);
    }
    characters.slice(1).forEach((right, i) => {
      const pair = characters[i]! + right;
      if (pair in kerning) return;
      const by = font.getKerningValue(font.charToGlyph(characters[i]!), font.charToGlyph(right));
      if (by) kerning[pair] = by;
    });
    return { unitsPerEm: font.unitsPerEm, capHeight: capitalOf(font), glyphs, lacking: outlineOf(font.glyphs.get(0)), kerning };
  } catch (error) {
    throw new FontError(`its glyphs cannot be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}

/**
 * The characters a font has, as a unicode-range of CSS: `U+20-7E, U+A9`.
 * @throws FontError
 */
export function charactersOf(bytes: Uint8Array): string {
  const map = (parsed(bytes).tables.cmap as unknown as { glyphIndexMap: Record<string, number> }).glyphIndexMap;
  const points = Object.keys(map)
    .map(Number)
    .filter((point) => map[point]! > 0)
    .sort((a, b) => a - b);
  const ranges: [number, number][] = [];
  for (const point of points) {
    const last = ranges.at(-1);
    if (last && last[1] === point - 1) last[1] = point;
    else ranges.push([point, point]);
  }
  return ranges.map((range) => `U+${[...new Set(range)].map((point) => point.toString(16).toUpperCase()).join('-')}`).join(', ');
}
