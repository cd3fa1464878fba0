// Bells, halving and doubling of whole planes, row by row: a plane is read and written along its rows, which is what memory is fast at (stripes of 512
// columns took a fifth longer, of 128 more than twice as long). Edges are continued.
import { mixToward } from './blend';
import { bellRow, bellRows, doubleRow, doubleRows, halveRow, halveRows } from './blur';
import { addRow } from './point';
import { extendRow } from './resample';

const WRITTEN: i32 = 0;
const MIXED: i32 = 1;
const ADDED: i32 = 2;

/** Where rows of a plane go, and how. Addresses, then numbers, four bytes each, in this order. */
@unmanaged
export class Laying {
  dst: usize;
  stride: usize;
  /** 0 written; 1 mixed over what is there, by weights; 2 added to it. */
  how: i32;
  /** A plane of the same stride, whose rows do not fall from their middle outwards, and what is made of it: see mixToward. 0 where there is none. */
  weights: usize;
  /** Of what is added, its share. */
  scale: f32;
  offset: f32;
  /** What will be mixed over this, by the same weights: a scale of 0 where nothing will. */
  nextScale: f32;
  nextOffset: f32;
}

/** Columns come in groups of so many. */
const GROUP: i32 = 16;

/** Whether a column, counted from an end of its row, has so much of a share. */
// @ts-ignore: decorator
@inline
function has(end: usize, step: isize, i: i32, scale: f32, offset: f32, least: f32): bool {
  return load<f32>(end + <usize>(step * i)) * scale + offset >= least;
}

/**
 * How many columns of a row, counted from one of its ends (`step` leads from it inwards) up to its middle, have a share of at least `least`. Looked for from `near` on,
 * as many as a row beside it had.
 */
function sharing(end: usize, step: isize, count: i32, scale: f32, offset: f32, least: f32, near: i32): i32 {
  let low = 0, high = count;
  // Steps double till the end lies between two.
  let i = min(near, count), by = 1;
  if (i > 0 && !has(end, step, i - 1, scale, offset, least)) {
    high = i - 1;
    for (; (i = high - by) >= low; by *= 2) {
      if (has(end, step, i, scale, offset, least)) {
        low = i + 1;
        break;
      }
      high = i;
    }
  } else {
    low = i;
    for (; (i = low + by - 1) < high; by *= 2) {
      if (!has(end, step, i, scale, offset, least)) {
        high = i;
        break;
      }
      low = i + 1;
    }
  }
  while (low < high) {
    i = (low + high) >> 1;
    if (has(end, step, i, scale, offset, least)) low = i + 1;
    else high = i;
  }
  return low;
}

/** The least share that counts: the next number after 0. */
const SOME: f32 = 1.401298464324817e-45;

/** Of the row at hand: columns up to `begin` and from `end` on will be covered; up to `left` and from `right` on there is a share; up to `full` and from `fullRight` on all of it. */
let begin: i32 = 0, left: i32 = 0, full: i32 = 0;
let end: i32 = 0, right: i32 = 0, fullRight: i32 = 0;
/** From an end, so many columns were covered, whole and shared in the row before: where a row's own are looked for first. */
let covered: i32 = 0, whole: i32 = 0, shared: i32 = 0;

/** The first column of a group from `x` on, or the width. */
// @ts-ignore: decorator
@inline
function upTo(x: i32, width: i32): i32 {
  return min(width, (x + GROUP - 1) & -GROUP);
}

