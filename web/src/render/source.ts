import { AS_SHOT, preparedFrames, preparedSize, type Preparation } from '@tin-ghost/core';
import type { Medium } from '@tin-ghost/contract';
import { rateOf } from '../api/footage';
import type { Source } from './protocol';

/** A shot's pictures as they are prepared, from its proxy; null while the footage is not ready. */
export function sourceOf(medium: Medium, preparation: Preparation = AS_SHOT): Source | null {
  const { footage, proxyWidth, proxyHeight } = medium;
  if (medium.state !== 'ready' || !footage || !proxyWidth || !proxyHeight) return null;
  const proxy = { mediaId: medium.id, width: proxyWidth, height: proxyHeight, frames: footage.frames };
  return { mediaId: medium.id, proxy, preparation, ...preparedSize(proxy, preparation), rate: rateOf(footage), frames: preparedFrames(footage.frames, preparation) };
}
