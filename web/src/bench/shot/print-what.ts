import type { Reel, Shot } from '@tin-ghost/contract';
import type { Making } from './print-orders';
import { texts } from '../../messages/shot';

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
    { label: texts.fileEach(words), shots, making: 'each' },
    { label: texts.asOneFilm(words), shots, making: 'film' },
    { label: texts.fileEachAndFilm(words), shots, making: 'both' },
  ];
  return [
    ...(chosen.length > 1 && chosen.length < ready.length ? several(chosen, texts.chosenShots(chosen.length)) : []),
    { label: texts.thisShot(shot.name), shots: [shot], making: 'each' },
    { label: texts.thisFrame(frame + 1), shots: [shot], making: 'each', frame },
    ...(ready.length > 1 ? several(ready, texts.allShots(ready.length)) : []),
  ];
}
