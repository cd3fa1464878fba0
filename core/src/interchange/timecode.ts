/** Timecode (SMPTE ST 12-1): hours, minutes, seconds and frames, and the frame that they count. */

/** Frames a second as a fraction. */
export interface CutRate {
  readonly num: number;
  readonly den: number;
}

/** Frames a second that timecode counts: the whole number that the rate is near to. */
const counted = ({ num, den }: CutRate): number => Math.max(1, Math.round(num / den));

/** Whether a rate is one of those that may leave out numbers so as to keep to the clock: 30000/1001 and its double. */
const mayDrop = (rate: CutRate): boolean => rate.den === 1001 && counted(rate) % 30 === 0;

/** Numbers left out at the beginning of each minute but every tenth: two of thirty. */
const dropped = (rate: CutRate): number => counted(rate) / 15;

const FORM = /^(\d{1,2}):([0-5]\d):([0-5]\d)([:;.,])(\d{2,3})$/;

/** What a text of timecode says, or undefined where it is none at this rate. */
export function readTimecode(text: string, rate: CutRate): { readonly frame: number; readonly drop: boolean } | undefined {
  const found = FORM.exec(text.trim());
  if (!found) return undefined;
  const [hours, minutes, seconds, frames] = [found[1], found[2], found[3], found[5]].map(Number) as [number, number, number, number];
  if (hours > 23 || frames >= counted(rate)) return undefined;
  const drop = found[4] !== ':' && mayDrop(rate);
  const minute = hours * 60 + minutes;
  const left = drop ? dropped(rate) * (minute - Math.floor(minute / 10)) : 0;
  return { frame: (minute * 60 + seconds) * counted(rate) + frames - left, drop };
}

/** Timecode of a frame counted from midnight. @param drop whether numbers are left out, where the rate may */
export function timecodeText(frame: number, rate: CutRate, drop = false): string {
  const whole = counted(rate);
  let n = frame;
  if (drop && mayDrop(rate)) {
    const [minute, ten] = [60 * whole - dropped(rate), 600 * whole - 9 * dropped(rate)];
    const within = n % ten;
    n += dropped(rate) * (9 * Math.floor(n / ten) + (within < 60 * whole ? 0 : 1 + Math.floor((within - 60 * whole) / minute)));
  }
  const seconds = Math.floor(n / whole);
  const parts = [Math.floor(seconds / 3600) % 24, Math.floor(seconds / 60) % 60, seconds % 60].map((v) => String(v).padStart(2, '0'));
  return `${parts.join(':')}${drop && mayDrop(rate) ? ';' : ':'}${String(n % whole).padStart(2, '0')}`;
}
