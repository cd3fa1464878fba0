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

/** What is told of a cut: of what cannot be had, and of what is not seen here and goes out again. */
interface Told {
  readonly left: Set<string>;
  readonly kept: Set<string>;
}

/** Speeds of a clip, multiplied; others of its effects are told. */
function speedOf(clip: Item, told: Told): number | undefined {
  let speed = 1;
  for (const effect of Array.isArray(clip.effects) ? clip.effects.filter(isItem) : []) {
    if (kindOf(effect) === 'LinearTimeWarp') speed *= Number(effect.time_scalar) || 0;
    else if (kindOf(effect) === 'FreezeFrame') speed = 0;
    else told.kept.add(`effects of clips, such as ${textOf(effect.effect_name) || textOf(effect.name) || kindOf(effect)}`);
  }
  return speed === 1 ? undefined : speed;
}

/** Images of a sequence, which has a rate of its own. */
function imagesOf({ rate, frame_step: step }: Item, { from, seconds }: { from: number; seconds: number }, begins: number): Taken {
  // A step of two has every second image.
  const perSecond = (Number(rate) > 0 ? Number(rate) : 24) / Math.max(1, Number(step) || 1);
  return { by: 'images', from: Math.max(0, Math.round((from - begins) * perSecond)), frames: Math.max(1, Math.round(seconds * perSecond)) };
}

function shotOf(clip: Item, told: Told): CutInShot | undefined {
  const reference = referenceOf(clip);
  const name = textOf(clip.name) || fileOf(clip, reference);
  if (reference && kindOf(reference) === 'GeneratorReference') {
    told.kept.add(`what is generated, such as ${name}`);
    return undefined;
  }
  const available = rangeOf(reference?.available_range);
  const range = rangeOf(clip.source_range) ?? available;
  if (!range || range.seconds <= 0) {
    told.kept.add(`${name}, which does not say what it takes of its file`);
    return undefined;
  }
  const taken: Taken =
    reference && kindOf(reference) === 'ImageSequenceReference'
      ? imagesOf(reference, range, available?.from ?? 0)
      : { by: 'time', ...range, ...(available && { begins: available.from }) };
  const speed = speedOf(clip, told);
  const metadata = clip.metadata as Record<string, unknown> | null | undefined;
  const origin = originOf(clip, name, told.left);
  return {
    name: name || 'Untitled',
    file: fileOf(clip, reference),
    taken,
    ...(speed !== undefined && { speed }),
    ...ourOwn(metadata?.[OURS], name, told.left),
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
function timelineOf(root: Item, track: Item, { after, nests }: Laid, { left, kept }: Told): CutOrigin | undefined {
  const { tracks } = root;
  if (kindOf(root) !== 'Timeline' || !isItem(tracks)) return undefined;
  const children = childrenOf(tracks).filter((item) => !isOwnSound(item));
  const at = children.indexOf(track);
  if (at < 0) return undefined;
  const timeline = { ...root, tracks: { ...tracks, children: children.map((item) => (item === track ? { ...item, children: [] } : item)) } };
  const origin = { timeline, track: at, ...(after.length && { after }), ...(nests.length && { nests }) };
  if (JSON.stringify(origin).length <= MOST_TIMELINE) return origin;
  left.add('its other tracks and what belongs to the whole of it, which are too large');
  kept.delete(ABOVE);
  return undefined;
}

const ABOVE = 'tracks of pictures above the first';

/** Tracks of pictures, the one that lies lowest first. */
function tracksOf(item: Item, depth = 0): Item[] {
  if (depth > MOST_DEPTH) return [];
  if (kindOf(item) === 'Track') return textOf(item.kind) === 'Audio' ? [] : [item];
  if (kindOf(item) === 'Timeline') return isItem(item.tracks) ? tracksOf(item.tracks, depth + 1) : [];
  return childrenOf(item).flatMap((child) => tracksOf(child, depth + 1));
}

/** The first of a stack is what lies lowest. */
const lowest = (item: Item): readonly Item[] => (kindOf(item) === 'Stack' ? childrenOf(item).slice(0, 1) : childrenOf(item));

const clipCount = (item: Item, depth = 0): number =>
  depth > MOST_DEPTH ? 0 : lowest(item).reduce((sum, child) => sum + (kindOf(child) === 'Clip' ? 1 : isNest(child) ? clipCount(child, depth + 1) : 0), 0);

const isNest = (item: Item): boolean => kindOf(item) === 'Stack' || kindOf(item) === 'Track';

/** What a track comes to. */
interface Laid {
  readonly shots: readonly CutInShot[];
  /** What stood after the last of them. */
  readonly after: readonly Item[];
  readonly nests: NonNullable<CutOrigin['nests']>;
}

/** The shots of a track in their order, those of stacks and tracks within it too; whatever becomes none stands before the next one beside it. */
function laidOf(track: Item, told: Told): Laid {
  const shots: CutInShot[] = [];
  const nests: { item: Item; before?: Item[] }[] = [];
  /** @returns what stands after the last shot of this level */
  const walk = (children: readonly Item[], within: readonly number[]): Item[] => {
    let before: Item[] = [];
    for (const child of children) {
      if (kindOf(child) === 'Clip') {
        const shot = shotOf(child, told);
        if (!shot) before.push(child);
        else {
          shots.push({ ...shot, origin: { ...shot.origin, ...(before.length && { before }), ...(within.length && { within }) } });
          before = [];
        }
      } else if (isNest(child) && within.length < MOST_DEPTH) {
        const [known, id] = [shots.length, nests.length];
        nests.push({ item: child, ...(before.length && { before }) });
        const after = walk(lowest(child), [...within, id]);
        if (shots.length === known) {
          nests.length = id;
          before.push(child);
        } else {
          told.kept.add('the trim of clips within clips');
          nests[id]!.item = { ...child, children: [...after, ...(kindOf(child) === 'Stack' ? childrenOf(child).slice(1) : [])] };
          before = [];
        }
      } else {
        if (kindOf(child) === 'Gap') told.kept.add('gaps');
        else if (kindOf(child) === 'Transition') told.kept.add('transitions, which are cuts here');
        before.push(child);
      }
    }
    return before;
  };
  const after = walk(childrenOf(track), []);
  return { shots, after, nests };
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
  const told: Told = { left: new Set(), kept: new Set() };
  const tracks = kindOf(root) === 'Clip' ? [{ OTIO_SCHEMA: 'Track.1', children: [root] }] : tracksOf(root);
  const found = tracks.map((track) => clipCount(track));
  const at = found.findIndex((count) => count > 0);
  if (at < 0) throw new FormatError(1, `there are no clips on a track of pictures in this ${kindOf(root)}`);
  if (found[at]! > MOST_SHOTS) throw new FormatError(1, `${found[at]} clips; a reel has at most ${MOST_SHOTS}`);
  if (found.some((count, i) => i > at && count > 0)) told.kept.add(ABOVE);
  const laid = laidOf(tracks[at]!, told);
  const { shots } = laid;
  if (shots.length === 0) throw new FormatError(1, `none of its clips can be had: ${[...told.kept, ...told.left].join('; ')}`);
  const origin = timelineOf(root, tracks[at]!, laid, told);
  // Of what goes out anew nothing is kept.
  const [left, kept] = origin ? [[...told.left], [...told.kept]] : [[...told.kept, ...told.left], []];
  return { name: textOf(root.name) || 'Cut', shots, left, kept, ...(origin && { origin }) };
}
