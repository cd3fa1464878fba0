import { begins, fps, isAsLaid, takenOf, type Cut, type CutShot } from './cut';
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

/** Where a shot begins and ends in its file: in the words it came with, where that is as it was. */
function sourceOf(shot: CutShot, drop: boolean): readonly [string, string] {
  if (shot.origin?.source && isAsLaid(shot)) return shot.origin.source;
  const { from, to } = takenOf(shot);
  const at = (frame: number): string => timecodeText(begins(shot) + frame, shot.rate, drop);
  return [at(from), at(to)];
}

/**
 * A reel as an edit decision list of the CMX 3600 form: a cut for each shot, at the first shot's rate; its speed as M2; the file, the shot's name
 * and its look as comments. Ends of shots fall on the nearest frame and never drift. What came with a cut keeps its reel and comments, and begins when it did.
 * @throws RangeError where there are no shots, or more than the form can number
 */
export function writeEdl({ name, shots, origin }: Cut): string {
  const [first] = shots;
  if (!first) throw new RangeError('a reel without shots has nothing to cut');
  if (shots.length > MOST_EVENTS) throw new RangeError(`this form numbers ${MOST_EVENTS} shots, the reel has ${shots.length}`);
  const start = readTimecode(origin?.start ?? '', first.rate) ?? { frame: 0, drop: false };
  const lines = [`TITLE: ${plain(name).slice(0, MOST_COMMENT)}`, `FCM: ${start.drop ? '' : 'NON-'}DROP FRAME`, ''];
  let seconds = 0;
  for (const [i, shot] of shots.entries()) {
    const at = (s: number): string => timecodeText(start.frame + Math.round(s * fps(first.rate)), first.rate, start.drop);
    const starts = at(seconds);
    const [from, to] = sourceOf(shot, start.drop);
    seconds += takenOf(shot).shown / fps(shot.rate);
    const channel = shot.sound ? 'AA/V' : 'V   ';
    const number = String(i + 1).padStart(3, '0');
    const reel = (plain(shot.origin?.reel ?? '') || 'AX').padEnd(8);
    lines.push(`${number}  ${reel} ${channel}  C        ${from} ${to} ${starts} ${at(seconds)}`);
    const { speed = 1 } = shot.preparation;
    if (speed !== 1) lines.push(`M2   ${reel} ${(fps(shot.rate) * speed).toFixed(1).padStart(5, '0')}                ${from}`);
    const comments = shot.origin?.comments ?? [];
    const isNamed = comments.some((comment) => /^\* ?(FROM CLIP NAME|TO CLIP NAME|SOURCE FILE):/i.test(comment));
    lines.push(...comments.map(plain));
    for (const [word, value] of [
      ...(isNamed ? [] : [['FROM CLIP NAME', shot.file] as const]),
      ['COMMENT', `SHOT ${shot.name}`],
      ['COMMENT', `LOOK ${shot.look.name}, SEED ${shot.look.seed}`],
    ] as const)
      lines.push(`* ${word}: ${plain(value)}`.slice(0, MOST_COMMENT));
    lines.push('');
  }
  return lines.join('\r\n');
}
