/** Cuts of other programs, and our own come back: what is taken of each file, by hand from what the formats say. */
import { describe, expect, test } from '@jest/globals';
import '../traits';
import { FormatError } from '../formats/cube';
import { EMPTY_LOOK } from '../look/look';
import { shippedLook } from '../looks';
import { even } from '../random/random';
import type { CutShot } from './cut';
import { placeShot, type CutIn } from './cut-in';
import { writeEdl } from './edl';
import { writeOtio } from './otio';
import { readEdl } from './read-edl';
import { readOtio } from './read-otio';

const PAL = { num: 25, den: 1 };
const FILM = { num: 24_000, den: 1001 };
const placed = (cut: CutIn, footage: { rate: { num: number; den: number }; frames: number; timecode?: string }) => cut.shots.map((shot) => placeShot(shot, footage));

const EDL = [
  'TITLE:   LAST NIGHT',
  'FCM: NON-DROP FRAME',
  '',
  '001  TRAM14   V     C        01:00:02:00 01:00:04:12 10:00:00:00 10:00:02:12 ',
  '* FROM CLIP NAME:  DUSK.MOV',
  '002  TRAM14   AA/V  C        01:00:04:12 01:00:04:12 10:00:02:12 10:00:02:12',
  '002  DEPOT    AA/V  D    012 01:10:00:00 01:10:03:00 10:00:02:12 10:00:05:12',
  '* FROM CLIP NAME: DUSK.MOV',
  '* TO CLIP NAME: WORKSHOP.MOV',
  'M2   DEPOT    012.5                01:10:00:00',
  '003  BL       V     C        00:00:00:00 00:00:01:00 10:00:05:12 10:00:06:12',
  '004  A001     A     C        00:00:00:00 00:00:01:00 10:00:05:12 10:00:06:12',
  '005  AX       B     C        00:00:01:00 00:00:02:00 10:00:06:12 10:00:07:12',
  '* SOURCE FILE: /Volumes/tram/street 4.mp4',
].join('\r\n');

describe('an EDL', () => {
  const cut = readEdl(EDL);

  test('gives its events with a picture, by the names of their files; what it has besides is told', () => {
    expect(cut.name).toBe('LAST NIGHT');
    expect(cut.shots.map(({ name, file }) => [name, file])).toEqual([
      ['DUSK.MOV', 'DUSK.MOV'],
      ['WORKSHOP.MOV', 'WORKSHOP.MOV'],
      ['street 4.mp4', 'street 4.mp4'],
    ]);
    expect(cut.left).toEqual(['transitions, which become cuts', 'black, over which shots close up', 'sound that is cut by itself']);
  });

  test('counts by the file’s timecode where it tells one, from its first frame where it does not', () => {
    const footage = { rate: PAL, frames: 500, timecode: '01:00:00:00' };
    expect(placeShot(cut.shots[0]!, footage).preparation).toEqual({ trim: { from: 50, to: 112 } });
    // At half speed 75 frames of the file are shown as 150.
    expect(placeShot(cut.shots[1]!, { ...footage, timecode: '01:09:58:00' }).preparation).toEqual({ trim: { from: 50, to: 125 }, speed: 0.5 });
    expect(placeShot(cut.shots[2]!, { rate: PAL, frames: 500 }).preparation).toEqual({ trim: { from: 25, to: 50 } });
  });

  test('that goes beyond its file is held to it, and told', () => {
    const { preparation, notes } = placeShot(cut.shots[0]!, { rate: PAL, frames: 100, timecode: '01:00:00:00' });
    expect(preparation).toEqual({ trim: { from: 50, to: 100 } });
    expect(notes).toEqual(['goes beyond its file by 12 frames, which it loses']);
  });

  test('leaves out numbers where its mode says so, with whatever sign they are written', () => {
    const [first] = readEdl('FCM: DROP FRAME\n001 AX V C 00:01:00:02 00:02:00:02 01:00:00:00 01:01:00:00').shots;
    expect(first!.taken).toEqual({ by: 'timecode', from: '00:01:00;02', to: '00:02:00;02' });
    // A minute of 29.97 is 1798 frames but for the tenth ones.
    expect(placeShot(first!, { rate: { num: 30_000, den: 1001 }, frames: 9000 }).preparation).toEqual({ trim: { from: 1800, to: 3598 } });
  });

  test.each([
    ['', 1, /no event/],
    ['TITLE: X\n001 AX V C 00:00:00:00 00:00:01:00 00:00:00:00', 2, /four timecodes/],
    ['TITLE: X\n\n001 AX V C 00:00:00:00 00:00:01 00:00:00:00 00:00:01:00', 3, /"00:00:01" is no timecode/],
  ])('that is wrong is told with its line: %j', (text, line, reason) => {
    const wrong = (): unknown => readEdl(text);
    expect(wrong).toThrow(FormatError);
    expect(wrong).toThrow(reason);
    expect(wrong).toThrow(`line ${line}:`);
  });
});

