import { softness } from './lens/softness';
import { flicker } from './machine/flicker';
import { gateWeave } from './machine/gate-weave';
import { scanlines } from './screen/scanlines';
import { cadence } from './stock/cadence';
import { channelOffset } from './stock/channel-offset';
import { chromaBandwidth } from './stock/chroma-bandwidth';
import { grain } from './stock/grain';
import { lumaBandwidth } from './stock/luma-bandwidth';
import { noise } from './stock/noise';
import type { AnyTrait } from './trait';
import { dust } from './years/dust';
import { splices } from './years/splices';

/** Every trait there is, in the order they are offered within an act. */
export const traits: readonly AnyTrait[] = [softness, grain, noise, cadence, lumaBandwidth, chromaBandwidth, channelOffset, dust, splices, gateWeave, flicker, scanlines];

const byId = new Map(traits.map((trait) => [trait.id, trait]));

/** The trait with this id, or undefined. */
export const traitById = (id: string): AnyTrait | undefined => byId.get(id);
