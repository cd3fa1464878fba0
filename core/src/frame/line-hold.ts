import { bell, even, hash } from '../random/random';

/** Height of the line sync pulse against white, and the time of its edge behind a receiver's band (ITU-R BT.1700: 40 to 43 % and 0.25 µs). */
const PULSE = 0.4;
const EDGE_MICROSECONDS = 0.25;
/** A pulse that is missed or found too early is wrong by up to so much: beyond, the set does not look for one. */
const GATE_MICROSECONDS = 4;
/** So many times the lines it evens out over, a set remembers nothing. */
const SETTLED = 4;

/** Share of a bell beyond `x` (Zelen and Severo's approximation, off by less than 1e-5). */
function beyond(x: number, exp: (x: number) => number): number {
  const t = 1 / (1 + 0.33267 * x);
  return 0.3989423 * exp((-x * x) / 2) * t * (0.4361836 + t * (-0.1201676 + t * 0.937298));
}

/**
 * How far a set that finds its line sync in noise begins each line of a picture from where it should, in microseconds. An edge in noise is found wrong by the noise
 * over its slope; where the noise is as high as half the pulse, pulses are missed and others found. The set evens it out over lines (a low pass of the first order).
 * @param noise RMS against white @param lines over which it evens out, from 1
 */
export function lineHold(seed: number, picture: number, height: number, noise: number, lines: number, exp: (x: number) => number): Float64Array {
  const error = (noise * EDGE_MICROSECONDS) / PULSE;
  const missed = 2 * beyond(PULSE / 2 / noise, exp);
  const before = Math.ceil(SETTLED * lines);
  const follow = 1 / lines;
  const places = new Float64Array(height);
  let place = 0;
  for (let y = -before; y < height; y++) {
    const wrong = even(seed, picture, y, 1) < missed ? GATE_MICROSECONDS * (2 * even(seed, picture, y, 2) - 1) : error * bell(hash(seed, 3), picture, y);
    place += follow * (wrong - place);
    if (y >= 0) places[y] = place;
  }
  return places;
}