const time = (value: number, rate: number) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate });
const range = (from: number, length: number, rate: number) => ({ OTIO_SCHEMA: 'TimeRange.1', start_time: time(from, rate), duration: time(length, rate) });
const clip = (name: string, url: string, more: object) => ({
  OTIO_SCHEMA: 'Clip.2',
  name,
  media_references: { DEFAULT_MEDIA: { OTIO_SCHEMA: 'ExternalReference.1', target_url: url, available_range: range(86_400, 480, 24) } },
  active_media_reference_key: 'DEFAULT_MEDIA',
  ...more,
});

describe('OTIO', () => {
  const timeline = {
    OTIO_SCHEMA: 'Timeline.1',
    name: 'Last night',
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      children: [
        { OTIO_SCHEMA: 'Track.1', kind: 'Audio', children: [clip('sound', 'dusk.wav', {})] },
        {
          OTIO_SCHEMA: 'Track.1',
          kind: 'Video',
          children: [
            clip('dusk', 'file:///media/tram%20line/dusk%20one.mov', { source_range: range(86_424, 48, 24), metadata: { other: { scene: 4 } } }),
            { OTIO_SCHEMA: 'Transition.1' },
            { OTIO_SCHEMA: 'Gap.1', source_range: range(0, 5, 24) },
            clip('slow', 'D:\\tram\\slow.mov', { source_range: range(86_400, 48, 24), effects: [{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 0.5 }] }),
            clip('back', 'back.mov', { effects: [{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: -8 }] }),
            { OTIO_SCHEMA: 'Clip.1', name: 'bars', media_reference: { OTIO_SCHEMA: 'GeneratorReference.1' }, source_range: range(0, 5, 24) },
          ],
        },
        { OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [clip('title', 'title.mov', {})] },
      ],
    },
  };
  const cut = readOtio(JSON.stringify(timeline));

  test('gives the clips of its lowest track of pictures, their files without folders; the rest is told', () => {
    expect(cut.shots.map(({ name, file }) => [name, file])).toEqual([
      ['dusk', 'dusk one.mov'],
      ['slow', 'slow.mov'],
      ['back', 'back.mov'],
    ]);
    expect(cut.left).toEqual(['tracks of pictures above the first', 'transitions, which become cuts', 'gaps, over which shots close up', 'what is generated, such as bars']);
  });

  test('counts from where the file begins, whatever its clock says, in frames of the file that is found', () => {
    const [dusk, slow, back] = placed(cut, { rate: { num: 24, den: 1 }, frames: 480, timecode: '01:00:00:00' });
    expect(dusk).toEqual({ preparation: { trim: { from: 24, to: 72 } }, notes: [] });
    expect(slow).toEqual({ preparation: { trim: { from: 0, to: 24 }, speed: 0.5 }, notes: [] });
    expect(back!.notes).toEqual(['plays backwards there, forwards here', 'goes beyond its file by 1440 frames, which it loses']);
    // The same moment of a file of another rate.
    expect(placed(cut, { rate: PAL, frames: 500 })[0]!.preparation).toEqual({ trim: { from: 25, to: 75 } });
  });

  test.each([
    ['{', /line 1: no JSON/],
    ['{"a": 1}', /no OpenTimelineIO/],
    ['{"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Stack.1", "children": []}}', /no clips on a track of pictures/],
  ])('that is wrong is told: %s', (text, reason) => {
    expect(() => readOtio(text)).toThrow(FormatError);
    expect(() => readOtio(text)).toThrow(reason);
  });
});

test('what a clip of another program holds goes out again with it, by its own clock; what is ours stands beside it', () => {
  const theirs = clip('dusk', 'file:///media/dusk.mov', {
    source_range: range(86_424, 48, 24),
    metadata: { other: { scene: 4 }, tin_ghost: { preparation: { mirror: true } } },
    markers: [{ OTIO_SCHEMA: 'Marker.2', name: 'bell' }],
  });
  const [one] = readOtio(
    JSON.stringify({ OTIO_SCHEMA: 'Timeline.1', tracks: { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [theirs] }] } }),
  ).shots;
  const footage = { rate: { num: 24, den: 1 }, frames: 480 };
  const { preparation } = placeShot(one!, footage);
  expect(preparation).toEqual({ mirror: true, trim: { from: 24, to: 72 } });
  const look = { ...EMPTY_LOOK, seed: 9 };
  const out = JSON.parse(writeOtio({ name: 'Reel', shots: [{ name: 'dusk', file: 'dusk.mov', sound: false, ...footage, preparation, look, origin: one!.origin }] })) as {
    tracks: { children: { children: Record<string, unknown>[] }[] };
  };
  const [back] = out.tracks.children[0]!.children;
  expect(back).toMatchObject({ name: 'dusk', source_range: range(86_424, 48, 24), markers: [{ name: 'bell' }], media_reference: theirs.media_references.DEFAULT_MEDIA });
  expect(back!.metadata).toEqual({ other: { scene: 4 }, tin_ghost: { look, preparation } });
});

