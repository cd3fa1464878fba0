/** How a letter stands to its neighbours. */
const ALONE = 0;
const AFTER = 1;
const BEFORE = 2;
const BETWEEN = 3;

/** Of each Arabic letter its forms alone, after another, before another, between two: Unicode's block Arabic Presentation Forms-B has them side by side, and their compatibility decompositions say whose they are. */
const FORMS = new Map<string, number[]>();
for (let form = 0xfe80; form <= 0xfefc; form++) {
  const base = String.fromCodePoint(form).normalize('NFKC');
  FORMS.set(base, [...(FORMS.get(base) ?? []), form]);
}

/** A letter of two forms joins the one before it alone, one of four both its neighbours. */
const joinsNext = (letter: string | undefined): boolean => letter === '\u0640' || (letter !== undefined && (FORMS.get(letter)?.length ?? 0) >= 4);
const joinsLast = (letter: string | undefined): boolean => letter === '\u0640' || (letter !== undefined && (FORMS.get(letter)?.length ?? 0) >= 2);
/** Marks above and below letters stand between them without parting them. */
const isMark = (letter: string): boolean => /^[\u064b-\u065f\u0670]$/.test(letter);

/** A line whose Arabic letters are those that join, in the order in which it is read; all else is as it was. A lam and an alef become one letter. */
export function joined(line: string): string {
  if (!/[\u0600-\u06ff]/.test(line)) return line;
  const letters = [...line];
  const parts: { letter: string; marks: string }[] = [];
  for (const letter of letters) {
    const last = parts.at(-1);
    if (isMark(letter) && last) last.marks += letter;
    else if (last?.letter === '\u0644' && last.marks === '' && FORMS.has(last.letter + letter)) last.letter += letter;
    else parts.push({ letter, marks: '' });
  }
  return parts
    .map(({ letter, marks }, i) => {
      const forms = FORMS.get(letter);
      if (!forms) return letter + marks;
      const after = joinsNext(parts[i - 1]?.letter);
      const before = forms.length >= 4 && joinsLast(parts[i + 1]?.letter);
      const wanted = after ? (before ? BETWEEN : AFTER) : before ? BEFORE : ALONE;
      return String.fromCodePoint(forms[wanted]!) + marks;
    })
    .join('');
}

/** The letters that a font which lacks a joined one is asked for instead. */
export const unjoined = (point: number): number[] =>
  point >= 0xfe80 && point <= 0xfefc ? [...String.fromCodePoint(point).normalize('NFKC')].map((c) => c.codePointAt(0)!) : [point];
