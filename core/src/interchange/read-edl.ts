import { FormatError } from '../formats/cube';
import type { CutIn, CutInShot } from './cut-in';

/** Number, reel, channels, transition with its length, then source in and out, record in and out. */
const EVENT = /^\s*(\d{1,6})\s+(\S+)\s+(\S+)\s+(C|D|W\d*|KB?|KO)\s*(?:\s(\d+))?\s+(\S+)\s+(\S+)\s+(\S+)\s+(\S+)\s*$/i;
const TIMECODE = /^\d{1,2}:\d{2}:\d{2}[:;.,]\d{2,3}$/;
const SPEED = /^M2\s+(\S+)\s+([+-]?\d+(?:\.\d+)?)\b/i;
const COMMENT = /^\*\s*([A-Z][A-Z ]*?)\s*:\s*(.*?)\s*$/i;
const MOST_SHOTS = 10_000;

/** An event as it is being read. */
interface Event {
  readonly number: string;
  readonly reel: string;
  readonly from: string;
  readonly to: string;
  readonly crossing: boolean;
  readonly comments: string[];
  name?: string;
  file?: string;
  playedAt?: number;
}

/** Whether channels have pictures: V, or B for both; NONE and A… have not. */
const hasPicture = (channels: string): boolean => /^(B|V\d*|[^/]*\/V\d*|V\d*\/.*)$/i.test(channels);

/**
 * An edit decision list of the CMX 3600 form: its events of pictures in their order.
 * @throws FormatError with the line and the reason
 */
export function readEdl(text: string): CutIn {
  const left = new Set<string>();
  const events: Event[] = [];
  let name = 'Cut';
  /** Whether timecode leaves out numbers from here on, however it is written. */
  let drop = false;
  /** A comment belongs to the event above; to none before the first. */
  let open: Event | undefined;
  let start: string | undefined;
  const lines = text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/);
  for (const [i, line] of lines.entries()) {
    const wrong = (reason: string): never => {
      throw new FormatError(i + 1, reason);
    };
    const title = /^\s*TITLE:\s*(.*?)\s*$/i.exec(line);
    const mode = /^\s*FCM:\s*(NON-)?DROP/i.exec(line);
    if (title) name = title[1]! || name;
    else if (mode) drop = !mode[1];
    else if (/^\s*\d{1,6}\s/.test(line)) {
      const found = EVENT.exec(line) ?? wrong('an event has a number, a reel, channels, a transition and four timecodes');
      const [, number, reel, channels, transition, , from, to, begins, ends] = found as unknown as string[];
      for (const timecode of [from!, to!, begins!, ends!]) if (!TIMECODE.test(timecode)) wrong(`"${timecode.slice(0, 20)}" is no timecode`);
      open = undefined;
      if (!hasPicture(channels!)) left.add('sound that is cut by itself');
      else if (/^(BL|BLACK)$/i.test(reel!)) left.add('black, over which shots close up');
      else {
        const counted = (timecode: string): string => (drop ? timecode.replace(/:(?=\d+$)/, ';') : timecode);
        open = { number: number!, reel: reel!, from: counted(from!), to: counted(to!), crossing: !/^C$/i.test(transition!), comments: [] };
        start ??= counted(begins!);
        if (events.length >= MOST_SHOTS) wrong(`a reel has at most ${MOST_SHOTS} shots`);
        // What only a transition begins from takes no time.
        if (from !== to) events.push(open);
        if (open.crossing) left.add('transitions, which become cuts');
      }
    } else if (open) note(open, line, events, left);
  }
  if (events.length === 0) throw new FormatError(1, 'there is no event with a picture in it');
  return { name, shots: events.map(shotOf), left: [...left], ...(start !== undefined && { origin: { start } }) };
}

/** Takes in a line that says more of an event. */
function note(event: Event, line: string, events: readonly Event[], left: Set<string>): void {
  const speed = SPEED.exec(line);
  if (speed) {
    // It names its reel: of a transition there are two.
    const of = events.findLast(({ number, reel }) => number === event.number && reel === speed[1]) ?? event;
    of.playedAt = Number(speed[2]);
    return;
  }
  if (line.startsWith('*') && !OWN_COMMENT.test(line) && event.comments.length < MOST_COMMENTS) event.comments.push(line.trimEnd().slice(0, MOST_COMMENT));
  const [, word = '', value = ''] = COMMENT.exec(line) ?? [];
  const key = word.toUpperCase();
  const ours = /^SHOT (.*)$/.exec(value);
  if (key === 'TO CLIP NAME' || (key === 'FROM CLIP NAME' && !event.crossing)) event.name = value;
  else if (key === 'SOURCE FILE' || key === 'SOURCE FILE PATH') event.file = value.split(/[/\\]/).at(-1)!;
  else if (key === 'COMMENT' && ours) {
    event.file ??= event.name;
    event.name = ours[1]!;
  } else if (/^(EFFECT NAME|AUD|KEY|SPLIT)/i.test(key)) left.add('effects');
}

/** What goes out with every event. */
const OWN_COMMENT = /^\*\s*COMMENT: (SHOT|LOOK) /i;
/** Of an event; no program writes as many, or longer ones. */
const MOST_COMMENTS = 100;
const MOST_COMMENT = 500;

/** A clip's name is most often its file's; a reel's is, where it is not the word for any. */
function shotOf({ reel, from, to, name, file, playedAt, comments }: Event): CutInShot {
  const called = name ?? (/^(AX|UNKNOWN)$/i.test(reel) ? '' : reel);
  const origin = { reel, source: [from, to] as const, ...(comments.length && { comments }) };
  return { name: called || file || 'Untitled', file: file ?? called, taken: { by: 'timecode', from, to }, ...(playedAt !== undefined && { playedAt }), origin };
}
