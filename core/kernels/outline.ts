// Outlines filled with exact coverage: what each line leaves to its right is laid down as differences, which are then added up along the row.

/** One line's share of a row of `width` samples: it goes from `xa` to `xb` while it covers `d` of the row's height, by its sense. */
function shareOfRow(row: usize, width: f64, xa: f64, xb: f64, d: f64): void {
  let x0 = min(max(min(xa, xb), 0), width);
  let x1 = min(max(max(xa, xb), 0), width);
  const first = floor(x0);
  const p = row + (<usize>(<i32>first) << 2);
  const cells = <i32>(ceil(x1) - first);
  if (cells <= 1) {
    // What of the cell lies left of the line's middle.
    const left = 0.5 * (x0 + x1) - first;
    store<f32>(p, <f32>(load<f32>(p) + d * (1 - left)));
    store<f32>(p, <f32>(load<f32>(p, 4) + d * left), 4);
    return;
  }
  const per = 1 / (x1 - x0);
  x0 -= first;
  x1 -= first;
  // What is covered up to the end of each cell, and from that what each adds.
  let before: f64 = 0;
  for (let i = 0; i <= cells; i++) {
    const from = min(max(<f64>i, x0), x1), to = min(max(<f64>(i + 1), x0), x1);
    // The line's height above the cell grows evenly between `from` and `to`; after that it is whole.
    const inside = (to - from) * per * (<f64>(i + 1) - 0.5 * (from + to));
    const passed = (from - x0) * per;
    const covered = inside + passed;
    const at = p + (<usize>i << 2);
    store<f32>(at, <f32>(load<f32>(at) + d * (covered - before)));
    before = covered;
  }
}

/**
 * Lays down the outlines of a plane. Rows are `stride` bytes apart, zero before, and hold `width` + 2 samples or more.
 * @param lines x0, y0, x1, y1 of each as f32, in samples of the plane; what lies outside is cut
 */
export function outlineLines(rows: usize, width: i32, height: i32, stride: usize, lines: usize, count: i32): void {
  for (let i = 0; i < count; i++) {
    const at = lines + (<usize>i << 4);
    let x0: f64 = load<f32>(at), y0: f64 = load<f32>(at, 4), x1: f64 = load<f32>(at, 8), y1: f64 = load<f32>(at, 12);
    if (y0 == y1) continue;
    let sense: f64 = 1;
    if (y0 > y1) {
      sense = -1;
      const x = x0, y = y0;
      x0 = x1;
      y0 = y1;
      x1 = x;
      y1 = y;
    }
    const slope = (x1 - x0) / (y1 - y0);
    const top = max<i32>(0, <i32>floor(max<f64>(y0, -1))), bottom = min<i32>(height, <i32>ceil(min<f64>(y1, <f64>height)));
    for (let y = top; y < bottom; y++) {
      const from = max<f64>(<f64>y, y0), to = min<f64>(<f64>(y + 1), y1);
      if (to > from) shareOfRow(rows + <usize>y * stride, <f64>width, x0 + (from - y0) * slope, x0 + (to - y0) * slope, sense * (to - from));
    }
  }
}

/** Adds the differences of a row up to coverage, 0 to 1: what an outline goes round in either sense is inside. */
export function coverageRow(row: usize, count: i32): void {
  let sum: f64 = 0;
  for (const end = row + (<usize>count << 2); row < end; row += 4) {
    sum += load<f32>(row);
    const covered = <f32>min<f64>(1, abs(sum));
    store<f32>(row, covered < <f32>1e-4 ? 0 : covered);
  }
}

/** dst[x] = dst[x] * (1 - share * cover[x]) + share * colour[x]: a picture with its coverage, its colour times that, over another. Whole groups of four. */
export function overRow(dst: usize, colour: usize, cover: usize, count: i32, share: f32): void {
  const s = f32x4.splat(share);
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) {
    const d = v128.load(dst + x);
    v128.store(dst + x, f32x4.add(d, f32x4.mul(s, f32x4.sub(v128.load(colour + x), f32x4.mul(d, v128.load(cover + x))))));
  }
}

/** dst[x] = dst[x] / cover[x], 0 where nothing covers: colours that came times their alpha, as they are. */
export function dividedRow(dst: usize, cover: usize, count: i32): void {
  const zero = f32x4.splat(0), least = f32x4.splat(<f32>0.5 / 255);
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) {
    const c = v128.load(cover + x);
    v128.store(dst + x, v128.bitselect(zero, f32x4.div(v128.load(dst + x), c), f32x4.lt(c, least)));
  }
}
