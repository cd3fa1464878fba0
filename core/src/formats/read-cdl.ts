import { SaxesParser } from 'saxes';
import type { Cdl, CdlKind } from './cdl';
import { FormatError } from './cube';

const ROOTS: Record<string, CdlKind> = { ColorDecisionList: 'cdl', ColorCorrectionCollection: 'ccc', ColorCorrection: 'cc' };
const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i;

/** What each number must be at the least; slope and saturation may be 0, power may not. */
const RULES = {
  Slope: { count: 3, least: 0 },
  Offset: { count: 3, least: -Infinity },
  Power: { count: 3, least: Number.MIN_VALUE },
  Saturation: { count: 1, least: 0 },
} as const;
type Part = keyof typeof RULES;

const isPart = (name: string): name is Part => Object.hasOwn(RULES, name);

function values(part: Part, text: string, line: number): number[] {
  const { count, least } = RULES[part];
  const words = text.trim().split(/\s+/).filter(Boolean);
  if (words.length !== count) throw new FormatError(line, `${part} takes ${count} number${count === 1 ? '' : 's'}, here stand ${words.length}`);
  return words.map((word) => {
    const value = NUMBER.test(word) ? Number(word) : NaN;
    if (!Number.isFinite(value)) throw new FormatError(line, `"${word.slice(0, 40)}" is not a number`);
    if (value < least) throw new FormatError(line, `${part} must not be ${part === 'Power' ? '0 or ' : ''}below 0, here stands ${word}`);
    return value;
  });
}

/**
 * All corrections of a file, in their order.
 * @throws FormatError with the line and the reason
 */
export function parseCdl(text: string): Cdl[] {
  const found: Cdl[] = [];
  const parser = new SaxesParser({ xmlns: true });
  let open: { id: string; parts: Partial<Record<Part, number[]>> } | undefined;
  let part: Part | undefined;
  let held = '';
  let depth = 0;
  const fail = (reason: string): never => {
    throw new FormatError(parser.line, reason);
  };
  parser.on('error', (error) => fail(`not well-formed XML: ${error.message.replace(/^\d+:\d+:\s*/, '')}`));
  parser.on('doctype', () => fail('a document type is not read'));
  parser.on('opentag', (tag) => {
    const name = tag.local;
    if (depth++ === 0 && !Object.hasOwn(ROOTS, name)) fail(`the file begins with ${name.slice(0, 40)}; expected ${Object.keys(ROOTS).join(', ')}`);
    if (name === 'ColorCorrection') {
      if (open) fail('a ColorCorrection stands within another');
      open = { id: tag.attributes.id?.value ?? '', parts: {} };
    } else if (isPart(name)) {
      if (!open) return fail(`${name} stands outside a ColorCorrection`);
      if (open.parts[name]) fail(`${name} is given twice`);
      part = name;
      held = '';
    }
  });
  parser.on('text', (more) => {
    if (part) held += more;
  });
  parser.on('closetag', (tag) => {
    depth--;
    if (part && tag.local === part) {
      open!.parts[part] = values(part, held, parser.line);
      part = undefined;
    } else if (tag.local === 'ColorCorrection' && open) {
      const { Slope, Offset, Power, Saturation } = open.parts;
      if (!Slope && !Offset && !Power && !Saturation) fail('a ColorCorrection holds no slope, offset, power or saturation');
      found.push({
        id: open.id,
        slope: (Slope ?? [1, 1, 1]) as never,
        offset: (Offset ?? [0, 0, 0]) as never,
        power: (Power ?? [1, 1, 1]) as never,
        saturation: Saturation?.[0] ?? 1,
      });
      open = undefined;
    }
  });
  parser.write(text.replace(/^\uFEFF/, '')).close();
  if (found.length === 0) throw new FormatError(parser.line, 'the file holds no ColorCorrection');
  return found;
}
