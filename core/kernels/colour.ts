// Colour of single pixels by their luma or their hue.
import { exp2x4, whole } from './lanes';

/** The share `f` of the way from the vector at p to that `apart` bytes on. */
// @ts-ignore: decorator
@inline
function between(p: usize, apart: usize, f: v128): v128 {
  const a = v128.load(p);
  return f32x4.add(a, f32x4.mul(f32x4.sub(v128.load(p + apart), a), f));
}

/**
 * A colour by its luma, in place. `table` holds `size` entries over luma 0 to 1 of 8 floats each: gain, saturation, vibrance
 * (saturation added to what has little), unused, and what is added to red, green, blue, unused. `kr` and `kb` are the weights of
 * luma. out = gain (Y + s (in - Y)) + added, s = saturation + vibrance (1 - (max - min)), at least 0.
 */
export function byLumaRow(r: usize, g: usize, b: usize, count: i32, table: usize, size: i32, kr: f32, kb: f32): void {
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  const wr = f32x4.splat(kr), wb = f32x4.splat(kb), wg = f32x4.splat(1 - kr - kb);
  const last = f32x4.splat(<f32>(size - 1));
  const before = f32x4.splat(<f32>(size - 2));
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const red = v128.load(r + at), green = v128.load(g + at), blue = v128.load(b + at);
    const y = f32x4.add(f32x4.add(f32x4.mul(red, wr), f32x4.mul(green, wg)), f32x4.mul(blue, wb));
    const place = f32x4.mul(f32x4.pmin(one, f32x4.pmax(zero, y)), last);
    const low = f32x4.pmin(before, f32x4.floor(place));
    const f = f32x4.sub(place, low);
    const i = i32x4.shl(whole(low), 5);
    const p0 = table + <usize>i32x4.extract_lane(i, 0), p1 = table + <usize>i32x4.extract_lane(i, 1);
    const p2 = table + <usize>i32x4.extract_lane(i, 2), p3 = table + <usize>i32x4.extract_lane(i, 3);
    const f0 = v128.shuffle<f32>(f, f, 0, 0, 0, 0), f1 = v128.shuffle<f32>(f, f, 1, 1, 1, 1);
    const f2 = v128.shuffle<f32>(f, f, 2, 2, 2, 2), f3 = v128.shuffle<f32>(f, f, 3, 3, 3, 3);
    const a0 = between(p0, 32, f0), a1 = between(p1, 32, f1), a2 = between(p2, 32, f2), a3 = between(p3, 32, f3);
    const b0 = between(p0 + 16, 32, f0), b1 = between(p1 + 16, 32, f1), b2 = between(p2 + 16, 32, f2), b3 = between(p3 + 16, 32, f3);
    // Four entries side by side become one vector for each of their numbers.
    const u = v128.shuffle<f32>(a0, a1, 0, 4, 1, 5), v = v128.shuffle<f32>(a2, a3, 0, 4, 1, 5);
    const gain = v128.shuffle<f32>(u, v, 0, 1, 4, 5), saturation = v128.shuffle<f32>(u, v, 2, 3, 6, 7);
    const vibrance = v128.shuffle<f32>(v128.shuffle<f32>(a0, a1, 2, 6, 2, 6), v128.shuffle<f32>(a2, a3, 2, 6, 2, 6), 0, 1, 4, 5);
    const w = v128.shuffle<f32>(b0, b1, 0, 4, 1, 5), x = v128.shuffle<f32>(b2, b3, 0, 4, 1, 5);
    const addRed = v128.shuffle<f32>(w, x, 0, 1, 4, 5), addGreen = v128.shuffle<f32>(w, x, 2, 3, 6, 7);
    const addBlue = v128.shuffle<f32>(v128.shuffle<f32>(b0, b1, 2, 6, 2, 6), v128.shuffle<f32>(b2, b3, 2, 6, 2, 6), 0, 1, 4, 5);
    const spread = f32x4.sub(f32x4.pmax(red, f32x4.pmax(green, blue)), f32x4.pmin(red, f32x4.pmin(green, blue)));
    const rest = f32x4.pmax(zero, f32x4.sub(one, spread));
    const s = f32x4.pmax(zero, f32x4.add(saturation, f32x4.mul(vibrance, rest)));
    v128.store(r + at, f32x4.add(f32x4.mul(gain, f32x4.add(y, f32x4.mul(s, f32x4.sub(red, y)))), addRed));
    v128.store(g + at, f32x4.add(f32x4.mul(gain, f32x4.add(y, f32x4.mul(s, f32x4.sub(green, y)))), addGreen));
    v128.store(b + at, f32x4.add(f32x4.mul(gain, f32x4.add(y, f32x4.mul(s, f32x4.sub(blue, y)))), addBlue));
  }
}

