import type { Footage } from './footage';
import { fileInput } from './inputs';

/** Sound of footage from this second of it on, to last this many seconds at a speed (its pitch is kept); silence where the footage has none. */
export interface Sound {
  readonly footage: Footage;
  readonly from: number;
  readonly seconds: number;
  readonly speed?: number;
}

/**
 * Arguments that lay the sound of footage beside pictures that begin at its picture `from`: seeks to that time and, where
 * the sound begins late, fills with silence so that it stays in step.
 */
export function soundInput(footage: Footage, from: number, seconds: number, speed = 1): { input: string[]; filter: string[] } {
  const seek = footage.start + from;
  return {
    input: [...(seek > 0.0005 ? ['-ss', seek.toFixed(6)] : []), '-t', (seconds * speed).toFixed(6), ...fileInput(footage.path)],
    filter: ['-af', [...inStep(speed), `atrim=end=${seconds.toFixed(6)}`].join(',')],
  };
}

/** Filters that keep sound in step with its pictures, and go on with silence where it ends. */
const inStep = (speed = 1): string[] => ['aresample=async=1:first_pts=0', ...tempo(speed), 'apad'];

/** Samples a second of sound that is joined. */
const JOINED_RATE = 48_000;

/** Arguments that lay sounds one after the other, each as long as its pictures to the sample, whatever their rates and channels. @param before inputs that come first */
function joinedSound(sounds: readonly Sound[], before: number): { input: string[]; filter: string[] } {
  const [input, chains, names]: [string[], string[], string[]] = [[], [], []];
  let [at, until, inputs] = [0, 0, before];
  for (const [i, { footage, from, seconds, speed }] of sounds.entries()) {
    until += seconds;
    const end = Math.round(until * JOINED_RATE);
    const exactly = `atrim=end_sample=${end - at},asetpts=PTS-STARTPTS[s${i}]`;
    at = end;
    names.push(`[s${i}]`);
    if (footage.sound) {
      chains.push(`[${inputs++}:a:0]${inStep(speed).join(',')},aformat=sample_rates=${JOINED_RATE}:channel_layouts=stereo,${exactly}`);
      input.push(...soundInput(footage, from, seconds, speed).input);
    } else chains.push(`anullsrc=r=${JOINED_RATE}:cl=stereo,${exactly}`);
  }
  return { input, filter: ['-filter_complex', `${chains.join(';')};${names.join('')}concat=n=${sounds.length}:v=0:a=1[sound]`] };
}

/** Filters that change the speed of sound; one alone does no less than half. */
function tempo(speed: number): string[] {
  if (speed === 1) return [];
  return speed < 0.5 ? ['atempo=0.5', `atempo=${(speed / 0.5).toFixed(6)}`] : [`atempo=${speed.toFixed(6)}`];
}

/**
 * Arguments that lay sounds one after the other: what is read, and what is taken of it. Nothing where all are silent.
 * @param before inputs that come first: the pictures, if there are any
 */
export function laidSound(sounds: readonly Sound[], before = 1): { input: string[]; maps: string[] } {
  const [only] = sounds;
  if (!only || !sounds.some(({ footage }) => footage.sound)) return { input: [], maps: [] };
  if (sounds.length === 1) {
    const { input, filter } = soundInput(only.footage, only.from, only.seconds, only.speed);
    return { input, maps: ['-map', `${before}:a:0`, ...filter] };
  }
  const { input, filter } = joinedSound(sounds, before);
  return { input, maps: ['-map', '[sound]', ...filter] };
}
