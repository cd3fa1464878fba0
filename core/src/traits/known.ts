import { Registry } from '../registry';
import type { AnyTrait } from './trait';

// Which traits there are is known here, and none of them: `./index` declares those that ship, a program its own.
const registry = new Registry<AnyTrait>('trait', []);

/** Every trait, in the order they are offered within an act. */
export const traits = registry.all;

/** The trait with this id, or undefined. */
export const traitById = (id: string): AnyTrait | undefined => registry.find(id);

/** Adds a trait: looks may use it from now on, in this thread. Throws RangeError where its id is taken or is none. */
export const registerTrait = (trait: AnyTrait): void => registry.add(trait);
