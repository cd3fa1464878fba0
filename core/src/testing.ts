/** What the tests of this package share: an engine, pictures and measures. Not part of the product. */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { Engine } from './engine';
import { frameBytes, splitPlanes, type Encoding, type RawFrame } from './frame/encoding';
import type { Look, TraitUse } from './look/look';
import { LOOK_SCHEMA } from './look/look';
import { resolveLook } from './look/resolve';
import { Scope, type Counts } from './measure/scope';
import { Plan, type PlanOptions } from './plan/plan';
import './traits';
import type { Counting } from './score/cadence';
import type { FontOutlines } from './text/outlines';
import { readFont } from './text/read-font';
import { shippedFonts } from './text/shipped-fonts';
import { signalPicture, toCodes, type Signal } from './signals/signals';

// Taken once: in hot loops each look-up of a global costs.
const { imul, max, min, round, sqrt } = Math;

const wasm = readFile(createRequire(import.meta.url).resolve('@tin-ghost/core/kernels.wasm'));

export const newEngine = async (): Promise<Engine> => Engine.create(await wasm);

export const RGB16: Encoding = { layout: 'rgb', bits: 16, subX: 0, subY: 0, matrix: 'bt709', range: 'full' };
export const RGB8: Encoding = { ...RGB16, bits: 8 };
export const YUV420: Encoding = { layout: 'yuv', bits: 8, subX: 1, subY: 1, matrix: 'bt709', range: 'limited' };

export const signalFrame = (signal: Signal, width: number, height: number, level?: number, encoding: Encoding = RGB16): RawFrame => ({
  width,
  height,
  encoding,
  planes: toCodes(signalPicture(signal, { width, height, level }), encoding.bits),
});

/** A frame of 16-bit R'G'B' painted by a function of the pixel's middle: a grey, or red, green and blue. Of one that takes no y all rows are as the first. */
export function painted(width: number, height: number, paint: (x: number, y: number) => readonly [number, number, number] | number): RawFrame {
  const [red, green, blue] = [new Uint16Array(width * height), new Uint16Array(width * height), new Uint16Array(width * height)];
  const code = (v: number): number => round(max(0, min(1, v)) * 65535);
  const rows = paint.length < 2 ? 1 : height;
  // Most pictures of tests are of greys, and even over wide parts.
  let coloured = false;
  let [last, lastCode] = [0, 0];
  for (let i = 0, y = 0; y < rows; y++) {
    for (let x = 0; x < width; x++, i++) {
      const v = paint(x + 0.5, y + 0.5);
      if (typeof v === 'number') {
        if (v !== last) [last, lastCode] = [v, code(v)];
        red[i] = lastCode;
        if (coloured) green[i] = blue[i] = lastCode;
        continue;
      }
      if (!coloured) {
        coloured = true;
        for (const plane of [green, blue]) plane.set(red.subarray(0, i));
      }
      red[i] = code(v[0]);
      green[i] = code(v[1]);
      blue[i] = code(v[2]);
    }
  }
  for (const plane of coloured ? [red, green, blue] : [red]) for (let y = rows; y < height; y++) plane.copyWithin(y * width, 0, width);
  if (!coloured) for (const plane of [green, blue]) plane.set(red);
  return { width, height, encoding: RGB16, planes: [red, green, blue].map((plane) => new Uint8Array(plane.buffer)) };
}

let [lastSignal, lastLight] = [0, 0];
/** Light of a display's signal, by BT.1886; below black there is none. */
export function light(signal: number): number {
  // Neighbours are often alike, and a power takes long.
  if (signal !== lastSignal) [lastSignal, lastLight] = [signal, max(0, signal) ** 2.4];
  return lastLight;
}