/** Which columns of a row are asked for. What counts for nothing is not worked out. @param at bytes from the plane's beginning */
function seek(to: Laying, at: usize, width: i32): void {
  begin = 0, left = width, full = width;
  end = width, right = width, fullRight = width;
  if (to.how == ADDED || to.weights == 0) return;
  const first = to.weights + at, last = first + (<usize>(width - 1) << 2);
  const half = width >> 1;
  // Rounded so that more is worked out, never less.
  if (to.nextScale > 0) {
    covered = sharing(first, 4, half, to.nextScale, to.nextOffset, 1, covered);
    begin = covered & -GROUP;
    end = upTo(width - sharing(last, -4, half, to.nextScale, to.nextOffset, 1, covered), width);
  }
  if (to.how != MIXED) return;
  whole = sharing(first, 4, half, to.scale, to.offset, 1, whole);
  full = whole & -GROUP;
  fullRight = upTo(width - sharing(last, -4, half, to.scale, to.offset, 1, whole), width);
  shared = sharing(first, 4, half, to.scale, to.offset, SOME, shared);
  const sharedRight = sharing(last, -4, half, to.scale, to.offset, SOME, shared);
  if (shared == half && sharedRight == half) return;
  left = upTo(shared, width);
  right = (width - sharedRight) & -GROUP;
  // The two sides meet.
  if (left >= right) left = right = width;
}

/** Row `y`, the first or the last where there is none. */
// @ts-ignore: decorator
@inline
function held(src: usize, stride: usize, y: i32, height: i32): usize {
  return src + <usize>max(0, min(height - 1, y)) * stride;
}

/**
 * A plane filtered by a bell, across rows and along them.
 * @param to lies elsewhere than `src` @param weights as for bellRow @param room 2 (width + 2 reach + 16) + 2 reach + 8 floats
 */
export function bellPlane(to: Laying, src: usize, stride: usize, width: i32, height: i32, weights: usize, reach: i32, room: usize): void {
  for (let y = 0; y < height; y++) bellAt(to, src, stride, y, width, height, weights, reach, room);
}

/**
 * As bellPlane and halvePlane do with one plane, in turns: what the one has read the other finds at hand.
 * @param room as for bellPlane @param halfRoom as for halvePlane
 */
export function bellAndHalvePlane(
  to: Laying, half: usize, halfStride: usize, src: usize, stride: usize, width: i32, height: i32,
  weights: usize, reach: i32, room: usize, halfRoom: usize,
): void {
  for (let y = 0; y < height; y++) {
    bellAt(to, src, stride, y, width, height, weights, reach, room);
    if (!(y & 1)) halveAt(half, halfStride, src, stride, y >> 1, width, height, halfRoom);
  }
}

/** A row of `bellPlane`. */
function bellAt(to: Laying, src: usize, stride: usize, y: i32, width: i32, height: i32, weights: usize, reach: i32, room: usize): void {
  const middle = room + (<usize>((reach + 3) & ~3) << 2);
  const out = room + (<usize>((width + 2 * reach + 16) & ~3) << 2);
  const list = out + (<usize>((width + 16) & ~3) << 2);
  seek(to, <usize>y * to.stride, width);
  bellSpan(to, src, stride, y, begin, min(left, end), width, height, weights, reach, middle, out, list);
  bellSpan(to, src, stride, y, max(right, begin), end, width, height, weights, reach, middle, out, list);
}

/** Columns of a row of `bellPlane`. */
function bellSpan(
  to: Laying, src: usize, stride: usize, y: i32, from: i32, until: i32, width: i32, height: i32,
  weights: usize, reach: i32, middle: usize, out: usize, list: usize,
): void {
  if (from >= until) return;
  const low = max(0, from - reach) & ~3, high = min(width, until + reach);
  const skipped = <usize>low << 2;
  for (let j = -reach; j <= reach; j++) store<u32>(list + (<usize>(j + reach) << 2), <u32>(held(src, stride, y + j, height) + skipped));
  bellRows(middle + skipped, list, high - low, weights, reach);
  // Beyond an end that was not worked out there is nothing to continue, and nobody reads.
  if (low == 0 || high == width) extendRow(middle, width, reach);
  const at = <usize>y * to.stride;
  for (let x = from; x < until;) {
    const next = stretch(to, x, until);
    const place = <usize>x << 2;
    if (written(to, x)) bellRow(to.dst + at + place, middle + place, next - x, weights, reach);
    else {
      bellRow(out, middle + place, next - x, weights, reach);
      lay(to, out, at + place, next - x);
    }
    x = next;
  }
}

