import { begins, fps, isAsLaid, takenOf, type Cut, type CutShot, type EdlEvent } from './cut';
import { readTimecode, timecodeText } from './timecode';

/** Longest line of a comment; older readers cut longer ones. */
const MOST_COMMENT = 70;
const MOST_EVENTS = 999;

/** A name in the characters that every reader of the format knows. */
const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[^\x20-\x7e]+/g, '')
    .replace(/\s+/g, ' ')
    .trim();

/** Words of another list, which are a line each. */
export const oneLine = (text: string): string => text.replace(/\p{Cc}+/gu, ' ').trimEnd();

/** Where a shot begins and ends in its file: in the words it came with, where that is as it was. */
function sourceOf(shot: CutShot, drop: boolean): readonly [string, string] {
  if (shot.origin?.source && isAsLaid(shot)) return shot.origin.source;
  const { from, to } = takenOf(shot);
  const at = (frame: number): string => timecodeText(begins(shot) + frame, shot.rate, drop);
  return [at(from), at(to)];
}

/** An event as it is written: what it is called in the list it came with, where and how long it stands in the finished cut. */
interface Line {
  readonly came: Partial<EdlEvent>;
  readonly source: readonly [string, string];
  readonly channels: string;
  /** Frames at the list's rate, as it was in the cut it came with; undefined where that is no longer so. */
  readonly length?: number;
  readonly shot?: CutShot;
}

/** Whether channels have pictures: V, or B for both; NONE and A… have not. */
export const hasPicture = (channels: string): boolean => /^(B|V\d*|[^/]*\/V\d*|V\d*\/.*)$/i.test(channels);

const reelOf = ({ reel }: Partial<EdlEvent>): string => (plain(reel ?? '') || 'AX').padEnd(8);

/** What leads into an event: as it came where that still stands before it, else from what does; a cut where nothing does. */
function ledInto(
  { came: { transition } }: Line,
  before: Line | undefined,
  hangs: boolean,
): { kind: string; length: string; out?: { reel: string; at: string }; asItCame: boolean } | undefined {
  if (!transition) return undefined;
  const { kind, length, reel, at } = transition;
  if (hangs && (!before?.shot || isAsLaid(before.shot))) return { kind, length, ...(reel !== undefined && at !== undefined && { out: { reel, at } }), asItCame: true };
  return before?.shot && { kind, length, out: { reel: reelOf(before.came), at: before.source[1] }, asItCame: false };
}

/** M2: how many frames of its file a second shows. */
function speedOf({ came, shot, source }: Line): string[] {
  if (came.retimed !== undefined && (!shot || isAsLaid(shot))) return [oneLine(came.retimed)];
  const { speed = 1 } = shot?.preparation ?? {};
  return speed === 1 ? [] : [`M2   ${reelOf(came)} ${(fps(shot!.rate) * speed).toFixed(1).padStart(5, '0')}                ${source[0]}`];
}

/** What came with it, and of a shot its name and look; the file, where none is told. @param led whether what leads into it is what did */
function commentsOf({ came, shot }: Line, led: boolean): string[] {
  const comments = (came.comments ?? []).map(oneLine).filter((comment) => led || !came.transition || !/^\* ?FROM CLIP NAME:/i.test(comment));
  if (!shot) return comments;
  const isNamed = comments.some((comment) => /^\*\s*(FROM CLIP NAME|TO CLIP NAME|SOURCE FILE):/i.test(comment));
  const own = [
    ...(isNamed ? [] : [['FROM CLIP NAME', shot.file] as const]),
    ['COMMENT', `SHOT ${shot.name}`],
    ['COMMENT', `LOOK ${shot.look.name}, SEED ${shot.look.seed}`],
  ] as const;
  return [...comments, ...own.map(([word, value]) => `* ${word}: ${plain(value)}`.slice(0, MOST_COMMENT))];
}

/** Numbers of events as they came, where all have one and they rise (two that stood beside each other may share one); else from 1 on. */
function numbersOf(lines: readonly Line[]): string[] {
  const rise = lines.every(({ came: { number = 0, order = 0 } }, i) => {
    const { number: above = 0, order: before = NaN } = lines[i - 1]?.came ?? {};
    return Number(number) > Number(above) || (Number(number) === Number(above) && order === before + 1);
  });
  return lines.map(({ came: { number } }, i) => (rise ? number! : String(i + 1).padStart(3, '0')));
}