describe('a reel that went out comes back', () => {
  const shot = (name: string, more: Partial<CutShot>): CutShot => ({
    name,
    file: `${name}.mov`,
    rate: FILM,
    frames: 240,
    sound: true,
    preparation: {},
    look: { ...EMPTY_LOOK, seed: 7 },
    ...more,
  });
  const shots = [
    shot('dusk', { look: shippedLook('home-gauge')! }),
    shot('conductor', { timecode: '10:00:00:00', preparation: { trim: { from: 51, to: 150 }, speed: 0.8, mirror: true } }),
    shot('street', { preparation: { trim: { from: 30, to: 91 } } }),
  ];

  test('as OTIO: every shot, its trim, speed, look and preparation', () => {
    const back = readOtio(writeOtio({ name: 'Reel', shots }));
    expect([back.name, back.left]).toEqual(['Reel', []]);
    back.shots.forEach((one, i) => {
      const { name, file, look, preparation, rate, frames, timecode } = shots[i]!;
      expect([one.name, one.file, one.look]).toEqual([name, file, look]);
      expect(placeShot(one, { rate, frames, timecode })).toEqual({ preparation, notes: [] });
    });
  });

  test('as OTIO whose clip was trimmed elsewhere: the new range, the rest as it was', () => {
    const text = writeOtio({ name: 'Reel', shots });
    const timeline = JSON.parse(text) as { tracks: { children: { children: { source_range: { duration: { value: number } } }[] }[] } };
    timeline.tracks.children[0]!.children[1]!.source_range.duration.value = 50;
    const [, conductor] = readOtio(JSON.stringify(timeline)).shots;
    expect(placeShot(conductor!, shots[1]!).preparation).toEqual({ trim: { from: 51, to: 91 }, speed: 0.8, mirror: true });
  });

  test('as an EDL: every shot, its trim and speed', () => {
    const back = readEdl(writeEdl({ name: 'Reel', shots }));
    back.shots.forEach((one, i) => {
      const { name, file, preparation } = shots[i]!;
      expect([one.name, one.file]).toEqual([name, file]);
      const { mirror: _own, ...told } = preparation;
      expect(placeShot(one, shots[i]!)).toEqual({ preparation: told, notes: [] });
    });
  });
});

test('whatever is in a file, it is read or refused with its line: nothing else is thrown', () => {
  const sources = [
    EDL,
    writeOtio({ name: 'Reel', shots: [] }),
    writeEdl({ name: 'R', shots: [{ name: 'a', file: 'a', rate: PAL, frames: 9, sound: true, preparation: {}, look: EMPTY_LOOK }] }),
  ];
  const otio = JSON.stringify({
    OTIO_SCHEMA: 'Timeline.1',
    tracks: { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [clip('a', 'a', {})] }] },
  });
  const bits = ['null', '{}', '[]', '-1', '1e999', '"', ':', '\\', '99:99:99:99', 'M2 ', '* ', 'Clip.1', 'Track.9', '\u0000', '{"OTIO_SCHEMA":"Stack.1"}'];
  let refused = 0;
  for (let seed = 0; seed < 3000; seed++) {
    const pick = (n: number, salt: number): number => Math.floor(even(seed, salt) * n);
    let text = [...sources, otio][seed % 4]!;
    for (let i = 0; i <= pick(4, 1); i++) {
      const at = pick(text.length + 1, 10 + i);
      text = text.slice(0, at) + bits[pick(bits.length, 20 + i)]! + text.slice(at + pick(30, 30 + i));
    }
    for (const read of [readEdl, readOtio])
      try {
        for (const one of read(text).shots) {
          const { trim } = placeShot(one, { rate: PAL, frames: 100, timecode: '01:00:00:00' }).preparation;
          if (trim) expect(trim.from >= 0 && trim.to > trim.from && trim.to <= 100).toBe(true);
        }
      } catch (error) {
        if (!(error instanceof FormatError)) throw new Error(`seed ${seed}: ${String(error)}`);
        refused++;
      }
  }
  expect(refused).toBeGreaterThan(1000);
});
