import { FormatError } from '../formats/cube';
import type { ClipOrigin } from './cut';
import { ourOwn, type CutIn, type CutInShot, type Taken } from './cut-in';
import { OURS } from './otio';

/** An object of the format: its schema with its version, and whatever else it has. */
interface Item {
  readonly OTIO_SCHEMA: string;
  readonly [key: string]: unknown;
}

/** Deeper nesting is no cut that a person made. */
const MOST_DEPTH = 64;
const MOST_SHOTS = 10_000;

const isItem = (value: unknown): value is Item => typeof value === 'object' && value !== null && typeof (value as Item).OTIO_SCHEMA === 'string';
/** An object's schema without its version. */
const kindOf = (item: Item): string => item.OTIO_SCHEMA.split('.')[0]!;
const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');
const childrenOf = (item: Item): Item[] => (Array.isArray(item.children) ? item.children.filter(isItem) : []);

/** Seconds of a RationalTime, or undefined where it is none. */
function secondsOf(value: unknown): number | undefined {
  if (!isItem(value)) return undefined;
  const [at, rate] = [Number(value.value), Number(value.rate)];
  return Number.isFinite(at) && rate > 0 && Number.isFinite(rate) ? at / rate : undefined;
}

function rangeOf(value: unknown): { from: number; seconds: number } | undefined {
  if (!isItem(value)) return undefined;
  const [from, seconds] = [secondsOf(value.start_time), secondsOf(value.duration)];
  return from === undefined || seconds === undefined ? undefined : { from, seconds };
}

/** The last part of a path or an address, its escapes undone. */
function fileName(url: string): string {
  const last = url.split(/[/\\]/).at(-1)!;
  try {
    return decodeURIComponent(last);
  } catch {
    return last;
  }
}

/** What a clip is of: the reference that is in use, where there are several. */
function referenceOf(clip: Item): Item | undefined {
  const several = clip.media_references as Record<string, unknown> | undefined;
  const chosen = several?.[textOf(clip.active_media_reference_key)] ?? several?.DEFAULT_MEDIA;
  const reference = chosen ?? clip.media_reference;
  return isItem(reference) ? reference : undefined;
}

function fileOf(clip: Item, reference: Item | undefined): string {
  if (reference && kindOf(reference) === 'ExternalReference') return fileName(textOf(reference.target_url)) || textOf(reference.name);
  // The first of its images names a sequence.
  if (reference && kindOf(reference) === 'ImageSequenceReference')
    return `${textOf(reference.name_prefix)}${String(Number(reference.start_frame) || 0).padStart(Number(reference.frame_zero_padding) || 0, '0')}${textOf(reference.name_suffix)}`;
  return textOf(reference?.name) || textOf(clip.name);
}

/** Speeds of a clip, multiplied; others of its effects are told. */
function speedOf(clip: Item, left: Set<string>): number | undefined {
  let speed = 1;
  for (const effect of Array.isArray(clip.effects) ? clip.effects.filter(isItem) : []) {
    if (kindOf(effect) === 'LinearTimeWarp') speed *= Number(effect.time_scalar) || 0;
    else if (kindOf(effect) === 'FreezeFrame') speed = 0;
    else left.add(`effects of clips, such as ${textOf(effect.effect_name) || textOf(effect.name) || kindOf(effect)}`);
  }
  return speed === 1 ? undefined : speed;
}

function shotOf(clip: Item, left: Set<string>): CutInShot | undefined {
  const reference = referenceOf(clip);
  const name = textOf(clip.name) || fileOf(clip, reference);
  if (reference && kindOf(reference) === 'GeneratorReference') {
    left.add(`what is generated, such as ${name}`);
    return undefined;
  }
  const available = rangeOf(reference?.available_range);
  const range = rangeOf(clip.source_range) ?? available;
  if (!range || range.seconds <= 0) {
    left.add(`${name}, which does not say what it takes of its file`);
    return undefined;
  }
  const taken: Taken = { by: 'time', ...range, ...(available && { begins: available.from }) };
  const speed = speedOf(clip, left);
  const metadata = clip.metadata as Record<string, unknown> | null | undefined;
  const origin = originOf(clip, reference, name, left);
  return {
    name: name || 'Untitled',
    file: fileOf(clip, reference),
    taken,
    ...(speed !== undefined && { speed }),
    ...ourOwn(metadata?.[OURS], name, left),
    ...(origin && { origin }),
  };
}

