/** A reel as other programs read it: what is taken of each file, how fast, and where it stands, counted by hand. */
import { describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '../look/look';
import type { Cut, CutShot } from './cut';
import { writeEdl } from './edl';
import { writeOtio } from './otio';

const shot = (name: string, more: Partial<CutShot>): CutShot => ({
  name,
  file: `${name}.mov`,
  rate: { num: 25, den: 1 },
  frames: 200,
  sound: true,
  preparation: {},
  look: { ...EMPTY_LOOK, name: 'Home gauge', seed: 7 },
  ...more,
});
const cut: Cut = {
  name: 'Last night of line 14',
  shots: [
    shot('dusk', {}),
    shot('conductor', { preparation: { trim: { from: 50, to: 150 }, speed: 0.5 } }),
    shot('street', { rate: { num: 30000, den: 1001 }, frames: 300, sound: false, preparation: { trim: { from: 30, to: 91 } } }),
  ],
};

describe('an EDL', () => {
  const lines = writeEdl(cut).split('\r\n');
  const events = lines.filter((line) => /^\d{3} /.test(line));

  test('cuts each shot where the last one ended, from its own time code, at the first one’s rate', () => {
    expect(lines.slice(0, 2)).toEqual(['TITLE: Last night of line 14', 'FCM: NON-DROP FRAME']);
    expect(events).toEqual([
      '001  AX       AA/V  C        00:00:00:00 00:00:08:00 00:00:00:00 00:00:08:00',
      // A hundred frames at half speed last eight seconds.
      '002  AX       AA/V  C        00:00:02:00 00:00:06:00 00:00:08:00 00:00:16:00',
      // 61 frames of 29.97 are 2.035 s: 51 of 25.
      '003  AX       V     C        00:00:01:00 00:00:03:01 00:00:16:00 00:00:18:01',
    ]);
  });

  test('says the speed, the file, the shot and its look', () => {
    const after = lines.slice(lines.indexOf(events[1]!) + 1, lines.indexOf(events[2]!));
    expect(after).toEqual([
      'M2   AX       012.5                00:00:02:00',
      '* FROM CLIP NAME: conductor.mov',
      '* COMMENT: SHOT conductor',
      '* COMMENT: LOOK Home gauge, SEED 7',
      '',
    ]);
  });

  test('never drifts: a thousand shots less one end where their lengths add up to', () => {
    const odd = Array.from({ length: 999 }, () => shot('s', { rate: { num: 24000, den: 1001 }, frames: 37 }));
    const last = writeEdl({ name: 'long', shots: [shot('first', { frames: 25 }), ...odd.slice(1)] })
      .split('\r\n')
      .filter((line) => /^\d{3} /.test(line))
      .at(-1)!;
    const [h, m, s, f] = last.split(' ').at(-1)!.split(':').map(Number) as [number, number, number, number];
    expect(Math.abs(h * 3600 + m * 60 + s + f / 25 - (1 + (998 * 37 * 1001) / 24000))).toBeLessThan(0.021);
    expect(() => writeEdl({ name: 'too long', shots: [...odd, odd[0]!] })).toThrow(/999 events, the reel has 1000/);
    expect(() => writeEdl({ name: 'empty', shots: [] })).toThrow(RangeError);
  });

  test('is plain text, whatever the names are', () => {
    const text = writeEdl({ name: 'Zürich — 最終電車', shots: [shot('night', { file: `${'very long '.repeat(20)}.mov` })] });
    expect(text).toMatch(/^[\x20-\x7e\r\n]*$/);
    expect(text).toContain('TITLE: Zurich');
    for (const line of text.split('\r\n')) expect(line.length).toBeLessThanOrEqual(80);
  });
});

describe('OTIO', () => {
  interface Item {
    OTIO_SCHEMA: string;
    name: string;
    kind?: string;
    children: Item[];
    source_range: { start_time: { value: number; rate: number }; duration: { value: number; rate: number } };
    effects: { OTIO_SCHEMA: string; time_scalar: number }[];
    media_reference: { target_url: string; available_range: { duration: { value: number } } };
    metadata: { tin_ghost?: { look: object; preparation: object } };
  }
  const timeline = JSON.parse(writeOtio(cut)) as { OTIO_SCHEMA: string; name: string; tracks: Item };

  test('has the shots in order with their range, speed and file, and their look for whoever knows it', () => {
    expect([timeline.OTIO_SCHEMA, timeline.name]).toEqual(['Timeline.1', cut.name]);
    const [video, audio] = timeline.tracks.children as [Item, Item];
    expect([video.kind, audio.kind]).toEqual(['Video', 'Audio']);
    expect(video.children.map(({ source_range: { start_time, duration } }) => [start_time.value, duration.value, duration.rate])).toEqual([
      [0, 200, 25],
      [50, 200, 25],
      [30, 61, 30000 / 1001],
    ]);
    expect(video.children[1]!.effects).toMatchObject([{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 0.5 }]);
    expect(video.children[0]!.effects).toEqual([]);
    expect(video.children.map(({ media_reference }) => media_reference.target_url)).toEqual(['dusk.mov', 'conductor.mov', 'street.mov']);
    expect(video.children[1]!.metadata.tin_ghost).toEqual({ look: cut.shots[1]!.look, preparation: cut.shots[1]!.preparation });
  });

  test('keeps sound in step: a shot without any is silence as long as it', () => {
    const [video, audio] = timeline.tracks.children as [Item, Item];
    expect(audio.children.map(({ OTIO_SCHEMA }) => OTIO_SCHEMA)).toEqual(['Clip.1', 'Clip.1', 'Gap.1']);
    const lengths = ({ children }: Item): number[] => children.map(({ source_range: { duration } }) => duration.value / duration.rate);
    expect(lengths(audio)).toEqual(lengths(video));
    const silent = JSON.parse(writeOtio({ ...cut, shots: cut.shots.slice(2) })) as { tracks: Item };
    expect(silent.tracks.children).toHaveLength(1);
  });
});
