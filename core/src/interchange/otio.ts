import { begins, fps, takenOf, type Cut, type CutShot } from './cut';
import type { CutRate } from './timecode';

/** Under this name our additions stand, so that who does not know them hands them on. */
export const OURS = 'tin_ghost';

const time = (value: number, rate: CutRate) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: fps(rate), value });
const range = (from: number, length: number, rate: CutRate) => ({ OTIO_SCHEMA: 'TimeRange.1', duration: time(length, rate), start_time: time(from, rate) });

/** The number of the footage's first frame, by the clock of the cut it came with, else by its file's. */
function firstOf({ origin, ...shot }: CutShot): number {
  const range = origin?.reference?.available_range as { start_time?: { value?: unknown; rate?: unknown } } | null | undefined;
  const [value, rate] = [Number(range?.start_time?.value), Number(range?.start_time?.rate)];
  return Number.isFinite(value) && rate > 0 ? Math.round((value / rate) * fps(shot.rate)) : begins(shot);
}

function clip(shot: CutShot, kind: 'Video' | 'Audio'): object {
  const { from, shown } = takenOf(shot);
  const { metadata, markers = [], reference } = kind === 'Video' ? (shot.origin ?? {}) : {};
  const first = firstOf(shot);
  const { speed = 1 } = shot.preparation;
  return {
    OTIO_SCHEMA: 'Clip.1',
    name: shot.name,
    // As long as it is shown: an effect of time does not change a clip's length.
    source_range: range(first + from, shown, shot.rate),
    effects: speed === 1 ? [] : [{ OTIO_SCHEMA: 'LinearTimeWarp.1', name: 'speed', effect_name: 'LinearTimeWarp', time_scalar: speed, metadata: {} }],
    markers,
    media_reference: {
      OTIO_SCHEMA: 'ExternalReference.1',
      name: shot.file,
      target_url: encodeURI(shot.file),
      available_range: range(first, shot.frames, shot.rate),
      metadata: {},
      // Its own address and what it says of itself.
      ...reference,
    },
    metadata: kind === 'Video' ? { ...metadata, [OURS]: { look: shot.look, preparation: shot.preparation } } : {},
  };
}

const track = (kind: 'Video' | 'Audio', children: readonly object[]) => ({
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

/**
 * A reel in OpenTimelineIO's JSON (Timeline.1): its shots one after the other with source, range and speed, their sound beside them; look and
 * preparation as metadata under `tin_ghost`.
 */
export function writeOtio({ name, shots }: Cut): string {
  const heard = shots.some(({ sound }) => sound);
  const timeline = {
    OTIO_SCHEMA: 'Timeline.1',
    name,
    global_start_time: null,
    metadata: {},
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      name: 'tracks',
      source_range: null,
      effects: [],
      markers: [],
      metadata: {},
      children: [
        track(
          'Video',
          shots.map((shot) => clip(shot, 'Video')),
        ),
        ...(heard
          ? [
              track(
                'Audio',
                shots.map((shot) => (shot.sound ? clip(shot, 'Audio') : silence(shot))),
              ),
            ]
          : []),
      ],
    },
  };
  return `${JSON.stringify(timeline, null, 2)}\n`;
}
