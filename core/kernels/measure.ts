// Counting the values of pictures, for scopes and figures.

/** BT.709 luma weights and the scales of its colour differences, in 65536ths. */
const RED: i32 = 13933, GREEN: i32 = 46871, BLUE: i32 = 4732;
const TO_CB: i32 = 35318, TO_CR: i32 = 41616;

// @ts-ignore: decorator
@inline
function bump<T>(p: usize): void {
  store<T>(p, <T>(load<T>(p) + 1));
}

/** Byte offset of a value's row in a waveform. */
// @ts-ignore: decorator
@inline
function level(v: i32): usize {
  return <usize>((255 - v) >> 1) << 8;
}

/**
 * Counts one row of 8-bit RGBA, every `step`th pixel of `count`. `columns` holds for each pixel counted the byte offset of its column
 * in the four waveforms, which lie one after the other (`wave` bytes apart): luma, red, green, blue, each 128 rows of 128 columns, the highest
 * levels first, two to a row, in counters of 16 bits.
 * `vector` is 128 rows (Cr, the highest first) of 128 (Cb), two levels each; `bins` four times 256: luma, red, green, blue.
 */
export function countRow(rgba: usize, count: i32, step: i32, columns: usize, waves: usize, wave: usize, vector: usize, bins: usize): void {
  const end = rgba + (<usize>count << 2);
  const stride = <usize>step << 2;
  for (; rgba < end; rgba += stride) {
    const pixel = load<u32>(rgba);
    const r = <i32>(pixel & 255), g = <i32>((pixel >> 8) & 255), b = <i32>((pixel >> 16) & 255);
    const y = (RED * r + GREEN * g + BLUE * b + 32768) >> 16;
    const cb = min<i32>(255, 128 + (((b - y) * TO_CB + 32768) >> 16));
    const cr = min<i32>(255, 128 + (((r - y) * TO_CR + 32768) >> 16));
    const column = waves + <usize>load<u32>(columns);
    columns += 4;
    bump<u16>(column + level(y));
    bump<u16>(column + wave + level(r));
    bump<u16>(column + 2 * wave + level(g));
    bump<u16>(column + 3 * wave + level(b));
    bump<u16>(vector + level(cr) + (<usize>(cb >> 1) << 1));
    bump<u32>(bins + (<usize>y << 2));
    bump<u32>(bins + 1024 + (<usize>r << 2));
    bump<u32>(bins + 2048 + (<usize>g << 2));
    bump<u32>(bins + 3072 + (<usize>b << 2));
  }
}

/** Adds to out[0] the pixels of a row that have a channel below `low`, to out[1] those with one above `high`. Planes are padded to 4. */
export function beyondRow(r: usize, g: usize, b: usize, count: i32, low: f32, high: f32, out: usize): void {
  const floor = f32x4.splat(low), ceiling = f32x4.splat(high);
  let below: u32 = 0, above: u32 = 0;
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const x = v128.load(r + at), y = v128.load(g + at), z = v128.load(b + at);
    // The last group may reach past the row.
    const mask = end - at >= 16 ? 15 : (1 << (<i32>(end - at) >> 2)) - 1;
    below += popcnt(i32x4.bitmask(f32x4.lt(f32x4.pmin(x, f32x4.pmin(y, z)), floor)) & mask);
    above += popcnt(i32x4.bitmask(f32x4.gt(f32x4.pmax(x, f32x4.pmax(y, z)), ceiling)) & mask);
  }
  store<u32>(out, load<u32>(out) + below);
  store<u32>(out, load<u32>(out, 4) + above, 4);
}

export function clearBytes(p: usize, bytes: usize): void {
  memory.fill(p, 0, bytes);
}

/** `count` counters of 16 bits (a multiple of 16) as bytes, held at 255. */
export function narrowCounts(dst: usize, src: usize, count: i32): void {
  const most = i16x8.splat(255);
  const end = dst + <usize>count;
  for (; dst < end; dst += 16) {
    v128.store(dst, i8x16.narrow_i16x8_u(i16x8.min_u(v128.load(src), most), i16x8.min_u(v128.load(src, 16), most)));
    src += 32;
  }
}
