import type { ReelSummary } from '@tin-ghost/contract';
import { rateOf } from '../api/footage';

type Shots = readonly { readonly frames: number | null; readonly medium: Pick<ReelSummary['shots'][number]['medium'], 'state' | 'footage'> }[];

/** How long all shots of a reel play, one after another, as m:ss; null while one of them is still being imported. A shot whose file could not be read takes no time. */
export function reelLength(shots: Shots): string | null {
  const readable = shots.filter(({ medium }) => medium.state !== 'failed');
  let seconds = 0;
  for (const { frames, medium } of readable) {
    if (!medium.footage || frames === null) return null;
    seconds += frames / rateOf(medium.footage);
  }
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}