/** As `byLumaRow` where saturation alone is changed, and by as much at every luma: out = Y + s (in - Y). */
export function saturateRow(r: usize, g: usize, b: usize, count: i32, s: f32, kr: f32, kb: f32): void {
  const by = f32x4.splat(s);
  const wr = f32x4.splat(kr), wb = f32x4.splat(kb), wg = f32x4.splat(1 - kr - kb);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const red = v128.load(r + at), green = v128.load(g + at), blue = v128.load(b + at);
    const y = f32x4.add(f32x4.add(f32x4.mul(red, wr), f32x4.mul(green, wg)), f32x4.mul(blue, wb));
    v128.store(r + at, f32x4.add(y, f32x4.mul(by, f32x4.sub(red, y))));
    v128.store(g + at, f32x4.add(y, f32x4.mul(by, f32x4.sub(green, y))));
    v128.store(b + at, f32x4.add(y, f32x4.mul(by, f32x4.sub(blue, y))));
  }
}

/** |h - centre| held to 0..1 after `sign` and `offset`: how much of a primary a hue holds. */
// @ts-ignore: decorator
@inline
function primary(h: v128, centre: f32, sign: f32, offset: f32): v128 {
  const v = f32x4.add(f32x4.mul(f32x4.abs(f32x4.sub(h, f32x4.splat(centre))), f32x4.splat(sign)), f32x4.splat(offset));
  return f32x4.pmin(f32x4.splat(1), f32x4.pmax(f32x4.splat(0), v));
}

/**
 * A colour by its hue, in place. Hue is counted in sixths of a turn from red (yellow 1, green 2, cyan 3, blue 4, magenta 5).
 * `table` holds 252 steps of the turn and the first once more, 4 floats each: shift (sixths), saturation, density (stops taken off
 * a full colour, as much less as it is paler), unused. Luma is kept but for density.
 */
export function byHueRow(r: usize, g: usize, b: usize, count: i32, table: usize, kr: f32, kb: f32): void {
  const wr = f32x4.splat(kr), wb = f32x4.splat(kb), wg = f32x4.splat(1 - kr - kb);
  const six = f32x4.splat(6);
  const zero = f32x4.splat(0);
  const least = f32x4.splat(1e-6);
  const steps = f32x4.splat(42);
  const before = f32x4.splat(251);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const red = v128.load(r + at), green = v128.load(g + at), blue = v128.load(b + at);
    const y = f32x4.add(f32x4.add(f32x4.mul(red, wr), f32x4.mul(green, wg)), f32x4.mul(blue, wb));
    const high = f32x4.pmax(red, f32x4.pmax(green, blue));
    const low = f32x4.pmin(red, f32x4.pmin(green, blue));
    const c = f32x4.sub(high, low);
    const per = f32x4.div(f32x4.splat(1), f32x4.pmax(c, least));
    const hr = f32x4.mul(f32x4.sub(green, blue), per);
    const hg = f32x4.add(f32x4.mul(f32x4.sub(blue, red), per), f32x4.splat(2));
    const hb = f32x4.add(f32x4.mul(f32x4.sub(red, green), per), f32x4.splat(4));
    let h = v128.bitselect(hr, v128.bitselect(hg, hb, f32x4.ge(green, blue)), f32x4.ge(red, f32x4.pmax(green, blue)));
    h = f32x4.add(h, v128.and(six, f32x4.lt(h, zero)));
    const place = f32x4.mul(h, steps);
    const step = f32x4.pmin(before, f32x4.floor(place));
    const f = f32x4.sub(place, step);
    const i = i32x4.shl(whole(step), 4);
    const e0 = between(table + <usize>i32x4.extract_lane(i, 0), 16, v128.shuffle<f32>(f, f, 0, 0, 0, 0));
    const e1 = between(table + <usize>i32x4.extract_lane(i, 1), 16, v128.shuffle<f32>(f, f, 1, 1, 1, 1));
    const e2 = between(table + <usize>i32x4.extract_lane(i, 2), 16, v128.shuffle<f32>(f, f, 2, 2, 2, 2));
    const e3 = between(table + <usize>i32x4.extract_lane(i, 3), 16, v128.shuffle<f32>(f, f, 3, 3, 3, 3));
    const u = v128.shuffle<f32>(e0, e1, 0, 4, 1, 5), v = v128.shuffle<f32>(e2, e3, 0, 4, 1, 5);
    const shift = v128.shuffle<f32>(u, v, 0, 1, 4, 5), saturation = v128.shuffle<f32>(u, v, 2, 3, 6, 7);
    const density = v128.shuffle<f32>(v128.shuffle<f32>(e0, e1, 2, 6, 2, 6), v128.shuffle<f32>(e2, e3, 2, 6, 2, 6), 0, 1, 4, 5);
    h = f32x4.add(h, shift);
    h = f32x4.add(h, v128.and(six, f32x4.lt(h, zero)));
    h = f32x4.sub(h, v128.and(six, f32x4.ge(h, six)));
    const full = f32x4.mul(c, f32x4.pmax(zero, saturation));
    const nr = f32x4.mul(full, primary(h, 3, 1, -1)), ng = f32x4.mul(full, primary(h, 2, -1, 2)), nb = f32x4.mul(full, primary(h, 4, -1, 2));
    // What luma the new colour lacks is given to all three.
    const lift = f32x4.sub(y, f32x4.add(f32x4.add(f32x4.mul(nr, wr), f32x4.mul(ng, wg)), f32x4.mul(nb, wb)));
    const dim = exp2x4(f32x4.mul(f32x4.sub(zero, density), f32x4.pmin(f32x4.splat(1), c)));
    v128.store(r + at, f32x4.mul(f32x4.add(nr, lift), dim));
    v128.store(g + at, f32x4.mul(f32x4.add(ng, lift), dim));
    v128.store(b + at, f32x4.mul(f32x4.add(nb, lift), dim));
  }
}

