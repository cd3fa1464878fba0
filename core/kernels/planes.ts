// Bells, halving and doubling of whole planes, row by row: a plane is read and written along its rows, which is what memory is fast at (stripes of 512
// columns took a fifth longer, of 128 more than twice as long). Edges are continued.
import { mixToward } from './blend';
import { bellRow, bellRows, doubleRow, doubleRows, halveRow, halveRows } from './blur';
import { addRow } from './point';
import { extendRow } from './resample';

const WRITTEN: i32 = 0;
const MIXED: i32 = 1;

/** Where rows of a plane go, and how. Addresses, then numbers, four bytes each, in this order. */
@unmanaged
export class Laying {
  dst: usize;
  stride: usize;
  /** 0 written; 1 mixed over what is there, by weights; 2 added to it. */
  how: i32;
  /** A plane of the same stride, and what is made of it: see mixToward. */
  weights: usize;
  /** Of what is added, its share. */
  scale: f32;
  offset: f32;
}

/** Lays samples that are not simply written. @param at bytes from the plane's beginning */
function lay(to: Laying, row: usize, at: usize, count: i32): void {
  if (to.how == MIXED) mixToward(to.dst + at, row, to.weights + at, count, to.scale, to.offset);
  else addRow(to.dst + at, row, count, to.scale);
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
  const middle = room + (<usize>((reach + 3) & ~3) << 2);
  const out = room + (<usize>((width + 2 * reach + 16) & ~3) << 2);
  const list = out + (<usize>((width + 16) & ~3) << 2);
  for (let y = 0; y < height; y++) {
    for (let j = -reach; j <= reach; j++) store<u32>(list + (<usize>(j + reach) << 2), <u32>held(src, stride, y + j, height));
    bellRows(middle, list, width, weights, reach);
    extendRow(middle, width, reach);
    const at = <usize>y * to.stride;
    if (to.how == WRITTEN) bellRow(to.dst + at, middle, width, weights, reach);
    else {
      bellRow(out, middle, width, weights, reach);
      lay(to, out, at, width);
    }
  }
}

/** Samples by which a row that is halved or doubled is continued on each side. */
const EDGE: i32 = 3;

/** A plane of half the width and height, by halveRows and halveRow. @param room width + 32 floats */
export function halvePlane(dst: usize, dstStride: usize, src: usize, stride: usize, width: i32, height: i32, room: usize): void {
  const columns = (width + 1) >> 1, rows = (height + 1) >> 1;
  const middle = room + 32;
  for (let y = 0; y < rows; y++) {
    const v = 2 * y;
    halveRows(
      middle, held(src, stride, v - 2, height), held(src, stride, v - 1, height), held(src, stride, v, height),
      held(src, stride, v + 1, height), held(src, stride, v + 2, height), held(src, stride, v + 3, height), width,
    );
    extendRow(middle, width, EDGE);
    halveRow(dst + <usize>y * dstStride, middle, columns);
  }
}

/** A plane of `width` by `height` from one of half as many, by doubleRows and doubleRow. @param room 2 width + 64 floats */
export function doublePlane(to: Laying, src: usize, stride: usize, width: i32, height: i32, room: usize): void {
  const columns = (width + 1) >> 1, rows = (height + 1) >> 1;
  const middle = room + 32;
  const out = middle + (<usize>((columns + 19) & ~3) << 2);
  for (let y = 0; y < height; y++) {
    const near = y >> 1;
    const toward = y & 1 ? 1 : -1;
    doubleRows(middle, held(src, stride, near + toward, rows), held(src, stride, near, rows), held(src, stride, near - toward, rows), columns);
    extendRow(middle, columns, EDGE);
    const at = <usize>y * to.stride;
    if (to.how == WRITTEN) doubleRow(to.dst + at, middle, columns);
    else {
      doubleRow(out, middle, columns);
      lay(to, out, at, width);
    }
  }
}
