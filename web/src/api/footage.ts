import type { Footage } from '@tin-ghost/contract';

export const rateOf = (footage: Footage): number => footage.rate.num / footage.rate.den;

/** Hours, minutes, seconds and picture of a moment. */
export function timecode(frame: number, rate: number): string {
  const whole = Math.round(rate);
  const seconds = Math.floor(frame / whole);
  const two = (n: number): string => String(n).padStart(2, '0');
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}:${two(frame % whole)}`;
}

/**
 * The frame that is meant by what is typed: a time code, whose parts may be left out from the left (`3:12` is three seconds and twelve frames,
 * and so is `312`), seconds (`2.5 s`), or so many frames on or back (`+10`, `-1:00`).
 * @param from the frame from which is counted on or back
 * @returns undefined where it means none
 */
export function typedFrame(text: string, rate: number, from: number): number | undefined {
  const whole = Math.round(rate);
  const [, sign = '', rest = ''] = /^\s*([+-]?)\s*(.*?)\s*$/.exec(text)!;
  const frame = framesOf(rest, whole, sign !== '');
  if (frame === undefined) return undefined;
  return sign === '+' ? from + frame : sign === '-' ? from - frame : frame;
}

function framesOf(text: string, rate: number, counted: boolean): number | undefined {
  const seconds = /^(\d*\.?\d+)\s*s$/i.exec(text) ?? /^(\d*\.\d+)$/.exec(text);
  if (seconds) return Math.round(Number(seconds[1]) * rate);
  // Where frames are counted on, digits are so many frames; elsewhere they are read as a time code is, in pairs.
  if (/^\d{1,8}$/.test(text) && counted) return Number(text);
  const parts = /^\d{1,8}$/.test(text) ? text.match(/\d{1,2}(?=(?:\d\d)*$)/g)! : /^\d{1,3}(?:[:;.]\d{1,2}){1,3}$/.test(text) ? text.split(/[:;.]/) : null;
  if (!parts || parts.length > 4) return undefined;
  const [frames = 0, s = 0, minutes = 0, hours = 0] = parts.map(Number).reverse();
  return frames + rate * (s + 60 * minutes + 3600 * hours);
}
