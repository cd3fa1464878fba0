import { bytesPerSample, planeShapes, type RawFrame } from '../frame/encoding';
import type { Part } from './preparation';

// Taken once: in hot loops each look-up of a global costs.
const { abs, floor, max, min, round } = Math;

type Codes = Uint8Array | Uint16Array;
const codesOf = (plane: Uint8Array, bytes: number): Codes => (bytes === 1 ? plane : new Uint16Array(plane.buffer.slice(plane.byteOffset, plane.byteOffset + plane.byteLength)));
const bytesOf = (codes: Codes): Uint8Array => new Uint8Array(codes.buffer, codes.byteOffset, codes.byteLength);

/**
 * One picture from those of the footage that share in it.
 * @param frames in the order of `parts`, of one size and encoding
 * @param motion things are led along their way instead of fading from place to place; of two pictures
 */
export function pictureBetween(frames: readonly RawFrame[], parts: readonly Part[], motion: boolean): RawFrame {
  if (frames.length === 1) return frames[0]!;
  if (motion && frames.length === 2) return ledBetween(frames[0]!, frames[1]!, parts[1]!.share);
  const { width, height, encoding } = frames[0]!;
  const bytes = bytesPerSample(encoding);
  const planes = frames[0]!.planes.map((_, plane) => {
    const sources = frames.map((frame) => codesOf(frame.planes[plane]!, bytes));
    const out = bytes === 1 ? new Uint8Array(sources[0]!.length) : new Uint16Array(sources[0]!.length);
    for (let i = 0; i < out.length; i++) {
      let sum = 0.5;
      for (let k = 0; k < sources.length; k++) sum += sources[k]![i]! * parts[k]!.share;
      out[i] = sum;
    }
    return bytesOf(out);
  });
  return { width, height, encoding, planes };
}

/** A plane of whole numbers. */
interface Grey {
  readonly width: number;
  readonly height: number;
  readonly codes: Codes;
}

/** Motion is sought for blocks this large, on pictures halved until they are about this wide, then finer. */
const BLOCK = 16;
const COARSEST = 80;
const REACH = 4;

/** Half the size, by means of four. */
function halved({ width, height, codes }: Grey): Grey {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Uint16Array(w * h);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      out[y * w + x] = (codes[i]! + codes[i + 1]! + codes[i + width]! + codes[i + width + 1]! + 2) >> 2;
    }
  }
  return { width: w, height: h, codes: out };
}

/** Motion of blocks, in pixels from the earlier picture to the later. */
interface Field {
  readonly across: number;
  readonly down: number;
  readonly x: Float32Array;
  readonly y: Float32Array;
}

const blocksOf = (size: number): number => max(1, Math.ceil(size / BLOCK));

/**
 * How much two pictures differ over a block of the picture between them, where the earlier is taken `share` of a motion back and
 * the later the rest of it on.
 */
function difference(a: Grey, b: Grey, left: number, top: number, vx: number, vy: number, share: number, limit: number): number {
  const { width, height } = a;
  const [ax, ay] = [round(-share * vx), round(-share * vy)];
  const [bx, by] = [round((1 - share) * vx), round((1 - share) * vy)];
  let sum = 0;
  for (let y = top; y < min(height, top + BLOCK); y += 2) {
    const ra = max(0, min(height - 1, y + ay)) * width;
    const rb = max(0, min(height - 1, y + by)) * width;
    for (let x = left; x < min(width, left + BLOCK); x += 2) {
      sum += abs(a.codes[ra + max(0, min(width - 1, x + ax))]! - b.codes[rb + max(0, min(width - 1, x + bx))]!);
    }
    if (sum > limit) return sum;
  }
  return sum;
}