/** Whether a column of the row at hand is written: where there is no share of what is there. */
// @ts-ignore: decorator
@inline
function written(to: Laying, x: i32): bool {
  return to.how == WRITTEN || (to.how == MIXED && (x < full || x >= fullRight));
}

/** Where the columns end that go like this one. */
// @ts-ignore: decorator
@inline
function stretch(to: Laying, x: i32, until: i32): i32 {
  if (to.how != MIXED) return until;
  return x < full ? min(full, until) : x < fullRight ? min(fullRight, until) : until;
}

/** Lays samples that are not simply written. @param at bytes from the plane's beginning */
function lay(to: Laying, row: usize, at: usize, count: i32): void {
  if (to.how == MIXED) mixToward(to.dst + at, row, to.weights + at, count, to.scale, to.offset);
  else addRow(to.dst + at, row, count, to.scale);
}

/** Samples by which a row that is halved or doubled is continued on each side. */
const EDGE: i32 = 3;

/** A plane of half the width and height, by halveRows and halveRow. @param room width + 32 floats */
export function halvePlane(dst: usize, dstStride: usize, src: usize, stride: usize, width: i32, height: i32, room: usize): void {
  const rows = (height + 1) >> 1;
  for (let y = 0; y < rows; y++) halveAt(dst, dstStride, src, stride, y, width, height, room);
}

/** A row of `halvePlane`. */
function halveAt(dst: usize, dstStride: usize, src: usize, stride: usize, y: i32, width: i32, height: i32, room: usize): void {
  const middle = room + 32;
  const v = 2 * y;
  halveRows(
    middle, held(src, stride, v - 2, height), held(src, stride, v - 1, height), held(src, stride, v, height),
    held(src, stride, v + 1, height), held(src, stride, v + 2, height), held(src, stride, v + 3, height), width,
  );
  extendRow(middle, width, EDGE);
  halveRow(dst + <usize>y * dstStride, middle, (width + 1) >> 1);
}

/** A plane of `width` by `height` from one of half as many, by doubleRows and doubleRow. @param room 2 width + 64 floats */
export function doublePlane(to: Laying, src: usize, stride: usize, width: i32, height: i32, room: usize): void {
  const columns = (width + 1) >> 1, rows = (height + 1) >> 1;
  const middle = room + 32;
  const out = middle + (<usize>((columns + 19) & ~3) << 2);
  for (let y = 0; y < height; y++) {
    seek(to, <usize>y * to.stride, width);
    doubleSpan(to, src, stride, y, begin, min(left, end), width, columns, rows, middle, out);
    doubleSpan(to, src, stride, y, max(right, begin), end, width, columns, rows, middle, out);
  }
}

/** Columns of a row of `doublePlane`. */
function doubleSpan(to: Laying, src: usize, stride: usize, y: i32, from: i32, until: i32, width: i32, columns: i32, rows: i32, middle: usize, out: usize): void {
  if (from >= until) return;
  const near = y >> 1;
  const toward = y & 1 ? 1 : -1;
  const low = max(0, (from >> 1) - EDGE) & ~3, high = min(columns, ((until + 1) >> 1) + EDGE);
  const skipped = <usize>low << 2;
  doubleRows(
    middle + skipped, held(src, stride, near + toward, rows) + skipped, held(src, stride, near, rows) + skipped, held(src, stride, near - toward, rows) + skipped, high - low,
  );
  if (low == 0 || high == columns) extendRow(middle, columns, EDGE);
  const at = <usize>y * to.stride;
  for (let x = from; x < until;) {
    const next = stretch(to, x, until);
    const place = <usize>x << 2;
    const half = middle + (<usize>(x >> 1) << 2);
    if (written(to, x)) doubleRow(to.dst + at + place, half, (next - x + 1) >> 1);
    else {
      doubleRow(out, half, (next - x + 1) >> 1);
      lay(to, out, at + place, next - x);
    }
    x = next;
  }
}
