// A line of a recorder's luma on its FM carrier, as complex baseband about the carrier's middle: phases and frequencies in cycles and cycles a sample.

/** Sine of a quarter turn either way, sin(2 pi r) for r in [-1/4, 1/4], as r times a polynomial of r^2 (Taylor's; off by less than 4e-6). */
const SINE: usize = memory.data<f32>([
  42.0586940, 42.0586940, 42.0586940, 42.0586940,
  -76.7058597, -76.7058597, -76.7058597, -76.7058597,
  81.6052493, 81.6052493, 81.6052493, 81.6052493,
  -41.3417022, -41.3417022, -41.3417022, -41.3417022,
  6.2831853, 6.2831853, 6.2831853, 6.2831853,
], 16);

/** Arc tangent of 0 to 1 over its argument, by powers of its square (Abramowitz and Stegun 4.4.47; off by 1e-5: on VHS a thirtieth of a 10-bit step of luma), in cycles. */
const ARC: usize = memory.data<f32>([
  0.0033160091, 0.0033160091, 0.0033160091, 0.0033160091,
  -0.0135493378, -0.0135493378, -0.0135493378, -0.0135493378,
  0.0286703306, 0.0286703306, 0.0286703306, 0.0286703306,
  -0.0525687981, -0.0525687981, -0.0525687981, -0.0525687981,
  0.1591336163, 0.1591336163, 0.1591336163, 0.1591336163,
], 16);

// @ts-ignore: decorator
@inline
function sine(r: v128): v128 {
  const s = f32x4.mul(r, r);
  let p = f32x4.add(f32x4.mul(v128.load(SINE), s), v128.load(SINE, 16));
  p = f32x4.add(f32x4.mul(p, s), v128.load(SINE, 32));
  p = f32x4.add(f32x4.mul(p, s), v128.load(SINE, 48));
  return f32x4.mul(f32x4.add(f32x4.mul(p, s), v128.load(SINE, 64)), r);
}

/**
 * A filter of one pole and one zero along a row, in place: y = b0 x + b1 x' - a1 y', begun as if the first sample had stood for ever. (Emphasis, and,
 * with the two exchanged, its exact inverse.)
 */
export function shelfRow(p: usize, count: i32, b0: f32, b1: f32, a1: f32): void {
  let before = load<f32>(p);
  let out: f32 = (before * (b0 + b1)) / (1 + a1);
  for (const end = p + (<usize>count << 2); p < end; p += 4) {
    const x = load<f32>(p);
    out = b0 * x + b1 * before - a1 * out;
    before = x;
    store<f32>(p, out);
  }
}

/** As `shelfRow` on four rows that are joined (`joinRow`): each waits on itself, so four take little more than one. The same bits. */
export function shelfFour(p: usize, count: i32, b0: f32, b1: f32, a1: f32): void {
  const now = f32x4.splat(b0), then = f32x4.splat(b1), back = f32x4.splat(a1);
  let before = v128.load(p);
  let out = f32x4.div(f32x4.mul(before, f32x4.splat(b0 + b1)), f32x4.splat(1 + a1));
  for (const end = p + (<usize>count << 4); p < end; p += 16) {
    const x = v128.load(p);
    out = f32x4.sub(f32x4.add(f32x4.mul(now, x), f32x4.mul(then, before)), f32x4.mul(back, out));
    before = x;
    v128.store(p, out);
  }
}

/** Frequencies to the phase that has run up, held to half a turn either way. May be in place. */
export function phaseRow(dst: usize, src: usize, count: i32): void {
  let phase: f32 = 0;
  for (let at: usize = 0, end = <usize>count << 2; at < end; at += 4) {
    phase += load<f32>(src + at);
    phase -= nearest(phase);
    store<f32>(dst + at, phase);
  }
}

/** As `phaseRow` in place, on four rows that are joined. The same bits. */
export function phaseFour(p: usize, count: i32): void {
  let phase = f32x4.splat(0);
  for (const end = p + (<usize>count << 4); p < end; p += 16) {
    phase = f32x4.add(phase, v128.load(p));
    phase = f32x4.sub(phase, f32x4.nearest(phase));
    v128.store(p, phase);
  }
}

/** Bits of a number without its sign, and the sign; a quarter and a half of a turn; the least strength that is told from none. See lanes.ts. */
const SIZE: usize = memory.data<i32>([0x7fffffff, 0x7fffffff, 0x7fffffff, 0x7fffffff, 0x80000000, 0x80000000, 0x80000000, 0x80000000], 16);
const TURNS: usize = memory.data<f32>([0.25, 0.25, 0.25, 0.25, 0.5, 0.5, 0.5, 0.5, 1e-30, 1e-30, 1e-30, 1e-30], 16);

