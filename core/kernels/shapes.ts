// How much small shapes cover of the pixels of a row: `count` samples from column `left` of row `y`, in groups of four.

/** Columns of four pixels, their middles. */
// @ts-ignore: decorator
@inline
function middles(first: f32): v128 {
  return f32x4.add(f32x4.splat(first), f32x4(0.5, 1.5, 2.5, 3.5));
}

/**
 * Blobs that melt into each other: the sum over them of r2 / (dx^2 stretch + dy^2 / stretch + r2 / 5), where dx leans with dy, is cut at `level`, over `edge`.
 * @param blobs five floats each: x, y, r2, stretch, lean @returns 0 where nothing is covered
 */
export function blobsRow(dst: usize, count: i32, left: f32, y: f32, blobs: usize, blobCount: i32, level: f32, edge: f32): i32 {
  const zero = f32x4.splat(0), one = f32x4.splat(1), half = f32x4.splat(0.5);
  const cut = f32x4.splat(level), per = f32x4.splat(1 / edge);
  const last = blobs + <usize>blobCount * 20;
  let any = zero;
  for (let x = 0; x < count; x += 4) {
    const at = middles(left + <f32>x);
    let field = zero;
    for (let b = blobs; b < last; b += 20) {
      const dy: f32 = y + 0.5 - load<f32>(b, 4);
      const stretch = load<f32>(b, 12);
      const r2 = load<f32>(b, 8);
      const dx = f32x4.add(at, f32x4.splat(load<f32>(b, 16) * dy - load<f32>(b)));
      const below = f32x4.add(f32x4.mul(f32x4.mul(dx, dx), f32x4.splat(stretch)), f32x4.splat((dy * dy) / stretch + 0.2 * r2));
      field = f32x4.add(field, f32x4.div(f32x4.splat(r2), below));
    }
    const c = f32x4.pmax(zero, f32x4.pmin(one, f32x4.add(f32x4.mul(f32x4.sub(field, cut), per), half)));
    any = v128.or(any, c);
    v128.store(dst + (<usize>x << 2), c);
  }
  return v128.any_true(any) ? 1 : 0;
}

/** How far four places are from a piece that goes by (vx, vy): they lie at (dx, dy) from its beginning; `t` is how far along it, 0 to 1, they are nearest. */
// @ts-ignore: decorator
@inline
function awayFrom(dx: v128, dy: f32, vx: f32, vy: f32, t: v128): v128 {
  const ex = f32x4.sub(dx, f32x4.mul(t, f32x4.splat(vx)));
  const ey = f32x4.sub(f32x4.splat(dy), f32x4.mul(t, f32x4.splat(vy)));
  return f32x4.sqrt(f32x4.add(f32x4.mul(ex, ex), f32x4.mul(ey, ey)));
}

// @ts-ignore: decorator
@inline
function alongPiece(dx: v128, dy: f32, vx: f32, vy: f32): v128 {
  const perLong: f32 = 1 / max<f32>(1e-9, vx * vx + vy * vy);
  const along = f32x4.mul(f32x4.add(f32x4.mul(dx, f32x4.splat(vx)), f32x4.splat(dy * vy)), f32x4.splat(perLong));
  return f32x4.pmax(f32x4.splat(0), f32x4.pmin(f32x4.splat(1), along));
}

/**
 * Lines of one width, each by itself, laid on a row as coverage where they cover more than what is there.
 * @param lines x0, y0, x1, y1 of each, across in the units of `wide` @param wide of a sample; they are as high as 1 @param half half the lines' width
 */
export function strokesRow(dst: usize, count: i32, left: f32, wide: f32, y: f32, lines: usize, lineCount: i32, half: f32): void {
  const zero = f32x4.splat(0), one = f32x4.splat(1), edge = f32x4.splat(half + 0.5), widths = f32x4.splat(wide);
  const padded = (count + 3) & ~3;
  const py: f32 = y + 0.5;
  const reach: f32 = half + 1;
  for (let i = 0; i < lineCount; i++) {
    const p = lines + (<usize>i << 4);
    const x0 = load<f32>(p), y0 = load<f32>(p, 4), x1 = load<f32>(p, 8), y1 = load<f32>(p, 12);
    if (py < min(y0, y1) - reach || py > max(y0, y1) + reach) continue;
    const vx: f32 = x1 - x0, vy: f32 = y1 - y0, dy: f32 = py - y0;
    const from = max<i32>(0, <i32>nearest((min(x0, x1) - reach) / wide - left - 1)) & ~3;
    const to = min<i32>(padded, <i32>nearest((max(x0, x1) + reach) / wide - left + 1));
    for (let x = from; x < to; x += 4) {
      const dx = f32x4.sub(f32x4.mul(middles(left + <f32>x), widths), f32x4.splat(x0));
      const off = awayFrom(dx, dy, vx, vy, alongPiece(dx, dy, vx, vy));
      const at = dst + (<usize>x << 2);
      v128.store(at, f32x4.pmax(v128.load(at), f32x4.pmax(zero, f32x4.pmin(one, f32x4.sub(edge, off)))));
    }
  }
}

/**
 * A line of straight pieces, as wide as 2 * half in its middle and less by a share of `taper` toward both ends, with a border; `share` of it covers.
 * @param points x and y of each of its points @param reach beyond which nothing of it is seen @returns 0 where nothing is covered
 */
export function strokeRow(
  dst: usize, count: i32, left: f32, y: f32, points: usize, pieces: i32,
  half: f32, border: f32, reach: f32, taper: f32, share: f32,
): i32 {
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  const wide = f32x4.splat(half), narrowing = f32x4.splat(half * taper), per = f32x4.splat(1 / border), middle = f32x4.splat(0.5), most = f32x4.splat(share);
  const padded = (count + 3) & ~3;
  memory.fill(dst, 0, <usize>padded << 2);
  const py: f32 = y + 0.5;
  let any = zero;
  for (let i = 0; i < pieces; i++) {
    const p = points + (<usize>i << 3);
    const x0 = load<f32>(p), y0 = load<f32>(p, 4), x1 = load<f32>(p, 8), y1 = load<f32>(p, 12);
    if (py < min(y0, y1) - reach || py > max(y0, y1) + reach) continue;
    const vx: f32 = x1 - x0, vy: f32 = y1 - y0, dy: f32 = py - y0;
    const from = max<i32>(0, <i32>nearest(min(x0, x1) - reach - left - 1)) & ~3;
    const to = min<i32>(padded, <i32>nearest(max(x0, x1) + reach - left + 1));
    const first = f32x4.splat((<f32>i / <f32>pieces) * <f32>2 - <f32>1), perPiece = f32x4.splat(<f32>2 / <f32>pieces);
    for (let x = from; x < to; x += 4) {
      const dx = f32x4.sub(middles(left + <f32>x), f32x4.splat(x0));
      const t = alongPiece(dx, dy, vx, vy);
      const off = awayFrom(dx, dy, vx, vy, t);
      const along = f32x4.add(first, f32x4.mul(t, perPiece));
      const reaches = f32x4.sub(wide, f32x4.mul(narrowing, f32x4.mul(along, along)));
      const c = f32x4.mul(most, f32x4.pmax(zero, f32x4.pmin(one, f32x4.add(f32x4.mul(f32x4.sub(reaches, off), per), middle))));
      const at = dst + (<usize>x << 2);
      const now = f32x4.pmax(v128.load(at), c);
      any = v128.or(any, now);
      v128.store(at, now);
    }
  }
  return v128.any_true(any) ? 1 : 0;
}
