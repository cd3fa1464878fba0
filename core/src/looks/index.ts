import { checkLook } from '../look/check';
import type { Look } from '../look/look';
import sundayReel from './sunday-reel.json' with { type: 'json' };
import parlourLamp from './parlour-lamp.json' with { type: 'json' };
import atticReel from './attic-reel.json' with { type: 'json' };
import thriceShown from './thrice-shown.json' with { type: 'json' };
import regularSilver from './regular-silver.json' with { type: 'json' };
import dispatch16 from './dispatch-16.json' with { type: 'json' };
import classroom16 from './classroom-16.json' with { type: 'json' };
import workCopy16 from './work-copy-16.json' with { type: 'json' };
import fresh16 from './fresh-16.json' with { type: 'json' };
import fleaPit from './flea-pit.json' with { type: 'json' };
import tripleStrip from './triple-strip.json' with { type: 'json' };
import silent16 from './silent-16.json' with { type: 'json' };
import softVeil from './soft-veil.json' with { type: 'json' };
import roughBrown from './rough-brown.json' with { type: 'json' };
import homeGauge from './home-gauge.json' with { type: 'json' };
import nightTube from './night-tube.json' with { type: 'json' };
import outOfRegister from './out-of-register.json' with { type: 'json' };
import homeTape from './home-tape.json' with { type: 'json' };
import slowSpeed from './slow-speed.json' with { type: 'json' };
import thirdCopyTape from './third-copy-tape.json' with { type: 'json' };
import rentedWorn from './rented-worn.json' with { type: 'json' };
import camcorderNight from './camcorder-night.json' with { type: 'json' };
import pausedCreased from './paused-creased.json' with { type: 'json' };
import tapeEaten from './tape-eaten.json' with { type: 'json' };
import offAirGhosts from './off-air-ghosts.json' with { type: 'json' };
import farStation from './far-station.json' with { type: 'json' };
import newsArchive from './news-archive.json' with { type: 'json' };
import earlyColourTube from './early-colour-tube.json' with { type: 'json' };
import broadcastMonitor from './broadcast-monitor.json' with { type: 'json' };
import arcadeSlots from './arcade-slots.json' with { type: 'json' };
import greenTerminal from './green-terminal.json' with { type: 'json' };
import securityCamera from './security-camera.json' with { type: 'json' };
import super8ToTape from './super8-to-tape.json' with { type: 'json' };
import film16OffAir from './film16-off-air.json' with { type: 'json' };
import tapeOffTube from './tape-off-tube.json' with { type: 'json' };
import filmTapeTapeTube from './film-tape-tape-tube.json' with { type: 'json' };

export interface ShippedLook {
  readonly id: string;
  readonly look: Look;
}

/** The looks that ship, checked as they are loaded. */
export const shippedLooks: readonly ShippedLook[] = [
  { id: 'home-gauge', look: checkLook(homeGauge) },
  { id: 'out-of-register', look: checkLook(outOfRegister) },
  { id: 'night-tube', look: checkLook(nightTube) },
  { id: 'sunday-reel', look: checkLook(sundayReel) },
  { id: 'parlour-lamp', look: checkLook(parlourLamp) },
  { id: 'attic-reel', look: checkLook(atticReel) },
  { id: 'thrice-shown', look: checkLook(thriceShown) },
  { id: 'regular-silver', look: checkLook(regularSilver) },
  { id: 'dispatch-16', look: checkLook(dispatch16) },
  { id: 'classroom-16', look: checkLook(classroom16) },
  { id: 'work-copy-16', look: checkLook(workCopy16) },
  { id: 'fresh-16', look: checkLook(fresh16) },
  { id: 'flea-pit', look: checkLook(fleaPit) },
  { id: 'triple-strip', look: checkLook(tripleStrip) },
  { id: 'silent-16', look: checkLook(silent16) },
  { id: 'soft-veil', look: checkLook(softVeil) },
  { id: 'rough-brown', look: checkLook(roughBrown) },
  { id: 'home-tape', look: checkLook(homeTape) },
  { id: 'slow-speed', look: checkLook(slowSpeed) },
  { id: 'third-copy-tape', look: checkLook(thirdCopyTape) },
  { id: 'rented-worn', look: checkLook(rentedWorn) },
  { id: 'camcorder-night', look: checkLook(camcorderNight) },
  { id: 'paused-creased', look: checkLook(pausedCreased) },
  { id: 'tape-eaten', look: checkLook(tapeEaten) },
  { id: 'off-air-ghosts', look: checkLook(offAirGhosts) },
  { id: 'far-station', look: checkLook(farStation) },
  { id: 'news-archive', look: checkLook(newsArchive) },
  { id: 'early-colour-tube', look: checkLook(earlyColourTube) },
  { id: 'broadcast-monitor', look: checkLook(broadcastMonitor) },
  { id: 'arcade-slots', look: checkLook(arcadeSlots) },
  { id: 'green-terminal', look: checkLook(greenTerminal) },
  { id: 'security-camera', look: checkLook(securityCamera) },
  { id: 'super8-to-tape', look: checkLook(super8ToTape) },
  { id: 'film16-off-air', look: checkLook(film16OffAir) },
  { id: 'tape-off-tube', look: checkLook(tapeOffTube) },
  { id: 'film-tape-tape-tube', look: checkLook(filmTapeTapeTube) },
];

/** The shipped look with this id, or undefined. */
export const shippedLook = (id: string): Look | undefined => shippedLooks.find((shipped) => shipped.id === id)?.look;
