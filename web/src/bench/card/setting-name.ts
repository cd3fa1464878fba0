/** A name such as "Shadows, tint": what it belongs to, and what it is there. */
export function partsOf(name: string): { group: string | null; part: string } {
  const comma = name.indexOf(', ');
  if (comma < 0) return { group: null, part: name };
  const part = name.slice(comma + 2);
  return { group: name.slice(0, comma), part: part[0]!.toUpperCase() + part.slice(1) };
}
