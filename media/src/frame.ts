import { Plan, type Look } from '@tin-ghost/core';
import { decodeOne } from './decode';
import { encodingFor } from './encode';
import { rateValue, type Footage } from './footage';
import { newEngine } from './pool';
import { shownFrame } from './strike';

/** One worn picture as 8-bit R'G'B' planes: the same bits as that picture of a print. Throws as `decode`. */
export async function renderFrame(footage: Footage, look: Look, n: number, size: { width: number; height: number } = footage): Promise<Uint8Array[]> {
  const frame = await decodeOne(footage, shownFrame(footage, look, footage.rate, n));
  const { width, height } = size;
  const plan = new Plan(await newEngine(), look, { source: frame, target: { width, height, encoding: encodingFor('png', 8) }, rate: rateValue(footage.rate) });
  return plan.render(n, frame);
}
