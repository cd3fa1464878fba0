import type { Engine } from '../engine';
import type { Look } from '../look/look';
import { resolveLook } from '../look/resolve';

/** Makes what the traits of a look can make without a picture, and plans of this engine then find made. */
export function makeAhead(engine: Engine, look: Look): void {
  for (const { trait, values, strength } of resolveLook(look)) if (strength > 0) trait.ahead?.(engine, values as never);
}