/** Where dyes begin to be held back, of the way from grey to the clearest they can be. */
const HELD: f32 = 0.5;

/**
 * Densities of red, green and blue as dyes can have them: none is thinner than `low`, the clear film. What would be is led back toward its own grey, the more the nearer it comes
 * and never to a stop, so hue stays and nothing becomes flat; grey stays as it is. `share` of that is done.
 */
export function holdDyesRow(r: usize, g: usize, b: usize, count: i32, low: f32, share: f32): void {
  const third = f32x4.splat(<f32>(1.0 / 3.0));
  const clear = f32x4.splat(low);
  const knee = f32x4.splat(HELD);
  const room = f32x4.splat(1 - HELD);
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const part = f32x4.splat(share);
  const least = f32x4.splat(1e-6);
  for (let at: usize = 0, end = <usize>count << 2; at < end; at += 16) {
    const x = v128.load(r + at), y = v128.load(g + at), z = v128.load(b + at);
    const grey = f32x4.mul(f32x4.add(f32x4.add(x, y), z), third);
    // How far from grey the thinnest is, and how far it may be.
    const far = f32x4.sub(grey, f32x4.pmin(x, f32x4.pmin(y, z)));
    const most = f32x4.pmax(zero, f32x4.sub(grey, clear));
    const over = f32x4.sub(far, f32x4.mul(knee, most));
    if (!v128.any_true(f32x4.gt(over, zero))) continue;
    const reach = f32x4.pmax(least, f32x4.mul(room, most));
    const beyond = f32x4.pmax(zero, over);
    // k m + r u / (1 + u), u = over / r.
    const held = f32x4.add(f32x4.mul(knee, most), f32x4.div(f32x4.mul(reach, beyond), f32x4.add(reach, beyond)));
    let keep = f32x4.div(held, f32x4.pmax(least, far));
    keep = v128.bitselect(f32x4.pmin(one, keep), one, f32x4.gt(over, zero));
    keep = f32x4.sub(one, f32x4.mul(part, f32x4.sub(one, keep)));
    v128.store(r + at, f32x4.add(grey, f32x4.mul(f32x4.sub(x, grey), keep)));
    v128.store(g + at, f32x4.add(grey, f32x4.mul(f32x4.sub(y, grey), keep)));
    v128.store(b + at, f32x4.add(grey, f32x4.mul(f32x4.sub(z, grey), keep)));
  }
}
