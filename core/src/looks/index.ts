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
import titleWorn from './title-worn.json' with { type: 'json' };
import slowDream from './slow-dream.json' with { type: 'json' };
import brownPaper from './brown-paper.json' with { type: 'json' };
import homeCassette from './home-cassette.json' with { type: 'json' };
import gateByPlate from './gate-by-plate.json' with { type: 'json' };

export interface ShippedLook {
  readonly id: string;
  readonly look: Look;
}

const shipped = (id: string, look: object): ShippedLook => ({ id, look: look as Look });

/** The looks that ship; tests check each. */
export const shippedLooks: readonly ShippedLook[] = [
  shipped('home-gauge', homeGauge),
  shipped('out-of-register', outOfRegister),
  shipped('night-tube', nightTube),
  shipped('sunday-reel', sundayReel),
  shipped('parlour-lamp', parlourLamp),
  shipped('attic-reel', atticReel),
  shipped('thrice-shown', thriceShown),
  shipped('regular-silver', regularSilver),
  shipped('dispatch-16', dispatch16),
  shipped('classroom-16', classroom16),
  shipped('work-copy-16', workCopy16),
  shipped('fresh-16', fresh16),
  shipped('flea-pit', fleaPit),
  shipped('triple-strip', tripleStrip),
  shipped('silent-16', silent16),
  shipped('soft-veil', softVeil),
  shipped('rough-brown', roughBrown),
  shipped('home-tape', homeTape),
  shipped('slow-speed', slowSpeed),
  shipped('third-copy-tape', thirdCopyTape),
  shipped('rented-worn', rentedWorn),
  shipped('camcorder-night', camcorderNight),
  shipped('paused-creased', pausedCreased),
  shipped('tape-eaten', tapeEaten),
  shipped('off-air-ghosts', offAirGhosts),
  shipped('far-station', farStation),
  shipped('news-archive', newsArchive),
  shipped('early-colour-tube', earlyColourTube),
  shipped('broadcast-monitor', broadcastMonitor),
  shipped('arcade-slots', arcadeSlots),
  shipped('green-terminal', greenTerminal),
  shipped('security-camera', securityCamera),
  shipped('super8-to-tape', super8ToTape),
  shipped('film16-off-air', film16OffAir),
  shipped('tape-off-tube', tapeOffTube),
  shipped('film-tape-tape-tube', filmTapeTapeTube),
  shipped('title-worn', titleWorn),
  shipped('slow-dream', slowDream),
  shipped('brown-paper', brownPaper),
  shipped('home-cassette', homeCassette),
  shipped('gate-by-plate', gateByPlate),
];

/** The shipped look with this id, or undefined. */
export const shippedLook = (id: string): Look | undefined => shippedLooks.find((one) => one.id === id)?.look;
