// Linear light through a stock to density: a cube in log exposure.
import { log2x4, whole } from './lanes';

/** Shares in all, and a share of a unit. */
const PARTS: usize = memory.data<f32>([32767, 32767, 32767, 32767], 16);
const UNIT: usize = memory.data<f32>([7.450808e-9, 7.450808e-9, 7.450808e-9, 7.450808e-9], 16);
const ALL: usize = memory.data<i32>([32767, 32767, 32767, 32767], 16);
/** From a near corner to where it stands beside its neighbour in green and blue (in red at once), and to the corner before the far one, beside that. */
const IN_GREEN: usize = memory.data<i32>([574992, 574992, 574992, 574992], 16);
const IN_BLUE: usize = memory.data<i32>([1149984, 1149984, 1149984, 1149984], 16);
const END_RED: usize = memory.data<i32>([17952, 17952, 17952, 17952], 16);
const END_GREEN: usize = memory.data<i32>([592432, 592432, 592432, 592432], 16);
const END_BLUE: usize = memory.data<i32>([1150528, 1150528, 1150528, 1150528], 16);

/** The least light that is told from none, 2^-14, and its bits; the most, under 2^2. */
const DIM: usize = memory.data<f32>([6.103515625e-5, 6.103515625e-5, 6.103515625e-5, 6.103515625e-5], 16);
const DIM_BITS: usize = memory.data<i32>([0x38800000, 0x38800000, 0x38800000, 0x38800000], 16);
const GLARE: usize = memory.data<f32>([3.9999995, 3.9999995, 3.9999995, 3.9999995], 16);
/** Bits of a number below the half doubling it stands in, moved up by one; one; how a logarithm bends within a half doubling; half an entry of greys, and the bits of one. */
const WAY_BITS: usize = memory.data<i32>([0x7fffff, 0x7fffff, 0x7fffff, 0x7fffff], 16);
const ONE: usize = memory.data<f32>([1, 1, 1, 1], 16);
const STEEP: usize = memory.data<f32>([1.17, 1.17, 1.17, 1.17], 16);
const BEND: usize = memory.data<f32>([0.17, 0.17, 0.17, 0.17], 16);
const HALF_ENTRY: usize = memory.data<i32>([0x10000, 0x10000, 0x10000, 0x10000], 16);
const ENTRY_BITS: usize = memory.data<i32>([-16, -16, -16, -16], 16);

/** The bits of light over those of the first point: from 22 on its point, two to a doubling, below them the way to the next. */
// @ts-ignore: decorator
@inline
function exposure(light: v128): v128 {
  const dim = v128.load(DIM);
  return i32x4.sub(f32x4.pmin(v128.load(GLARE), f32x4.pmax(dim, f32x4.add(light, dim))), v128.load(DIM_BITS));
}

/** How far an exposure lies from its point to the next, by their logarithms. */
// @ts-ignore: decorator
@inline
function way(exposed: v128): v128 {
  const f = f32x4.sub(v128.or(v128.and(i32x4.shl(exposed, 1), v128.load(WAY_BITS)), v128.load(ONE)), v128.load(ONE));
  return f32x4.mul(f, f32x4.sub(v128.load(STEEP), f32x4.mul(v128.load(BEND), f)));
}

/** The parts of a colour's way from the near corner of its cell to the far one, the first and the last, as pairs of corners and pairs of shares. */
// @ts-ignore: decorator
@inline
function along(first: i32, last: i32, near: v128, far: v128): v128 {
  return i32x4.add(i32x4.dot_i16x8_s(v128.load(<usize>first), near), i32x4.dot_i16x8_s(v128.load(<usize>last), far));
}

/** The least light of which the log is told; what a log2 of light is as density. */
const DARK: usize = memory.data<f32>([1.862645149230957e-9, 1.862645149230957e-9, 1.862645149230957e-9, 1.862645149230957e-9], 16);
const DENSITY: f32 = -0.30103;

/** Density of light itself, by a share. */
// @ts-ignore: decorator
@inline
function ownDensity(light: v128, share: v128): v128 {
  return f32x4.mul(log2x4(f32x4.pmax(v128.load(DARK), light)), share);
}

/** @param side points a side of a cube of densities, three doubles each, red fastest; they become the cube that `stockRow` takes @param most the densest that is told */
export function stockPairs(dst: usize, densities: usize, side: i32, most: f64): void {
  const points = side * side * side;
  for (let step = 1; step < points; step *= side) {
    for (let i = 0; i < points; i++, dst += 16) {
      // The last point of a line has no neighbour and needs none.
      const near = densities + <usize>(24 * i), far = densities + <usize>(24 * min(points - 1, i + step));
      for (let plane: usize = 0; plane < 3; plane++) {
        store<u32>(dst + (plane << 2), counted(load<f64>(near + (plane << 3)), most) | (counted(load<f64>(far + (plane << 3)), most) << 16));
      }
      store<u32>(dst, 0, 12);
    }
  }
}

/** A density in units of 1/4096. */
// @ts-ignore: decorator
@inline
function counted(density: f64, most: f64): u32 {
  return <u32>(<i32>Math.floor(4096 * Math.min(most, density) + 0.5)) & 0xffff;
}

/**
 * Linear light through a stock to density.
 * @param cube 33 points a side in log exposure, red fastest, tetrahedral between them; densities in units of 1/4096. Three times over: each point
 * beside its neighbour in red, in green, in blue, as pairs of 16 bits for the three channels and one unused
 * @param greys what lacks between the points on the axis of greys: 32 entries of 4 whole numbers a step and one, in units of 1/(4096 * 32767)
 */
