import { AS_SHOT, preparedFrames, preparedSize, type Preparation } from '@tin-ghost/core';
import type { Medium } from '@tin-ghost/contract';
import { rateOf } from '../api/footage';
import type { Source } from './protocol';

/** A shot's pictures as they are prepared, from its proxy; null while the footage is not ready. */
export const sourceOf = (medium: Medium, preparation: Preparation = AS_SHOT): Source | null => (medium.state === 'ready' ? earlySourceOf(medium, preparation) : null);

/** As `sourceOf`, but there as soon as the footage has been read, before its proxy is made. */
export function earlySourceOf(medium: Medium, preparation: Preparation = AS_SHOT): Source | null {
  const { footage, proxyWidth, proxyHeight } = medium;
  if (medium.state === 'failed' || !footage || !proxyWidth || !proxyHeight) return null;
  const proxy = { mediaId: medium.id, width: proxyWidth, height: proxyHeight, frames: footage.frames, made: medium.state === 'ready' };
  return { mediaId: medium.id, proxy, preparation, ...preparedSize(proxy, preparation), rate: rateOf(footage), frames: preparedFrames(footage.frames, preparation) };
}
