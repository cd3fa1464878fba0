import { FormatError } from '../formats/cube';
import type { ClipOrigin, EdlEvent } from './cut';
import type { CutIn, CutInShot } from './cut-in';
import { hasPicture, oneLine } from './edl';

/** Number, reel, channels, transition with its length, then source in and out, record in and out. */
const EVENT = /^\s*(\d{1,6})\s+(\S{1,100})\s+(\S{1,100})\s+(C|D|W\d*|KB?|KO)\s*(?:\s(\d+))?\s+(\S+)\s+(\S+)\s+(\S+)\s+(\S+)\s*$/i;
const TIMECODE = /^\d{1,2}:\d{2}:\d{2}[:;.,]\d{2,3}$/;
const SPEED = /^M2\s+(\S+)\s+([+-]?\d+(?:\.\d+)?)\b/i;
const COMMENT = /^\*\s*([A-Z][A-Z ]*?)\s*:\s*(.*?)\s*$/i;
const MOST_EVENTS = 10_000;

/** An event as it is being read. */
interface Event {
  readonly told: EdlEvent & { readonly number: string };
  readonly isShot: boolean;
  readonly comments: string[];
  retimed?: string;
  name?: string;
  file?: string;
  playedAt?: number;
}

/**
 * An edit decision list of the CMX 3600 form: its events of pictures in their order.
 * @throws FormatError with the line and the reason
 */
export function readEdl(text: string): CutIn {
  const kept = new Set<string>();
  const events: Event[] = [];
  let name = 'Cut';
  /** Whether timecode leaves out numbers from here on, however it is written. */
  let drop = false;
  /** What an event leads out of is told by one before it, of the same number and no length. */
  let leaving: Event | undefined;
  /** A comment belongs to the event above; to none before the first. */
  let open: Event | undefined;
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
      const event = eventOf(found, drop, events.length, leaving, wrong);
      const { told } = event;
      leaving = undefined;
      open = event;
      // What only a transition begins from takes no time.
      if (told.source[0] === told.source[1] && told.record![0] === told.record![1]) {
        leaving = event;
        continue;
      }
      if (!hasPicture(told.channels!)) kept.add('sound that is cut by itself');
      else if (!event.isShot) kept.add('black');
      if (told.transition) kept.add('transitions, which are cuts here');
      if (events.length >= MOST_EVENTS) wrong(`a cut has at most ${MOST_EVENTS} events`);
      events.push(event);
    } else if (open) note(open, line, events, kept);
  }
  const shots: CutInShot[] = [];
  let passed: EdlEvent[] = [];
  for (const event of events) {
    const { told, comments, retimed } = event;
    const whole = { ...told, ...(retimed !== undefined && { retimed }), ...(comments.length && { comments }) };
    if (!event.isShot) passed.push(whole);
    else {
      shots.push(shotOf(event, { ...whole, ...(passed.length && { passed }) }));
      passed = [];
    }
  }
  if (shots.length === 0) throw new FormatError(1, 'there is no event with a picture in it');
  return { name, shots, left: [], kept: [...kept], origin: { start: events[0]!.told.record![0], ...(passed.length && { passed }) } };
}

/** An event by its line. @param order its place among those before it @param leaving what it leads out of */
function eventOf(found: readonly string[], drop: boolean, order: number, leaving: Event | undefined, wrong: (reason: string) => never): Event {
  const [, number, reel, channels, kind, length = '', from, to, begins, ends] = found as [string, ...string[]];
  const timecodes = [from!, to!, begins!, ends!];
  for (const timecode of timecodes) if (!TIMECODE.test(timecode)) wrong(`"${timecode.slice(0, 20)}" is no timecode`);
  const [first, after, starts, stops] = timecodes.map((timecode) => (drop ? timecode.replace(/:(?=\d+$)/, ';') : timecode)) as [string, string, string, string];
  const out = leaving && leaving.told.number === number ? leaving.told : undefined;
  const transition = /^C$/i.test(kind!) ? undefined : { kind: kind!, length, ...(out && { reel: out.reel, at: out.source[0] }) };
  return {
    told: { number: number!, order, reel: reel!, channels: channels!, source: [first, after], record: [starts, stops], drop, ...(transition && { transition }) },
    isShot: hasPicture(channels!) && !/^(BL|BLACK)$/i.test(reel!),
    // What is said of the one that it leads out of goes with it.
    comments: out ? leaving!.comments : [],
  };
}

/** Takes in a line that says more of an event. */
function note(event: Event, line: string, events: readonly Event[], kept: Set<string>): void {
  const words = oneLine(line).slice(0, MOST_COMMENT);
  const speed = SPEED.exec(line);
  const { transition, reel } = event.told;
  // The speed of what is led out of is none of this one's.
  if (speed && !(transition?.reel === speed[1] && reel !== speed[1])) {
    // It names its reel: of a transition there are two.
    const of = events.findLast(({ told }) => told.number === event.told.number && told.reel === speed[1]) ?? event;
    of.playedAt = Number(speed[2]);
    of.retimed = words;
    return;
  }
  if (line.trim() !== '' && !OWN_COMMENT.test(line) && event.comments.length < MOST_COMMENTS) event.comments.push(words);
  const [, word = '', value = ''] = COMMENT.exec(line) ?? [];
  const key = word.toUpperCase();
  const ours = /^SHOT (.*)$/.exec(value);
  if (key === 'TO CLIP NAME' || (key === 'FROM CLIP NAME' && !transition)) event.name = value;
  else if (key === 'SOURCE FILE' || key === 'SOURCE FILE PATH') event.file = value.split(/[/\\]/).at(-1)!;
  else if (key === 'COMMENT' && ours) {
    event.file ??= event.name;
    event.name = ours[1]!;
  } else if (/^(EFFECT NAME|AUD|KEY|SPLIT)/i.test(key)) kept.add('effects');
}

/** What goes out with every event. */
const OWN_COMMENT = /^\*\s*COMMENT: (SHOT|LOOK) /i;
/** Of an event; no program writes as many, or longer ones. */
const MOST_COMMENTS = 100;
const MOST_COMMENT = 500;

/** A clip's name is most often its file's; a reel's is, where it is not the word for any. */
function shotOf({ told, name, file, playedAt }: Event, origin: ClipOrigin): CutInShot {
  const { reel, source } = told;
  const called = name ?? (/^(AX|UNKNOWN)$/i.test(reel) ? '' : reel);
  return {
    name: called || file || 'Untitled',
    file: file ?? called,
    taken: { by: 'timecode', from: source[0], to: source[1] },
    ...(playedAt !== undefined && { playedAt }),
    origin,
  };
}
