/** Cuts of other programs, and our own come back: what is taken of each file, by hand from what the formats say. */
import { describe, expect, test } from '@jest/globals';
import '../traits';
import { FormatError } from '../formats/cube';
import { EMPTY_LOOK } from '../look/look';
import { shippedLook } from '../looks';
import { even } from '../random/random';
import type { Cut, CutShot } from './cut';
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
  'M2   DEPOT    012.5                01:10:00:00',
  '* FROM CLIP NAME: DUSK.MOV',
  '* TO CLIP NAME: WORKSHOP.MOV',
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
    expect([cut.left, cut.kept]).toEqual([[], ['transitions, which are cuts here', 'black', 'sound that is cut by itself']]);
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
    expect([cut.left, cut.kept]).toEqual([[], ['tracks of pictures above the first', 'transitions, which are cuts here', 'gaps', 'what is generated, such as bars']]);
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

describe('a cut of another program goes out again as it came', () => {
  const footage = { rate: { num: 24, den: 1 }, frames: 480, timecode: '01:00:00:00' };
  const look = { ...EMPTY_LOOK, seed: 9 };
  /** What lies here of a cut, each shot of footage of its own. */
  const lay = (cut: CutIn, of: typeof footage = footage): Cut => ({
    name: cut.name,
    origin: cut.origin,
    shots: cut.shots.map((shot) => {
      const { preparation } = placeShot(shot, of);
      return { ...of, name: shot.name, file: shot.file, sound: true, preparation, look, origin: { ...shot.origin, laid: { name: shot.name, ...preparation } } };
    }),
  });
  type Json = Record<string, unknown>;
  const videoOf = (text: string, track = 1): Json[] => (JSON.parse(text) as { tracks: { children: { children: Json[] }[] } }).tracks.children[track]!.children;

  const dissolve = { OTIO_SCHEMA: 'Transition.1', name: 'dissolve', in_offset: time(6, 24), out_offset: time(6, 24), transition_type: 'SMPTE_Dissolve' };
  const gap = { OTIO_SCHEMA: 'Gap.1', name: 'black', source_range: range(0, 12, 24) };
  const title = { OTIO_SCHEMA: 'Clip.1', name: 'title', media_reference: { OTIO_SCHEMA: 'GeneratorReference.1', generator_kind: 'text' }, source_range: range(0, 24, 24) };
  const freeze = { OTIO_SCHEMA: 'FreezeFrame.1', time_scalar: 0 };
  const blur = { OTIO_SCHEMA: 'Effect.1', effect_name: 'blur', metadata: { radius: 3 } };
  const theirs = [
    clip('dusk', 'file:///media/dusk.mov', {
      source_range: range(86_424, 48, 24),
      metadata: { other: { scene: 4 } },
      markers: [{ OTIO_SCHEMA: 'Marker.2', name: 'bell' }],
      enabled: true,
    }),
    dissolve,
    // At a rate of its own, slower than here it can be, with an effect besides.
    clip('bell', 'file:///media/bell.mov', { source_range: range(108_050, 50, 30), effects: [blur, { OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 0.1 }] }),
    gap,
    title,
    clip('held', 'file:///media/held.mov', { source_range: range(86_500, 24, 24), effects: [freeze] }),
    gap,
  ];
  const timeline = {
    OTIO_SCHEMA: 'Timeline.1',
    name: 'Last night',
    global_start_time: time(86_400, 24),
    metadata: { edit: { version: 7 } },
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      name: 'all',
      markers: [{ OTIO_SCHEMA: 'Marker.2', name: 'chapter' }],
      children: [
        { OTIO_SCHEMA: 'Track.1', kind: 'Audio', name: 'tram', children: [clip('sound', 'dusk.wav', {})] },
        { OTIO_SCHEMA: 'Track.1', kind: 'Video', name: 'V1', metadata: { locked: true }, children: theirs },
        { OTIO_SCHEMA: 'Track.1', kind: 'Audio', metadata: 'of another kind', children: [] },
        { OTIO_SCHEMA: 'Track.1', kind: 'Video', name: 'titles', children: [gap, clip('over', 'over.mov', {})] },
      ],
    },
  };
  const cut = lay(readOtio(JSON.stringify(timeline)));

  test('as OTIO all of it, with nothing added but what is ours on each clip', () => {
    expect(cut.shots.map(({ name }) => name)).toEqual(['dusk', 'bell', 'held']);
    const out = JSON.parse(writeOtio(cut)) as typeof timeline;
    for (const one of out.tracks.children[1]!.children as unknown as { OTIO_SCHEMA: string; name: string; metadata?: Json }[])
      if (/^Clip/.test(one.OTIO_SCHEMA) && one.name !== 'title') {
        const { preparation } = cut.shots.find(({ name }) => name === one.name)!;
        expect(one.metadata!.tin_ghost).toEqual({ look, preparation });
        delete one.metadata!.tin_ghost;
        // A clip without any metadata has now an empty one.
        if (Object.keys(one.metadata!).length === 0) delete one.metadata;
      }
    expect(out).toEqual(timeline);
  });

  test('as OTIO with what was changed here: range, speed, name, order, a shot less and one more', () => {
    const [dusk, bell, held] = cut.shots as [CutShot, CutShot, CutShot];
    const added: CutShot = { ...footage, name: 'new', file: 'new.mov', sound: false, preparation: {}, look };
    const changed = {
      ...cut,
      shots: [bell, { ...dusk, name: 'evening' }, { ...held, preparation: { trim: { from: 10, to: 34 }, speed: 2 } }, added],
    };
    const [first, second, third, ...rest] = videoOf(writeOtio(changed)).filter(({ OTIO_SCHEMA, name }) => /^Clip/.test(OTIO_SCHEMA as string) && name !== 'title');
    expect([first!.name, first!.source_range, first!.effects]).toEqual(['bell', range(108_050, 50, 30), (theirs[2] as Json).effects]);
    expect([second!.name, second!.source_range, second!.markers]).toEqual(['evening', range(86_424, 48, 24), (theirs[0] as Json).markers]);
    // By the clock of its own reference.
    expect([third!.source_range, third!.effects]).toMatchObject([range(86_410, 12, 24), [{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 2 }]]);
    expect(rest).toMatchObject([{ name: 'new', metadata: { tin_ghost: { look } } }]);
    // A shot that is gone takes with it what stood before it; no transition is left beside another.
    const kinds = (shots: readonly CutShot[]): unknown[] => videoOf(writeOtio({ ...cut, shots })).map(({ OTIO_SCHEMA }) => OTIO_SCHEMA);
    expect(kinds([dusk, held])).toEqual(['Clip.2', 'Gap.1', 'Clip.1', 'Clip.2', 'Gap.1']);
    const bare = { ...bell, origin: { ...bell.origin, clip: undefined } };
    expect(kinds([dusk, bare])).toEqual(['Clip.2', 'Transition.1', 'Clip.1', 'Gap.1']);
    expect(kinds([{ ...dusk, origin: { ...dusk.origin, before: [dissolve, dissolve] } }])).toEqual(['Transition.1', 'Clip.2', 'Gap.1']);
  });

  test('as OTIO that was missing its file: with the one that was found here', () => {
    const lost = { OTIO_SCHEMA: 'Clip.1', name: 'lost', media_reference: { OTIO_SCHEMA: 'MissingReference.1' }, source_range: range(24, 24, 24) };
    const one = { OTIO_SCHEMA: 'Timeline.1', name: 'T', tracks: { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [lost] }] } };
    const [back] = videoOf(writeOtio(lay(readOtio(JSON.stringify(one)))), 0);
    expect(back).toMatchObject({ name: 'lost', source_range: lost.source_range, media_reference: { OTIO_SCHEMA: 'ExternalReference.1', target_url: 'lost' } });
  });

  test('the sound that was made with a reel is made anew, and is no part of what came', () => {
    const own = writeOtio({ name: 'Reel', shots: [{ ...footage, name: 'a', file: 'a.mov', sound: true, preparation: {}, look }] });
    const back = lay(readOtio(own));
    const shorter = { ...back, shots: back.shots.map((shot) => ({ ...shot, preparation: { trim: { from: 0, to: 100 } } })) };
    const sound = videoOf(writeOtio(shorter), 1);
    expect(sound).toMatchObject([{ source_range: range(86_400, 100, 24) }]);
    expect(JSON.parse(writeOtio(back))).toEqual(JSON.parse(own));
  });

  test('larger than a person’s cut is: what is left out is told', () => {
    const notes = { ...timeline, metadata: { notes: 'x'.repeat(4_000_001) } };
    const read = readOtio(JSON.stringify(notes));
    expect([read.origin, read.left.at(-1)]).toEqual([undefined, 'its other tracks and what belongs to the whole of it, which are too large']);
    const long = {
      ...timeline,
      tracks: { ...timeline.tracks, children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [clip('dusk', 'dusk.mov', { metadata: { notes: 'x'.repeat(60_001) } })] }] },
    };
    expect(readOtio(JSON.stringify(long)).left).toContain('metadata and markers of dusk, which are too large');
  });

  test('as OTIO with clips that lie in stacks and tracks: where they lay, whatever else lies there', () => {
    const nested = {
      ...timeline,
      tracks: {
        ...timeline.tracks,
        children: [
          {
            OTIO_SCHEMA: 'Track.1',
            kind: 'Video',
            children: [
              theirs[0],
              gap,
              {
                OTIO_SCHEMA: 'Stack.1',
                name: 'bells',
                source_range: range(0, 60, 24),
                metadata: { colour: 'green' },
                children: [
                  { OTIO_SCHEMA: 'Track.1', kind: 'Video', name: 'inner', children: [gap, theirs[2], dissolve, { OTIO_SCHEMA: 'Track.1', children: [theirs[5], title] }, gap] },
                  { OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [clip('over', 'over.mov', {})] },
                ],
              },
              { OTIO_SCHEMA: 'Stack.1', name: 'no clips', children: [{ OTIO_SCHEMA: 'Track.1', children: [gap] }] },
              clip('last', 'last.mov', { source_range: range(86_400, 24, 24) }),
            ],
          },
        ],
      },
    };
    const came = readOtio(JSON.stringify(nested));
    expect(came.shots.map(({ name }) => name)).toEqual(['dusk', 'bell', 'held', 'last']);
    expect(came.kept).toContain('the trim of clips within clips');
    const laid = lay(came);
    /** All but what is ours. */
    const bare = (text: string): unknown =>
      JSON.parse(text, (key, value: unknown) => {
        if (key !== 'metadata' || typeof value !== 'object' || value === null) return value;
        const { tin_ghost: ours, ...rest } = value as Json;
        return ours && Object.keys(rest).length === 0 ? undefined : rest;
      });
    const silent = { ...laid, shots: laid.shots.map((shot) => ({ ...shot, sound: false })) };
    expect(bare(writeOtio(silent))).toEqual(nested);
    // One that is drawn out of its stack lies on the track; the stack stays about those that are left, and goes with the last of them.
    const [dusk, bell, held, last] = silent.shots as [CutShot, CutShot, CutShot, CutShot];
    const names = (shots: readonly CutShot[]): unknown[] => videoOf(writeOtio({ ...silent, shots }), 0).map(({ OTIO_SCHEMA, name }) => name ?? OTIO_SCHEMA);
    expect(names([dusk, bell, last, held])).toEqual(['dusk', 'black', 'bells', 'no clips', 'last', 'held']);
    expect(names([dusk, last])).toEqual(['dusk', 'no clips', 'last']);
  });

  test('as OTIO of a sequence of images: counted in images, whatever the footage’s rate is', () => {
    const reference = {
      OTIO_SCHEMA: 'ImageSequenceReference.1',
      target_url_base: 'file:///media/bell/',
      name_prefix: 'bell.',
      name_suffix: '.png',
      start_frame: 1001,
      frame_step: 1,
      rate: 24,
      frame_zero_padding: 4,
      available_range: range(1001, 200, 24),
    };
    const one = { OTIO_SCHEMA: 'Clip.1', name: 'bell', media_reference: reference, source_range: range(1011, 48, 24) };
    const text = JSON.stringify({
      OTIO_SCHEMA: 'Timeline.1',
      name: 'T',
      tracks: { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [one] }] },
    });
    const [shot] = readOtio(text).shots;
    expect(shot).toMatchObject({ file: 'bell.1001.png', taken: { by: 'images', from: 10, frames: 48 } });
    expect(placeShot(shot!, { rate: PAL, frames: 200 }).preparation).toEqual({ trim: { from: 10, to: 58 } });
    const [back] = videoOf(writeOtio(lay(readOtio(text))), 0);
    expect([back!.media_reference, back!.source_range]).toEqual([reference, one.source_range]);
  });

  const pal = { ...footage, rate: PAL, frames: 20_000 };
  /** Lines but empty ones and ours, as long as they have to be. */
  const told = (text: string): string[] =>
    text
      .split(/\r?\n/)
      .map((line) => line.trim().replace(/\s+/g, ' '))
      .filter((line) => line !== '' && !/COMMENT: (SHOT|LOOK)/.test(line));
  const changed = (cut: Cut, i: number, preparation: CutShot['preparation']): Cut => ({ ...cut, shots: cut.shots.map((shot, j) => (i === j ? { ...shot, preparation } : shot)) });

  test('as an EDL all of it: numbers, reels, channels, dissolves and wipes, black, sound by itself, speeds, comments and both timecodes', () => {
    const long = [
      ...EDL.split('\r\n'),
      'FINAL NOTE WITHOUT A STAR',
      '007  BL       V     C        00:00:00:00 00:00:00:00 10:00:08:00 10:00:08:00',
      '007  TRAM14   V     W001 025 01:00:10:00 01:00:11:00 10:00:08:00 10:00:09:00',
      '* WIPE OF THE HOUSE',
      '* TO CLIP NAME: BELL.MOV',
      '008  A002     NONE  C        00:00:00:00 00:00:09:00 10:00:00:00 10:00:09:00',
      '011  TRAM14   A     C        01:00:10:00 01:00:10:00 10:00:08:12 10:00:08:12',
      '* FROM CLIP NAME: BELL.WAV',
      '011  DEPOT    A     D    010 01:10:00:00 01:10:01:00 10:00:08:12 10:00:09:12',
      'M2   TRAM14   050.0                01:00:10:00',
      'FCM: DROP FRAME',
      '012  TRAM15   V     C        00:00:10:00 00:00:11:00 10:00:09:00 10:00:10:00',
      '* FROM CLIP NAME: DEPOT.MOV',
    ].join('\n');
    const laid = lay(readEdl(long), pal);
    expect(laid.shots.map(({ name }) => name)).toEqual(['DUSK.MOV', 'WORKSHOP.MOV', 'street 4.mp4', 'BELL.MOV', 'DEPOT.MOV']);
    // Numbers that are left out are told by the frames' mark.
    // What was said of one that is led out of is said after both.
    const [said, both] = ['* FROM CLIP NAME: BELL.WAV\n', 'DEPOT    A     D    010 01:10:00:00 01:10:01:00 10:00:08:12 10:00:09:12\n'];
    const wanted = long.replace(said, '').replace(both, `${both}${said}`).replace('00:00:10:00 00:00:11:00', '00:00:10;00 00:00:11;00');
    expect(told(writeEdl(laid))).toEqual(told(wanted));
    // What goes out comes back, and goes out the same.
    const again = readEdl(writeEdl(laid));
    expect(told(writeEdl(lay(again, pal)))).toEqual(told(writeEdl(laid)));
  });

  test('as an EDL with what was changed here', () => {
    const laid = lay(readEdl(EDL), pal);
    const events = (cut: Cut): string[] => told(writeEdl(cut)).filter((line) => /^\d{3} /.test(line));
    // A shorter first shot: all that follows begins earlier, the dissolve begins from where it ends now.
    expect(events(changed(laid, 0, { trim: { from: 0, to: 25 } })).slice(0, 5)).toEqual([
      '001 TRAM14 V C 01:00:00:00 01:00:01:00 10:00:00:00 10:00:01:00',
      '002 TRAM14 AA/V C 01:00:01:00 01:00:01:00 10:00:01:00 10:00:01:00',
      '002 DEPOT AA/V D 012 01:10:00:00 01:10:03:00 10:00:01:00 10:00:04:00',
      '003 BL V C 00:00:00:00 00:00:01:00 10:00:04:00 10:00:05:00',
      '004 A001 A C 00:00:00:00 00:00:01:00 10:00:04:00 10:00:05:00',
    ]);
    // A speed of our own in place of theirs; half as fast, 75 frames last six seconds.
    const slower = told(writeEdl(changed(laid, 1, { ...laid.shots[1]!.preparation, speed: 0.25 })));
    expect(slower.filter((line) => line.startsWith('M2'))).toEqual(['M2 DEPOT 006.3 01:10:00:00']);
    // What a shot led out of is no longer named where another stands before it now; numbers begin anew.
    const [dusk, depot, street] = laid.shots as [CutShot, CutShot, CutShot];
    const turned = told(writeEdl({ ...laid, shots: [street, depot, dusk] }));
    expect(turned.filter((line) => /^(\d{3} |\* FROM)/.test(line))).toEqual([
      '001 BL V C 00:00:00:00 00:00:01:00 10:00:00:00 10:00:01:00',
      '002 A001 A C 00:00:00:00 00:00:01:00 10:00:00:00 10:00:01:00',
      '003 AX B C 00:00:01:00 00:00:02:00 10:00:01:00 10:00:02:00',
      '004 AX AA/V C 00:00:02:00 00:00:02:00 10:00:02:00 10:00:02:00',
      '004 DEPOT AA/V D 012 01:10:00:00 01:10:03:00 10:00:02:00 10:00:05:00',
      '005 TRAM14 V C 01:00:02:00 01:00:04:12 10:00:05:00 10:00:07:12',
      '* FROM CLIP NAME: DUSK.MOV',
    ]);
    // The first of all begins from nothing.
    expect(events({ ...laid, shots: [depot] })).toEqual(['002 DEPOT AA/V C 01:10:00:00 01:10:03:00 10:00:00:00 10:00:03:00']);
    const drop = readEdl('FCM: DROP FRAME\n001 AX V C 00:01:00:02 00:02:00:02 01:00:00:00 01:01:00:00');
    const rate = { num: 30_000, den: 1001 };
    const dropped = drop.shots.map((shot) => ({ ...footage, rate, frames: 9000, timecode: undefined, ...shot, sound: false, look, ...placeShot(shot, { rate, frames: 9000 }) }));
    expect(told(writeEdl({ name: 'D', origin: drop.origin, shots: dropped })).slice(1, 3)).toEqual([
      'FCM: DROP FRAME',
      '001 AX V C 00:01:00;02 00:02:00;02 01:00:00;00 01:00:59;28',
    ]);
  });
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
  const bits = [
    'null',
    '{}',
    '[]',
    '-1',
    '1e999',
    '"',
    ':',
    '\\',
    '99:99:99:99',
    'M2 ',
    '* ',
    'Clip.1',
    'Track.9',
    '\u0000',
    '{"OTIO_SCHEMA":"Stack.1"}',
    '"metadata":"x",',
    '"metadata":null,',
  ];
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
        const cut = read(text);
        // What can be read can go out again.
        const out = cut.shots.map((shot) => ({ ...shot, rate: PAL, frames: 100, sound: true, look: EMPTY_LOOK, preparation: {} }));
        expect(() => JSON.parse(writeOtio({ ...cut, shots: out }))).not.toThrow();
        writeEdl({ ...cut, shots: out });
        for (const one of cut.shots) {
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
