import { AS_SHOT, ledBetweenParts, pictureBetween, Plan, preparedSize, type ColourTable, type Look, type Preparation, type RawFrame } from '@tin-ghost/core';
import { decodeOne } from './decode';
import { encodingFor } from './encode';
import { rateValue, type Footage } from './footage';
import { newEngine } from './pool';
import { partsAt } from './retimed';

export interface FrameOptions {
  readonly size?: { readonly width: number; readonly height: number };
  readonly preparation?: Preparation;
  readonly tables?: Readonly<Record<string, ColourTable>>;
  readonly signal?: AbortSignal;
}

/** One worn picture as 8-bit R'G'B' planes: the same bits as that picture of a print. Throws as `decode`. */
export async function renderFrame(footage: Footage, look: Look, n: number, { size, preparation = AS_SHOT, tables, signal }: FrameOptions = {}): Promise<Uint8Array[]> {
  const { width, height } = size ?? preparedSize(footage, preparation);
  const source = { width: footage.width, height: footage.height, encoding: footage.encoding };
  const plan = new Plan(await newEngine(), look, { source, target: { width, height, encoding: encodingFor('png', 8) }, rate: rateValue(footage.rate), preparation, tables });
  const shot = new Map<number, RawFrame>();
  for (const picture of plan.sourcePictures(n)) {
    const parts = partsAt(footage, footage.rate, picture, preparation, plan.between);
    const frames = await Promise.all(parts.map((part) => decodeOne(footage, part.picture, signal)));
    shot.set(picture, pictureBetween(frames, parts, ledBetweenParts(preparation)));
  }
  return plan.render(n, (picture) => shot.get(picture)!);
}
