import type { Reel, Shot } from '@tin-ghost/contract';
import type { Making } from './print-orders';

/** Which shots, and as how many files: one choice, so that a whole reel takes one. */
export interface What {
  readonly label: string;
  readonly shots: readonly Shot[];
  readonly making: Making;
  /** One frame of the shot, by its number from 0. */
  readonly frame?: number;
}

/** What can be made from a shot on the bench. @param chosen several shots of the reel @param frame the one that is seen */
export function whatOf(reel: Reel, shot: Shot, chosen: readonly Shot[], frame: number): What[] {
  const ready = reel.shots.filter(({ medium }) => medium.state === 'ready');
  const several = (shots: readonly Shot[], words: string): What[] => [
    { label: `${words}, a file each`, shots, making: 'each' },
    { label: `${words} as one film`, shots, making: 'film' },
    { label: `${words}, a file each and one film`, shots, making: 'both' },
  ];
  return [
    ...(chosen.length > 1 && chosen.length < ready.length ? several(chosen, `The ${chosen.length} chosen shots`) : []),
    { label: `This shot, ${shot.name}`, shots: [shot], making: 'each' },
    { label: `This frame, ${frame + 1}`, shots: [shot], making: 'each', frame },
    ...(ready.length > 1 ? several(ready, `All ${ready.length} shots`) : []),
  ];
}
