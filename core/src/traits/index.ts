import { balance } from './colour/balance';
import { cdl } from './colour/cdl';
import { exposure } from './colour/exposure';
import { hues } from './colour/hues';
import { ranges } from './colour/ranges';
import { saturation } from './colour/saturation';
import { table } from './colour/table';
import { toneCurves } from './colour/tone-curves';
import { twoTone } from './colour/two-tone';
import { wash } from './colour/wash';
import { lightLeak } from './lens/light-leak';
import { mist } from './lens/mist';
import { softness } from './lens/softness';
import { vignette } from './lens/vignette';
import { flicker } from './machine/flicker';
import { gateWeave } from './machine/gate-weave';
import { aspectMask } from './screen/aspect-mask';
import { scanlines } from './screen/scanlines';
import { cadence } from './stock/cadence';
import { channelOffset } from './stock/channel-offset';
import { chromaBandwidth } from './stock/chroma-bandwidth';
import { dyes } from './stock/dyes';
import { grain } from './stock/grain';
import { halation } from './stock/halation';
import { lumaBandwidth } from './stock/luma-bandwidth';
import { noise } from './stock/noise';
import { process } from './stock/process';
import { tone } from './stock/tone';
import type { AnyTrait } from './trait';
import { dust } from './years/dust';
import { fade } from './years/fade';
import { flash } from './years/flash';
import { scratches } from './years/scratches';
import { splices } from './years/splices';

/** Every trait there is, in the order they are offered within an act. */
export const traits: readonly AnyTrait[] = [
  softness,
  mist,
  vignette,
  lightLeak,
  dyes,
  tone,
  process,
  halation,
  grain,
  noise,
  cadence,
  lumaBandwidth,
  chromaBandwidth,
  channelOffset,
  fade,
  dust,
  scratches,
  splices,
  flash,
  gateWeave,
  flicker,
  scanlines,
  aspectMask,
  exposure,
  balance,
  toneCurves,
  ranges,
  saturation,
  hues,
  twoTone,
  wash,
  table,
  cdl,
];

const byId = new Map(traits.map((trait) => [trait.id, trait]));

/** The trait with this id, or undefined. */
export const traitById = (id: string): AnyTrait | undefined => byId.get(id);
