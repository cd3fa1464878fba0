import { FormatError } from '../formats/cube';
import type { ClipOrigin, CutOrigin } from './cut';
import { ourOwn, type CutIn, type CutInShot, type Taken } from './cut-in';
import { isOwnSound } from './otio';
import { childrenOf, isItem, kindOf, OURS, rangeOf, referenceOf, textOf, type Item } from './otio-items';

/** Deeper nesting is no cut that a person made. */
const MOST_DEPTH = 64;
const MOST_SHOTS = 10_000;

/** The last part of a path or an address, its escapes undone. */
function fileName(url: string): string {
  const last = url.split(/[/\\]/).at(-1)!;
  try {
    return decodeURIComponent(last);
  } catch {
    return last;
  }
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
  const origin = originOf(clip, name, left);
  return {
    name: name || 'Untitled',
    file: fileOf(clip, reference),
    taken,
    ...(speed !== undefined && { speed }),
    ...ourOwn(metadata?.[OURS], name, left),
    ...(origin && { origin }),
  };
}

/** What is kept of a clip, and of a timeline, is no longer than this as JSON. */
const MOST_CLIP = 60_000;
const MOST_TIMELINE = 4_000_000;

/** What of a clip goes out again as it came; what is larger than a person's notes is left, and told. */
function originOf(clip: Item, name: string, left: Set<string>): ClipOrigin | undefined {
  const { [OURS]: _ours, ...metadata } = (clip.metadata as Record<string, unknown> | null | undefined) ?? {};
  const kept = { ...clip, metadata };
  if (JSON.stringify(kept).length <= MOST_CLIP) return { clip: kept };
  left.add(`metadata and markers of ${name}, which are too large`);
  return undefined;
}

/** What of a timeline goes out again as it came: all but the track that becomes the reel. Of one that is nested, nothing. */
function timelineOf(root: Item, track: Item, after: readonly Item[], left: Set<string>): CutOrigin | undefined {
  const { tracks } = root;
  if (kindOf(root) !== 'Timeline' || !isItem(tracks)) return undefined;
  const children = childrenOf(tracks).filter((item) => !isOwnSound(item));
  const at = children.indexOf(track);
  if (at < 0) return undefined;
  const timeline = { ...root, tracks: { ...tracks, children: children.map((item) => (item === track ? { ...item, children: [] } : item)) } };
  if (JSON.stringify({ timeline, after }).length <= MOST_TIMELINE) return { timeline, track: at, ...(after.length && { after }) };
  left.add('its other tracks and what belongs to the whole of it, which are too large');
  return undefined;
}

/** Tracks of pictures, the one that lies lowest first. */
function tracksOf(item: Item, depth = 0): Item[] {
  if (depth > MOST_DEPTH) return [];
  if (kindOf(item) === 'Track') return textOf(item.kind) === 'Audio' ? [] : [item];
  if (kindOf(item) === 'Timeline') return isItem(item.tracks) ? tracksOf(item.tracks, depth + 1) : [];
  return childrenOf(item).flatMap((child) => tracksOf(child, depth + 1));
}

/** The clips of a track in their order, those of tracks within it too, each with what stands before it on the track itself; last what stands after them. */
function clipsIn(track: Item, left: Set<string>): { clips: { clip: Item; before: Item[] }[]; after: Item[] } {
  const clips: { clip: Item; before: Item[] }[] = [];
  let before: Item[] = [];
  const take = (item: Item, depth: number): void => {
    if (depth > MOST_DEPTH) return;
    for (const child of childrenOf(item)) {
      const kind = kindOf(child);
      if (kind === 'Clip') {
        clips.push({ clip: child, before });
        before = [];
      } else if (kind === 'Stack' || kind === 'Track') {
        left.add('the trim of clips within clips');
        take(kind === 'Stack' ? (childrenOf(child)[0] ?? child) : child, depth + 1);
      } else {
        if (kind === 'Gap') left.add('gaps, over which shots close up');
        else if (kind === 'Transition') left.add('transitions, which become cuts');
        if (depth === 0) before.push(child);
      }
    }
  };
  take(track, 0);
  return { clips, after: before };
}

/** Shots of a track; a clip that becomes none stands before the next. */
function shotsIn(track: Item, left: Set<string>): { shots: CutInShot[]; after: Item[] } {
  const { clips, after } = clipsIn(track, left);
  const shots: CutInShot[] = [];
  let passed: Item[] = [];
  for (const { clip, before } of clips) {
    const shot = shotOf(clip, left);
    if (!shot) passed.push(...before, clip);
    else {
      const standing = [...passed, ...before];
      shots.push(standing.length ? { ...shot, origin: { ...shot.origin, before: standing } } : shot);
      passed = [];
    }
  }
  return { shots, after: [...passed, ...after] };
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
  const found = tracks.map((track) => clipsIn(track, new Set()).clips.length);
  const at = found.findIndex((count) => count > 0);
  if (at < 0) throw new FormatError(1, `there are no clips on a track of pictures in this ${kindOf(root)}`);
  if (found[at]! > MOST_SHOTS) throw new FormatError(1, `${found[at]} clips; a reel has at most ${MOST_SHOTS}`);
  if (found.some((count, i) => i > at && count > 0)) left.add('tracks of pictures above the first');
  const { shots, after } = shotsIn(tracks[at]!, left);
  if (shots.length === 0) throw new FormatError(1, `none of its clips can be had: ${[...left].join('; ')}`);
  const origin = timelineOf(root, tracks[at]!, after, left);
  return { name: textOf(root.name) || 'Cut', shots, left: [...left], ...(origin && { origin }) };
}
