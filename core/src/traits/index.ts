import { scanlines } from './screen/scanlines';
import { channelOffset } from './stock/channel-offset';
import { grain } from './stock/grain';
import type { AnyTrait } from './trait';

/** Every trait there is, in the order they are offered within an act. */
export const traits: readonly AnyTrait[] = [channelOffset, grain, scanlines];

const byId = new Map(traits.map((trait) => [trait.id, trait]));

/** The trait with this id, or undefined. */
export const traitById = (id: string): AnyTrait | undefined => byId.get(id);