/**
 * A reel as an edit decision list of the CMX 3600 form: a cut for each shot, at the first shot's rate; its speed as M2; the file, the shot's name
 * and its look as comments. Ends of shots fall on the nearest frame and never drift. What came with a cut goes out in its own words: reel, channels, transition,
 * timecode, comments, black and sound by itself.
 * @throws RangeError where there are no shots, or more than the form can number
 */
export function writeEdl({ name, shots, origin }: Cut): string {
  const [first] = shots;
  if (!first) throw new RangeError('a reel without shots has nothing to cut');
  const { rate } = first;
  const start = readTimecode(origin?.start ?? '', rate) ?? { frame: 0, drop: false };
  const lengthOf = (event: Partial<EdlEvent>): number | undefined => {
    const [from, to] = (event.record ?? []).map((text) => readTimecode(text, rate)?.frame);
    return from === undefined || to === undefined || to < from ? undefined : to - from;
  };
  const passing = (events: readonly EdlEvent[] = []): Line[] => events.map((came) => ({ came, source: came.source, channels: came.channels ?? 'V', length: lengthOf(came) ?? 0 }));
  const lines = [
    ...shots.flatMap((shot): Line[] => {
      const came = shot.origin ?? {};
      const line = { came, source: sourceOf(shot, came.drop ?? start.drop), channels: came.channels ?? (shot.sound ? 'AA/V' : 'V'), shot };
      return [...passing(came.passed), isAsLaid(shot) ? { ...line, length: lengthOf(came) } : line];
    }),
    ...passing(origin?.passed),
  ];
  if (lines.length > MOST_EVENTS) throw new RangeError(`this form numbers ${MOST_EVENTS} events, the reel has ${lines.length}`);
  const numbers = numbersOf(lines);
  const text = [`TITLE: ${plain(name).slice(0, MOST_COMMENT)}`, `FCM: ${start.drop ? '' : 'NON-'}DROP FRAME`, ''];
  /** The last event with a picture, and where the next one begins, in seconds from the start. */
  let before = -1;
  let seconds = 0;
  let { drop } = start;
  for (const [i, line] of lines.entries()) {
    const { came, shot } = line;
    const last = lines[before];
    // As many events stand between the two as did in the cut they came with.
    const hangs = came.order !== undefined && came.order - (last ? (last.came.order ?? NaN) : -1) === i - before;
    const [from, earlier] = [came.record?.[0], last ? last.came.record?.[1] : origin?.start].map((told) => readTimecode(told ?? '', rate)?.frame);
    const apart = hangs && from !== undefined && earlier !== undefined ? from - earlier : 0;
    const at = (s: number): string => timecodeText(Math.max(0, start.frame + Math.round(s * fps(rate))), rate, start.drop);
    const begins = seconds + apart / fps(rate);
    const ends = begins + (line.length !== undefined ? line.length / fps(rate) : takenOf(shot!).shown / fps(shot!.rate));
    if (came.drop !== undefined && came.drop !== drop) {
      drop = came.drop;
      text.push(`FCM: ${drop ? '' : 'NON-'}DROP FRAME`);
    }
    const reel = reelOf(came);
    const [number, channels] = [numbers[i]!, line.channels.padEnd(4)];
    const led = ledInto(line, last, hangs);
    if (led?.out) text.push(`${number}  ${led.out.reel.padEnd(8)} ${channels}  C        ${led.out.at} ${led.out.at} ${at(begins)} ${at(begins)}`);
    text.push(`${number}  ${reel} ${channels}  ${(led?.kind ?? 'C').padEnd(4)} ${(led?.length ?? '').padStart(3)} ${line.source.join(' ')} ${at(begins)} ${at(ends)}`);
    text.push(...speedOf(line), ...commentsOf(line, led?.asItCame === true), '');
    if (shot || hasPicture(line.channels)) [before, seconds] = [i, ends];
  }
  return text.join('\r\n');
}
