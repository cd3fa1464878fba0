import { begins, fps, takenOf, type Cut } from './cut';
import { timecodeText } from './timecode';

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

/**
 * A reel as an edit decision list of the CMX 3600 form: a cut for each shot, at the first shot's rate; its speed as M2; the file, the shot's name
 * and its look as comments. Ends of shots fall on the nearest frame and never drift.
 * @throws RangeError where there are no shots, or more than the form can number
 */
export function writeEdl({ name, shots }: Cut): string {
  const [first] = shots;
  if (!first) throw new RangeError('a reel without shots has nothing to cut');
  if (shots.length > MOST_EVENTS) throw new RangeError(`this form numbers ${MOST_EVENTS} shots, the reel has ${shots.length}`);
  const lines = [`TITLE: ${plain(name).slice(0, MOST_COMMENT)}`, 'FCM: NON-DROP FRAME', ''];
  let seconds = 0;
  for (const [i, shot] of shots.entries()) {
    const { from, to, shown } = takenOf(shot);
    const at = (s: number): string => timecodeText(Math.round(s * fps(first.rate)), first.rate);
    const starts = at(seconds);
    const source = (frame: number): string => timecodeText(begins(shot) + frame, shot.rate);
    seconds += shown / fps(shot.rate);
    const channel = shot.sound ? 'AA/V' : 'V   ';
    const number = String(i + 1).padStart(3, '0');
    lines.push(`${number}  AX       ${channel}  C        ${source(from)} ${source(to)} ${starts} ${at(seconds)}`);
    const { speed = 1 } = shot.preparation;
    if (speed !== 1) lines.push(`M2   AX       ${(fps(shot.rate) * speed).toFixed(1).padStart(5, '0')}                ${source(from)}`);
    for (const [word, value] of [
      ['FROM CLIP NAME', shot.file],
      ['COMMENT', `SHOT ${shot.name}`],
      ['COMMENT', `LOOK ${shot.look.name}, SEED ${shot.look.seed}`],
    ] as const)
      lines.push(`* ${word}: ${plain(value)}`.slice(0, MOST_COMMENT));
    lines.push('');
  }
  return lines.join('\r\n');
}