export function stockRow(r: usize, g: usize, b: usize, count: i32, cube: usize, greys: usize): void {
  throughStock(r, g, b, count, cube, greys, 1, false);
}

/** As stockRow, by a share of less than 1; the rest is the density of the light itself. */
export function stockPartRow(r: usize, g: usize, b: usize, count: i32, cube: usize, greys: usize, share: f32): void {
  throughStock(r, g, b, count, cube, greys, share, true);
}

// @ts-ignore: decorator
@inline
function throughStock(r: usize, g: usize, b: usize, count: i32, cube: usize, greys: usize, share: f32, mixed: bool): void {
  const unit = f32x4.mul(v128.load(UNIT), f32x4.splat(share));
  const rest = f32x4.splat(DENSITY * (1 - share));
  const start = i32x4.splat(<i32>cube);
  for (const end = r + (<usize>count << 2); r < end; r += 16, g += 16, b += 16) {
    const er = exposure(v128.load(r)), eg = exposure(v128.load(g)), eb = exposure(v128.load(b));
    const dr = way(er), dg = way(eg), db = way(eb);
    const pg = i32x4.shr_u(eg, 22), pb = i32x4.shr_u(eb, 22);
    // 33 (and its square) times a number, as shifts.
    const row = i32x4.add(pg, i32x4.add(i32x4.shl(pb, 5), pb));
    const near = i32x4.add(start, i32x4.shl(i32x4.add(i32x4.shr_u(er, 22), i32x4.add(i32x4.shl(row, 5), row)), 4));
    // The path from the near corner to the far one goes along the largest fraction first, along the smallest last.
    const low2 = f32x4.pmin(dr, dg), high2 = f32x4.pmax(dr, dg);
    const first = i32x4.add(near, v128.bitselect(v128.and(v128.load(IN_GREEN), f32x4.lt(dr, dg)), v128.load(IN_BLUE), f32x4.ge(high2, db)));
    const last = i32x4.add(near, v128.bitselect(v128.bitselect(v128.load(END_RED), v128.load(END_GREEN), f32x4.lt(dr, dg)), v128.load(END_BLUE), f32x4.le(low2, db)));
    const hi = whole(f32x4.mul(v128.load(PARTS), f32x4.pmax(high2, db)));
    const lo = whole(f32x4.mul(v128.load(PARTS), f32x4.pmin(low2, db)));
    const mid = whole(f32x4.mul(v128.load(PARTS), f32x4.pmax(low2, f32x4.pmin(high2, db))));
    // Two shares lie side by side, as the corners do.
    const begins = v128.or(i32x4.sub(v128.load(ALL), hi), i32x4.shl(i32x4.sub(hi, mid), 16));
    const ends = v128.or(i32x4.sub(mid, lo), i32x4.shl(lo, 16));
    const grey = v128.and(i32x4.shr_u(i32x4.add(eg, v128.load(HALF_ENTRY)), 13), v128.load(ENTRY_BITS));
    let c0 = along(i32x4.extract_lane(first, 0), i32x4.extract_lane(last, 0), v128.shuffle<i32>(begins, begins, 0, 0, 0, 0), v128.shuffle<i32>(ends, ends, 0, 0, 0, 0));
    let c1 = along(i32x4.extract_lane(first, 1), i32x4.extract_lane(last, 1), v128.shuffle<i32>(begins, begins, 1, 1, 1, 1), v128.shuffle<i32>(ends, ends, 1, 1, 1, 1));
    let c2 = along(i32x4.extract_lane(first, 2), i32x4.extract_lane(last, 2), v128.shuffle<i32>(begins, begins, 2, 2, 2, 2), v128.shuffle<i32>(ends, ends, 2, 2, 2, 2));
    let c3 = along(i32x4.extract_lane(first, 3), i32x4.extract_lane(last, 3), v128.shuffle<i32>(begins, begins, 3, 3, 3, 3), v128.shuffle<i32>(ends, ends, 3, 3, 3, 3));
    c0 = i32x4.add(c0, v128.load(greys + <usize>i32x4.extract_lane(grey, 0)));
    c1 = i32x4.add(c1, v128.load(greys + <usize>i32x4.extract_lane(grey, 1)));
    c2 = i32x4.add(c2, v128.load(greys + <usize>i32x4.extract_lane(grey, 2)));
    c3 = i32x4.add(c3, v128.load(greys + <usize>i32x4.extract_lane(grey, 3)));
    const u = v128.shuffle<i32>(c0, c1, 0, 4, 1, 5), v = v128.shuffle<i32>(c2, c3, 0, 4, 1, 5);
    let red = f32x4.mul(unit, f32x4.convert_i32x4_s(v128.shuffle<i32>(u, v, 0, 1, 4, 5)));
    let green = f32x4.mul(unit, f32x4.convert_i32x4_s(v128.shuffle<i32>(u, v, 2, 3, 6, 7)));
    let blue = f32x4.mul(unit, f32x4.convert_i32x4_s(v128.shuffle<i32>(v128.shuffle<i32>(c0, c1, 2, 6, 3, 7), v128.shuffle<i32>(c2, c3, 2, 6, 3, 7), 0, 1, 4, 5)));
    if (mixed) {
      red = f32x4.add(red, ownDensity(v128.load(r), rest));
      green = f32x4.add(green, ownDensity(v128.load(g), rest));
      blue = f32x4.add(blue, ownDensity(v128.load(b), rest));
    }
    v128.store(r, red);
    v128.store(g, green);
    v128.store(b, blue);
  }
}
