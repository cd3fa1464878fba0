import type { Footage } from '@tin-ghost/contract';

export const rateOf = (footage: Footage): number => footage.rate.num / footage.rate.den;

/** Hours, minutes, seconds and picture of a moment. */
export function timecode(frame: number, rate: number): string {
  const whole = Math.round(rate);
  const seconds = Math.floor(frame / whole);
  const two = (n: number): string => String(n).padStart(2, '0');
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}:${two(frame % whole)}`;
}
