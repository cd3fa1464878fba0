/** Counter-based randomness: a value is a function of its address, never of what was drawn before. Integer arithmetic only. */

/** A 32-bit finaliser; the same as the one in `kernels/noise.ts`. */
function scramble(h: number): number {
  h ^= h >>> 16;
  h = Math.imul(h, 0x7feb352d);
  h ^= h >>> 15;
  h = Math.imul(h, 0x846ca68b);
  return (h ^ (h >>> 16)) >>> 0;
}

/** An unsigned 32-bit number from any numbers (their whole parts). */
export function hash(...address: number[]): number {
  let h = 0x9e3779b9;
  for (const part of address) h = scramble((h ^ Math.imul(part | 0, 0x85ebca6b)) + 0x9e3779b9);
  return h >>> 0;
}

/** An unsigned 32-bit number from a text (FNV-1a, then scrambled). */
export function hashText(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  return scramble(h);
}
