import { checkLook } from '../look/check';
import type { Look } from '../look/look';
import homeGauge from './home-gauge.json' with { type: 'json' };
import nightTube from './night-tube.json' with { type: 'json' };
import outOfRegister from './out-of-register.json' with { type: 'json' };

export interface ShippedLook {
  readonly id: string;
  readonly look: Look;
}

/** The looks that ship, checked as they are loaded. */
export const shippedLooks: readonly ShippedLook[] = [
  { id: 'home-gauge', look: checkLook(homeGauge) },
  { id: 'out-of-register', look: checkLook(outOfRegister) },
  { id: 'night-tube', look: checkLook(nightTube) },
];

/** The shipped look with this id, or undefined. */
export const shippedLook = (id: string): Look | undefined => shippedLooks.find((shipped) => shipped.id === id)?.look;