/** The carrier of a row of phases from -1/2 to 1/2, as strong as `strength` says: cosines to `i`, sines to `q`. */
export function carrierRow(i: usize, q: usize, phase: usize, strength: usize, count: i32): void {
  const toQ = q - i, toPhase = phase - i, toStrength = strength - i;
  for (const end = i + (<usize>count << 2); i < end; i += 16) {
    const t = v128.load(i + toPhase), a = v128.load(i + toStrength);
    const size = v128.and(t, v128.load(SIZE));
    const folded = f32x4.pmin(size, f32x4.sub(v128.load(TURNS, 16), size));
    v128.store(i + toQ, f32x4.mul(a, sine(v128.or(folded, v128.and(t, v128.load(SIZE, 16))))));
    v128.store(i, f32x4.mul(a, sine(f32x4.sub(v128.load(TURNS), size))));
  }
}

/** dst += a * b. */
export function addTimesRow(dst: usize, a: usize, b: usize, count: i32): void {
  for (let at: usize = 0, end = <usize>count << 2; at < end; at += 16)
    v128.store(dst + at, f32x4.add(v128.load(dst + at), f32x4.mul(v128.load(a + at), v128.load(b + at))));
}

/**
 * What a limiter and a discriminator make of a carrier: the turn from each sample to the next, whatever its strength, in cycles a sample from -1/2 to 1/2.
 * `i` and `q` must have one sample before the first.
 */
export function discriminateRow(dst: usize, i: usize, q: usize, count: i32): void {
  const end = i + (<usize>count << 2);
  const toQ = q - i, to = dst - i;
  for (; i + 16 < end; i += 32) {
    const a = turn(v128.load(i - 4), v128.load(i + toQ - 4), v128.load(i), v128.load(i + toQ));
    const b = turn(v128.load(i + 12), v128.load(i + toQ + 12), v128.load(i, 16), v128.load(i + toQ, 16));
    v128.store(i + to, a);
    v128.store(i + to, b, 16);
  }
  if (i < end) v128.store(i + to, turn(v128.load(i - 4), v128.load(i + toQ - 4), v128.load(i), v128.load(i + toQ)));
}

/** The turn from one place of a carrier to the next, in cycles. */
// @ts-ignore: decorator
@inline
function turn(i0: v128, q0: v128, i1: v128, q1: v128): v128 {
  const y = f32x4.sub(f32x4.mul(q1, i0), f32x4.mul(i1, q0));
  const x = f32x4.add(f32x4.mul(i1, i0), f32x4.mul(q1, q0));
  const ax = v128.and(x, v128.load(SIZE)), ay = v128.and(y, v128.load(SIZE));
  const t = f32x4.div(f32x4.pmin(ax, ay), f32x4.add(f32x4.pmax(ax, ay), v128.load(TURNS, 32)));
  const s = f32x4.mul(t, t);
  let p = f32x4.add(f32x4.mul(v128.load(ARC), s), v128.load(ARC, 16));
  p = f32x4.add(f32x4.mul(p, s), v128.load(ARC, 32));
  p = f32x4.add(f32x4.mul(p, s), v128.load(ARC, 48));
  p = f32x4.mul(t, f32x4.add(f32x4.mul(p, s), v128.load(ARC, 64)));
  // Beyond an eighth of a turn it is what lacks of a quarter, beyond a quarter what lacks of a half. (a - p, or p: p with its sign turned, and a or 0 added.)
  const steep = f32x4.gt(ay, ax);
  p = f32x4.add(v128.and(v128.load(TURNS), steep), v128.xor(p, v128.and(v128.load(SIZE, 16), steep)));
  const back = f32x4.lt(x, f32x4.splat(0));
  p = f32x4.add(v128.and(v128.load(TURNS, 16), back), v128.xor(p, v128.and(v128.load(SIZE, 16), back)));
  return v128.or(p, v128.and(y, v128.load(SIZE, 16)));
}

/** Where the carrier is weaker than `least`, what stands in `above`. */
export function concealRow(dst: usize, above: usize, strength: usize, count: i32, least: f32): void {
  const limit = f32x4.splat(least);
  for (let at: usize = 0, end = <usize>count << 2; at < end; at += 16)
    v128.store(dst + at, v128.bitselect(v128.load(above + at), v128.load(dst + at), f32x4.lt(v128.load(strength + at), limit)));
}

/** A row whose sample x is `src` at x - shifts[x], by the cubic of Catmull and Rom; edges are continued. Not in place. */
export function displaceRow(dst: usize, src: usize, count: i32, shifts: usize): void {
  const last = count - 1;
  for (let x = 0; x < count; x++) {
    const at = <usize>x << 2;
    const place = <f32>x - load<f32>(shifts + at);
    const whole = floor(place);
    const t = place - whole;
    const n = <i32>whole;
    const a = load<f32>(src + (<usize>max(0, min(last, n - 1)) << 2)), b = load<f32>(src + (<usize>max(0, min(last, n)) << 2));
    const c = load<f32>(src + (<usize>max(0, min(last, n + 1)) << 2)), d = load<f32>(src + (<usize>max(0, min(last, n + 2)) << 2));
    const e: f32 = c - a;
    const f: f32 = 2 * a - 5 * b + 4 * c - d;
    const g: f32 = 3 * (b - c) + d - a;
    store<f32>(dst + at, b + 0.5 * t * (e + t * (f + t * g)));
  }
}
