/** Counter-based randomness: a value is a function of its address, never of what was drawn before. Integer arithmetic only. */

// Taken once: in hot loops each look-up of a global costs.
const { imul } = Math;

/** A 32-bit finaliser; the same as the one in `kernels/noise.ts`. */
function scramble(h: number): number {
  h ^= h >>> 16;
  h = imul(h, 0x7feb352d);
  h ^= h >>> 15;
  h = imul(h, 0x846ca68b);
  return (h ^ (h >>> 16)) >>> 0;
}

const START = 0x9e3779b9;
const fold = (h: number, part: number): number => scramble((h ^ imul(part | 0, 0x85ebca6b)) + START);

/** An unsigned 32-bit number from any numbers (their whole parts). */
export function hash(...address: number[]): number {
  let h = START;
  for (const part of address) h = fold(h, part);
  return h >>> 0;
}

/** As `even` of three numbers, without a list for them: for what is asked at every pixel. */
export const evenOfThree = (a: number, b: number, c: number): number => (fold(fold(fold(START, a), b), c) >>> 0) / 4294967296;

/** An unsigned 32-bit number from a text (FNV-1a, then scrambled). */
export function hashText(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = imul(h ^ text.charCodeAt(i), 0x01000193);
  return scramble(h);
}

/** Evenly spread over 0 to 1 (1 not included). */
export const even = (...address: number[]): number => hash(...address) / 4294967296;

/** A bell of zero mean and unit variance that ends at 4.2 sigma: the sum of six even numbers of 16 bits. */
export function bell(...address: number[]): number {
  const at = hash(...address);
  let sum = 0;
  for (let i = 0; i < 3; i++) {
    const h = fold(at, 0x51ed + i);
    sum += (h & 0xffff) + (h >>> 16);
  }
  // Six even numbers of 0..65535: mean 6 * 32767.5, variance 6 (65536^2 - 1) / 12.
  return (sum - 196605) / 46340.95;
}

/** Means are taken in parts no larger: their exponentials do not vanish in a double. */
const PART = 400;

/**
 * A Poisson count from one even number: never falls when the mean rises, so that what was there stays when more is asked for.
 * @param mean 0 or more @param u 0..1 @param exp the kernels' exponential
 */
export function poisson(mean: number, u: number, exp: (x: number) => number): number {
  const parts = Math.max(1, Math.ceil(mean / PART));
  const scale = exp(-mean / parts);
  let left = parts - 1;
  let term = scale;
  let sum = term;
  let count = 0;
  const most = Math.ceil(mean + 12 * Math.sqrt(mean) + 12);
  // Until all parts are in, what has been summed is nothing yet.
  while ((left > 0 || u > sum) && count < most) {
    count++;
    term *= mean / count;
    sum += term;
    if (left > 0 && sum > 1) {
      term *= scale;
      sum *= scale;
      left--;
    }
  }
  return count;
}
