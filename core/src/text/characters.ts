/** Whether a code point is in a unicode-range of CSS: `U+20-7E, U+A9`. */
export function hasCharacter(range: string): (point: number) => boolean {
  const ranges = range.split(', ').map((part) =>
    part
      .replace('U+', '')
      .split('-')
      .map((hex) => parseInt(hex, 16)),
  );
  return (point) => ranges.some(([from, to = from]) => point >= from! && point <= to!);
}

/** Characters of a text that a font has not, each once; what shows nothing is not missed. */
export const lackingOf = (text: string, range: string): string[] => {
  const has = hasCharacter(range);
  return [...new Set(text.replace(/\p{Cc}|\p{Cf}|\p{Variation_Selector}/gu, ''))].filter((c) => !has(c.codePointAt(0)!));
};
