import type { Blend } from '../look/blends';

/** A plate that ships: its name for people, its file in `media/plates`, and how it is meant to be laid. */
export interface ShippedPlate {
  readonly id: string;
  readonly name: string;
  readonly file: string;
  readonly mode: Blend;
}

/** Made by `npm run plates`. */
export const shippedPlates: readonly ShippedPlate[] = [
  { id: 'drifting-dust', name: 'Drifting dust', file: 'drifting-dust.mp4', mode: 'screen' },
  { id: 'paper-grunge', name: 'Paper grunge', file: 'paper-grunge.jpg', mode: 'multiply' },
  { id: 'leak', name: 'Leak', file: 'leak.mp4', mode: 'screen' },
  { id: 'reel-end-flash', name: 'End of the reel', file: 'reel-end-flash.mp4', mode: 'screen' },
  { id: 'gate-on-white', name: 'Gate on white', file: 'gate-on-white.mp4', mode: 'darken' },
  { id: 'countdown', name: 'Countdown', file: 'countdown.mp4', mode: 'normal' },
];