/** A picture of bytes that look random but are the same every time. */
export function randomFrame(width: number, height: number, encoding: Encoding, seed = 1): RawFrame {
  const data = new Uint8Array(frameBytes(width, height, encoding));
  const mask = encoding.bits > 8 ? 2 ** (encoding.bits - 8) - 1 : 255;
  let h = seed >>> 0;
  for (let i = 0; i < data.length; i++) {
    h = (imul(h, 1664525) + 1013904223) >>> 0;
    data[i] = (h >>> 24) & (encoding.bits > 8 && i % 2 === 1 ? mask : 255);
  }
  return splitPlanes(data, width, height, encoding);
}

/** How a look's pictures are counted, nothing of its films being lost. */
export const countingOf = (look: Look, rate: number): Counting => ({ rate, uses: resolveLook(look) });

export const lookOf = (traits: TraitUse[], carrier = 'super8', seed = 5): Look => ({ schema: LOOK_SCHEMA, shape: 'file', name: 'test', seed, lives: [{ carrier, traits }] });

/** Counts 8-bit RGBA for the scopes. */
export function countPixels(engine: Engine, rgba: Uint8Array, width: number, height: number): Counts {
  const scope = new Scope(engine);
  const at = engine.allocate(rgba.length);
  engine.bytes(at, rgba.length).set(rgba);
  try {
    return scope.count(at, width, height);
  } finally {
    engine.release(at);
    scope.release();
  }
}

/** What a look refers to; one picture stands for all of its plates. */
export type TestFiles = Pick<PlanOptions, 'tables' | 'fonts' | 'plates'> & { readonly plate?: RawFrame };

/** Renders one picture to 16-bit R'G'B' and returns its planes as floats 0..1. */
export function wear(engine: Engine, look: Look, frame: RawFrame, n = 0, rate = 24, files?: TestFiles): Float32Array[] {
  const plan = new Plan(engine, look, { source: frame, target: { width: frame.width, height: frame.height, encoding: RGB16 }, rate, ...files });
  try {
    return plan
      .render(n, frame, undefined, undefined, () => files!.plate!)
      .map((plane) => {
        const codes = new Uint16Array(plane.buffer, plane.byteOffset, plane.length / 2);
        const values = new Float32Array(codes.length);
        for (let i = 0; i < codes.length; i++) values[i] = codes[i]! / 65535;
        return values;
      });
  } finally {
    plan.dispose();
  }
}

/** Renders one picture to R'G'B' floats, neither rounded nor held to 0..1. */
export function wearFloat(engine: Engine, look: Look, frame: RawFrame, n = 0, rate = 24): Float32Array[] {
  const plan = new Plan(engine, look, { source: frame, target: { width: frame.width, height: frame.height, encoding: 'float' }, rate });
  try {
    return plan.render(n, frame).map((plane) => new Float32Array(plane.buffer, plane.byteOffset, plane.length / 4));
  } finally {
    plan.dispose();
  }
}

export const mean = (values: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i]!;
  return sum / values.length;
};

export const rms = (values: ArrayLike<number>): number => {
  const m = mean(values);
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += (values[i]! - m) ** 2;
  return sqrt(sum / values.length);
};

export function correlation(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const [ma, mb] = [mean(a), mean(b)];
  let [both, first, second] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    const [da, db] = [a[i]! - ma, b[i]! - mb];
    both += da * db;
    first += da * da;
    second += db * db;
  }
  return both / sqrt(first * second);
}

/** Whether planes hold the same bits; quick for large ones. */
export const sameBits = (a: readonly Float32Array[], b: readonly Float32Array[]): boolean =>
  a.length === b.length &&
  a.every((plane, i) => Buffer.from(plane.buffer, plane.byteOffset, plane.byteLength).equals(Buffer.from(b[i]!.buffer, b[i]!.byteOffset, b[i]!.byteLength)));

/** A font that ships, with the characters of a text. */
export async function shippedFont(id: string, text: string): Promise<FontOutlines> {
  const { file } = shippedFonts.find((font) => font.id === id)!;
  return readFont(await readFile(createRequire(import.meta.url).resolve(file)), text);
}
