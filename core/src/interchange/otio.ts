import { begins, fps, isAsLaid, takenOf, type Cut, type CutOrigin, type CutShot } from './cut';
import { childrenOf, isItem, kindOf, OURS, referenceOf, secondsOf, type Item } from './otio-items';
import type { CutRate } from './timecode';

const time = (value: number, rate: CutRate) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: fps(rate), value });
const range = (from: number, length: number, rate: CutRate) => ({ OTIO_SCHEMA: 'TimeRange.1', duration: time(length, rate), start_time: time(from, rate) });

/** The number of the footage's first frame, by the clock of the cut it came with, else by its file's. */
function firstOf({ origin, ...shot }: CutShot): number {
  const available = isItem(origin?.clip) ? referenceOf(origin.clip)?.available_range : undefined;
  const seconds = isItem(available) ? secondsOf(available.start_time) : undefined;
  return seconds === undefined ? begins(shot) : Math.round(seconds * fps(shot.rate));
}

const SPEED = /^(LinearTimeWarp|FreezeFrame)$/;

/** What of a clip is where in its file, how fast, and what it is called. */
function told(shot: CutShot): { name: string; source_range: object; effects: readonly object[] } {
  const { from, shown } = takenOf(shot);
  const { speed = 1 } = shot.preparation;
  return {
    name: shot.name,
    // As long as it is shown: an effect of time does not change a clip's length.
    source_range: range(firstOf(shot) + from, shown, shot.rate),
    effects: speed === 1 ? [] : [{ OTIO_SCHEMA: 'LinearTimeWarp.1', name: 'speed', effect_name: 'LinearTimeWarp', time_scalar: speed, metadata: {} }],
  };
}

function clip(shot: CutShot, kind: 'Video' | 'Audio'): object {
  const first = firstOf(shot);
  return {
    OTIO_SCHEMA: 'Clip.1',
    ...told(shot),
    markers: [],
    media_reference: {
      OTIO_SCHEMA: 'ExternalReference.1',
      name: shot.file,
      target_url: encodeURI(shot.file),
      available_range: range(first, shot.frames, shot.rate),
      metadata: {},
    },
    metadata: kind === 'Video' ? ours(shot) : {},
  };
}

const ours = ({ look, preparation }: CutShot): object => ({ [OURS]: { look, preparation } });

/** A clip that came in goes out as it was; what was changed here is changed in it. */
function asItCame(shot: CutShot, came: Item): object {
  const { name, source_range, effects } = told(shot);
  const others = (Array.isArray(came.effects) ? came.effects : []).filter((effect) => !isItem(effect) || !SPEED.test(kindOf(effect)));
  const reference = referenceOf(came);
  return {
    ...came,
    ...(shot.name !== shot.origin?.laid?.name && { name }),
    ...(!isAsLaid(shot) && { source_range, effects: [...others, ...effects] }),
    // Its file was found here.
    ...((!reference || kindOf(reference) === 'MissingReference') && { OTIO_SCHEMA: 'Clip.1', media_reference: (clip(shot, 'Video') as Item).media_reference }),
    metadata: { ...(came.metadata as object | null | undefined), ...ours(shot) },
  };
}

const isTransition = (item: unknown): boolean => isItem(item) && kindOf(item) === 'Transition';
/** A transition is between two others, and none beside another. */
const parted = (line: readonly unknown[]): unknown[] => line.filter((item, i) => !(isTransition(item) && isTransition(line[i - 1])));

/** What stands on the track of pictures. Clips that lay together in a stack or a track do so again, where they still stand side by side. */
function pictures({ shots, origin }: Cut): unknown[] {
  const nests = origin?.nests ?? [];
  const root: unknown[] = [];
  /** The nests that are open, from the outermost in. */
  const open: { readonly id: number; readonly children: unknown[] }[] = [];
  const used = new Set<number>();
  const here = (): unknown[] => open.at(-1)?.children ?? root;
  const close = (): void => {
    const { id, children } = open.pop()!;
    const { item } = nests[id]!;
    here().push({ ...item, children: parted([...children, ...(Array.isArray(item.children) ? (item.children as unknown[]) : [])]) });
  };
  for (const shot of shots) {
    const came = shot.origin?.clip;
    const within = (shot.origin?.within ?? []).filter((id) => nests[id]);
    while (open.some(({ id }, i) => within[i] !== id)) close();
    for (const id of within.slice(open.length)) {
      // What was parted from its neighbours lies on the track itself.
      if (used.has(id)) break;
      used.add(id);
      here().push(...(nests[id]!.before ?? []));
      open.push({ id, children: [] });
    }
    here().push(...(shot.origin?.before ?? []), isItem(came) ? asItCame(shot, came) : clip(shot, 'Video'));
  }
  while (open.length) close();
  return parted([...root, ...(origin?.after ?? [])]);
}

const track = (kind: 'Video' | 'Audio', children: readonly unknown[]) => ({
  OTIO_SCHEMA: 'Track.1',
  name: kind === 'Video' ? 'V1' : 'A1',
  kind,
  source_range: null,
  effects: [],
  markers: [],
  metadata: {},
  children,
});

/** Silence where a shot has no sound, so that what follows stays in step. */
const silence = (shot: CutShot): object => ({
  OTIO_SCHEMA: 'Gap.1',
  name: '',
  source_range: range(0, takenOf(shot).shown, shot.rate),
  effects: [],
  markers: [],
  metadata: {},
});

/** Sound beside the pictures; none where no shot has any. It is made anew whenever a reel goes out. */
const soundTracks = (shots: readonly CutShot[]): object[] =>
  shots.some(({ sound }) => sound)
    ? [
        {
          ...track(
            'Audio',
            shots.map((shot) => (shot.sound ? clip(shot, 'Audio') : silence(shot))),
          ),
          metadata: { [OURS]: { beside: 'pictures' } },
        },
      ]
    : [];

/** Whether a track is the sound that was made with a reel that went out. */
export const isOwnSound = ({ kind, metadata }: Item): boolean => kind === 'Audio' && typeof metadata === 'object' && metadata !== null && OURS in metadata;

/** The timeline that a cut came with, its other tracks as they were. */
function cameWith(cut: Cut, { timeline, track: at }: CutOrigin): object | undefined {
  const stack = timeline?.tracks;
  if (!isItem(stack)) return undefined;
  const children = childrenOf(stack);
  if (at === undefined || !children[at]) return undefined;
  const hasSound = children.some((item) => item.kind === 'Audio');
  const laid = children.map((item, i) => (i === at ? { ...item, children: pictures(cut) } : item));
  return { ...timeline, name: cut.name, tracks: { ...stack, children: [...laid, ...(hasSound ? [] : soundTracks(cut.shots))] } };
}

/**
 * A reel in OpenTimelineIO's JSON (Timeline.1): its shots one after the other with source, range and speed, their sound beside them; look and
 * preparation as metadata under `tin_ghost`. What came with a cut goes out as it came, but for what was changed.
 */
export function writeOtio(cut: Cut): string {
  const timeline = (cut.origin && cameWith(cut, cut.origin)) ?? {
    OTIO_SCHEMA: 'Timeline.1',
    name: cut.name,
    global_start_time: null,
    metadata: {},
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      name: 'tracks',
      source_range: null,
      effects: [],
      markers: [],
      metadata: {},
      children: [track('Video', pictures(cut)), ...soundTracks(cut.shots)],
    },
  };
  return `${JSON.stringify(timeline, null, 2)}\n`;
}