/** What is kept of a clip is no longer than this as JSON. */
const MOST_ORIGIN = 60_000;

/** What of a clip goes out again as it came; what is larger than a person's notes is left, and told. */
function originOf(clip: Item, reference: Item | undefined, name: string, left: Set<string>): ClipOrigin | undefined {
  const { [OURS]: _ours, ...metadata } = (clip.metadata as Record<string, unknown> | null | undefined) ?? {};
  const markers = Array.isArray(clip.markers) ? clip.markers : [];
  const origin: ClipOrigin = {
    ...(Object.keys(metadata).length && { metadata }),
    ...(markers.length && { markers }),
    ...(reference && kindOf(reference) === 'ExternalReference' && { reference }),
  };
  if (JSON.stringify(origin).length > MOST_ORIGIN) {
    left.add(`metadata and markers of ${name}, which are too large`);
    return undefined;
  }
  return Object.keys(origin).length ? origin : undefined;
}

/** Tracks of pictures, the one that lies lowest first. */
function tracksOf(item: Item, depth = 0): Item[] {
  if (depth > MOST_DEPTH) return [];
  if (kindOf(item) === 'Track') return textOf(item.kind) === 'Audio' ? [] : [item];
  if (kindOf(item) === 'Timeline') return isItem(item.tracks) ? tracksOf(item.tracks, depth + 1) : [];
  return childrenOf(item).flatMap((child) => tracksOf(child, depth + 1));
}

/** Clips in their order, of tracks within a track too; what stands between them is told. */
function clipsIn(item: Item, left: Set<string>, depth = 0): Item[] {
  if (depth > MOST_DEPTH) return [];
  return childrenOf(item).flatMap((child) => {
    const kind = kindOf(child);
    if (kind === 'Clip') return [child];
    if (kind === 'Gap') left.add('gaps, over which shots close up');
    else if (kind === 'Transition') left.add('transitions, which become cuts');
    else if (kind === 'Stack' || kind === 'Track') {
      left.add('the trim of clips within clips');
      return clipsIn(kind === 'Stack' ? (childrenOf(child)[0] ?? child) : child, left, depth + 1);
    }
    return [];
  });
}

/**
 * A cut in OpenTimelineIO's JSON: the shots of its lowest track of pictures that has any.
 * @throws FormatError where it is no JSON, or holds no such cut
 */
export function readOtio(text: string): CutIn {
  let root: unknown;
  try {
    root = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    const at = Number(/position (\d+)/.exec((error as Error).message)?.[1] ?? 0);
    throw new FormatError(text.slice(0, at).split('\n').length, `no JSON: ${(error as Error).message}`);
  }
  if (!isItem(root)) throw new FormatError(1, 'no OpenTimelineIO: there is no OTIO_SCHEMA at its beginning');
  const left = new Set<string>();
  const tracks = kindOf(root) === 'Clip' ? [{ OTIO_SCHEMA: 'Track.1', children: [root] }] : tracksOf(root);
  const found = tracks.map((track) => clipsIn(track, new Set()).length);
  const at = found.findIndex((count) => count > 0);
  if (at < 0) throw new FormatError(1, `there are no clips on a track of pictures in this ${kindOf(root)}`);
  if (found[at]! > MOST_SHOTS) throw new FormatError(1, `${found[at]} clips; a reel has at most ${MOST_SHOTS}`);
  if (found.some((count, i) => i > at && count > 0)) left.add('tracks of pictures above the first');
  const shots = clipsIn(tracks[at]!, left).flatMap((clip) => shotOf(clip, left) ?? []);
  if (shots.length === 0) throw new FormatError(1, `none of its clips can be had: ${[...left].join('; ')}`);
  return { name: textOf(root.name) || 'Cut', shots, left: [...left] };
}