/** Motion of all blocks at one size, from that found at half the size. */
function refined(a: Grey, b: Grey, before: Field | undefined, share: number): Field {
  const [across, down] = [blocksOf(a.width), blocksOf(a.height)];
  const field: Field = { across, down, x: new Float32Array(across * down), y: new Float32Array(across * down) };
  const reach = before ? 2 : REACH;
  // A longer motion must be the better by a little: flat blocks stay where they are.
  const toll = BLOCK / 4;
  for (let j = 0; j < down; j++) {
    for (let i = 0; i < across; i++) {
      const guesses: [number, number][] = [[0, 0]];
      if (before) {
        for (const [di, dj] of [
          [0, 0],
          [-1, 0],
          [1, 0],
          [0, -1],
          [0, 1],
        ] as const) {
          const n = max(0, min(before.down - 1, (j >> 1) + dj)) * before.across + max(0, min(before.across - 1, (i >> 1) + di));
          guesses.push([2 * before.x[n]!, 2 * before.y[n]!]);
        }
      }
      let [bestX, bestY, best] = [0, 0, Infinity];
      const attempt = (x: number, y: number): void => {
        const cost = difference(a, b, i * BLOCK, j * BLOCK, x, y, share, best) + toll * (abs(x) + abs(y));
        if (cost < best) [bestX, bestY, best] = [x, y, cost];
      };
      for (const [x, y] of guesses) attempt(x, y);
      const [midX, midY] = [bestX, bestY];
      for (let y = -reach; y <= reach; y++) for (let x = -reach; x <= reach; x++) if (x !== 0 || y !== 0) attempt(midX + x, midY + y);
      field.x[j * across + i] = bestX;
      field.y[j * across + i] = bestY;
    }
  }
  return field;
}

/** Between the middles of blocks motion changes evenly. */
function motionAt(field: Field, values: Float32Array, x: number, y: number): number {
  const [u, v] = [max(0, min(field.across - 1, x / BLOCK - 0.5)), max(0, min(field.down - 1, y / BLOCK - 0.5))];
  const [i, j] = [min(field.across - 1, floor(u)), min(field.down - 1, floor(v))];
  const [i1, j1] = [min(field.across - 1, i + 1), min(field.down - 1, j + 1)];
  const [fx, fy] = [u - i, v - j];
  const up = values[j * field.across + i]! * (1 - fx) + values[j * field.across + i1]! * fx;
  return up * (1 - fy) + (values[j1 * field.across + i]! * (1 - fx) + values[j1 * field.across + i1]! * fx) * fy;
}

/** A sample between four, the edges continued. */
function sampled({ width, height, codes }: Grey, x: number, y: number): number {
  const [u, v] = [max(0, min(width - 1, x)), max(0, min(height - 1, y))];
  const [i, j] = [floor(u), floor(v)];
  const [i1, j1] = [min(width - 1, i + 1), min(height - 1, j + 1)];
  const up = codes[j * width + i]! * (1 - (u - i)) + codes[j * width + i1]! * (u - i);
  return up * (1 - (v - j)) + (codes[j1 * width + i]! * (1 - (u - i)) + codes[j1 * width + i1]! * (u - i)) * (v - j);
}

/** The picture `share` of the way from one to the next, each thing led along its motion. */
function ledBetween(a: RawFrame, b: RawFrame, share: number): RawFrame {
  const { width, height, encoding } = a;
  const bytes = bytesPerSample(encoding);
  const shapes = planeShapes(width, height, encoding);
  // Motion is sought in luma, or in green where there is none.
  const by = encoding.layout === 'rgb' ? 1 : 0;
  const levels: [Grey, Grey][] = [[a, b].map((f) => ({ width, height, codes: codesOf(f.planes[by]!, bytes) })) as [Grey, Grey]];
  while (levels.at(-1)![0].width > 2 * COARSEST) levels.push(levels.at(-1)!.map(halved) as [Grey, Grey]);
  let field: Field | undefined;
  for (const [early, late] of [...levels].reverse()) field = refined(early, late, field, share);
  const planes = shapes.map((shape, plane) => {
    const [early, late] = [a, b].map((f) => ({ width: shape.width, height: shape.height, codes: codesOf(f.planes[plane]!, bytes) })) as [Grey, Grey];
    const out = bytes === 1 ? new Uint8Array(early.codes.length) : new Uint16Array(early.codes.length);
    const [sx, sy] = [width / shape.width, height / shape.height];
    for (let y = 0; y < shape.height; y++) {
      for (let x = 0; x < shape.width; x++) {
        const vx = motionAt(field!, field!.x, x * sx, y * sy) / sx;
        const vy = motionAt(field!, field!.y, x * sx, y * sy) / sy;
        const early1 = sampled(early, x - share * vx, y - share * vy);
        const late1 = sampled(late, x + (1 - share) * vx, y + (1 - share) * vy);
        out[y * shape.width + x] = early1 + (late1 - early1) * share + 0.5;
      }
    }
    return bytesOf(out);
  });
  return { width, height, encoding, planes };
}
