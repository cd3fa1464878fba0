import { Registry } from '../registry';
import { broadcast } from './broadcast';
import type { Carrier } from './carrier';
import { closedCircuit } from './closed-circuit';
import { componentTape } from './component-tape';
import { film16 } from './film16';
import { film35 } from './film35';
import { film8 } from './film8';
import { none } from './none';
import { super16 } from './super16';
import { super8 } from './super8';
import { tape8 } from './tape8';
import { vhs } from './vhs';

export type { Carrier, Film, Raster, Recorder } from './carrier';

const registry = new Registry<Carrier>('carrier', [none, film8, super8, film16, super16, film35, ...vhs, ...tape8, ...componentTape, ...broadcast, ...closedCircuit]);

/** Every carrier, in the order they are offered. */
export const carriers = registry.all;

/** The carrier with this id, or undefined. */
export const carrierById = (id: string): Carrier | undefined => registry.find(id);

/** Adds a carrier from outside: looks may use it from now on, in this thread. Throws RangeError where its id is taken or is none. */
export const registerCarrier = (carrier: Carrier): void => registry.add(carrier);

/** The gate that micrometres are measured on where the carrier has none: 16 mm, the middle of the film gauges. */
export const REFERENCE_GATE = film16.gate!;
