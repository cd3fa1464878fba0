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
import { caption } from './laid/caption';
import { plate } from './laid/plate';
import { barrel } from './lens/barrel';
import { dirt } from './lens/dirt';
import { focusHunt } from './lens/focus-hunt';
import { fringe } from './lens/fringe';
import { lightLeak } from './lens/light-leak';
import { mist } from './lens/mist';
import { motes } from './lens/motes';
import { softness } from './lens/softness';
import { streak } from './lens/streak';
import { vignette } from './lens/vignette';
import { flicker } from './machine/flicker';
import { frameSlip } from './machine/frame-slip';
import { gateHair } from './machine/gate-hair';
import { gateWeave } from './machine/gate-weave';
import { knocks } from './machine/knocks';
import { aspectMask } from './screen/aspect-mask';
import { gateFrame } from './screen/gate-frame';
import { phosphor } from './screen/phosphor';
import { projection } from './screen/projection';
import { scanlines } from './screen/scanlines';
import { cadence } from './stock/cadence';
import { channelOffset } from './stock/channel-offset';
import { chromaBandwidth } from './stock/chroma-bandwidth';
import { dyes } from './stock/dyes';
import { grain } from './stock/grain';
import { halation } from './stock/halation';
import { interlace } from './stock/interlace';
import { lumaBandwidth } from './stock/luma-bandwidth';
import { noise } from './stock/noise';
import { process } from './stock/process';
import { tone } from './stock/tone';
import { blotches } from './years/blotches';
import { burn } from './years/burn';
import { cueDots } from './years/cue-dots';
import { dust } from './years/dust';
import { fade } from './years/fade';
import { filaments } from './years/filaments';
import { flash } from './years/flash';
import { hairs } from './years/hairs';
import { scratches } from './years/scratches';
import { splices } from './years/splices';
import { stains } from './years/stains';
import { crease } from './years/crease';
import { dropouts } from './years/dropouts';
import { headSwitching } from './machine/head-switching';
import { timeBase } from './machine/time-base';
import { tracking } from './machine/tracking';
import { peaking } from './stock/peaking';
import { tapeNoise } from './stock/tape-noise';
import { ghosting } from './machine/ghosting';
import { hum } from './machine/hum';
import { interference } from './machine/interference';
import { snow } from './machine/snow';
import { tearing } from './machine/tearing';
import { verticalRoll } from './machine/vertical-roll';
import { convergence } from './screen/convergence';
import { mask } from './screen/mask';
import { refreshBar } from './screen/refresh-bar';
import { tubeFace } from './screen/tube-face';
import { tubeGlow } from './screen/tube-glow';
import { mosaic } from './stock/mosaic';
import { composite } from './stock/composite';
import { generation } from './stock/generation';
import { registerTrait } from './known';

export * from './known';

// All that ship, in the order they are offered within an act.
[
  softness,
  focusHunt,
  mist,
  streak,
  vignette,
  fringe,
  barrel,
  lightLeak,
  dirt,
  motes,
  dyes,
  tone,
  process,
  halation,
  grain,
  noise,
  cadence,
  interlace,
  lumaBandwidth,
  chromaBandwidth,
  composite,
  generation,
  peaking,
  tapeNoise,
  channelOffset,
  mosaic,
  fade,
  blotches,
  dust,
  hairs,
  scratches,
  filaments,
  stains,
  splices,
  burn,
  flash,
  cueDots,
  dropouts,
  crease,
  gateWeave,
  flicker,
  frameSlip,
  knocks,
  gateHair,
  timeBase,
  tracking,
  headSwitching,
  snow,
  ghosting,
  hum,
  interference,
  verticalRoll,
  tearing,
  convergence,
  scanlines,
  mask,
  tubeGlow,
  refreshBar,
  phosphor,
  tubeFace,
  projection,
  gateFrame,
  aspectMask,
  caption,
  plate,
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
].forEach(registerTrait);
