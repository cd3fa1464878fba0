import { AS_SHOT, pictureBetween, Plan, preparedSize, type ColourTable, type Look, type Preparation } from '@tin-ghost/core';
import { decodeOne } from './decode';
import { encodingFor } from './encode';
import { rateValue, type Footage } from './footage';
import { newEngine } from './pool';
import { shownParts } from './strike';

export interface FrameOptions {
  readonly size?: { readonly width: number; readonly height: number };
  readonly preparation?: Preparation;
  readonly tables?: Readonly<Record<string, ColourTable>>;
}

/** One worn picture as 8-bit R'G'B' planes: the same bits as that picture of a print. Throws as `decode`. */
export async function renderFrame(footage: Footage, look: Look, n: number, { size, preparation = AS_SHOT, tables }: FrameOptions = {}): Promise<Uint8Array[]> {
  const parts = shownParts(footage, look, footage.rate, n, preparation);
  const frames = await Promise.all(parts.map(({ picture }) => decodeOne(footage, picture)));
  const { width, height } = size ?? preparedSize(footage, preparation);
  const source = { width: footage.width, height: footage.height, encoding: footage.encoding };
  const plan = new Plan(await newEngine(), look, { source, target: { width, height, encoding: encodingFor('png', 8) }, rate: rateValue(footage.rate), preparation, tables });
  return plan.render(n, pictureBetween(frames, parts, preparation.between === 'motion'));
}
