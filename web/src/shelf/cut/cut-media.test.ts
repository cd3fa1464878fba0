import { describe, expect, test } from '@jest/globals';
import type { CutIn } from '@tin-ghost/core';
import type { ReelSummary } from '@tin-ghost/contract';
import { isCutName, wantedBy } from './cut-media';

const taken = { by: 'time', from: 0, seconds: 1 } as const;
const cut: CutIn = { name: 'Cut', left: [], kept: [], shots: ['Dusk.mov', 'street', 'Dusk.mov', 'lost.mov'].map((file) => ({ name: file, file, taken })) };
const file = (name: string): File => ({ name }) as File;
const reel = (name: string, media: [string, string, string][]): ReelSummary =>
  ({ name, shots: media.map(([id, medium, state]) => ({ id, medium: { name: medium, state } })) }) as unknown as ReelSummary;
const found = (...given: Parameters<typeof wantedBy>) =>
  wantedBy(...given).map(({ name, shots, source }) => [
    name,
    shots,
    source === null ? null : source.kind === 'here' ? source.shot : source.kind === 'file' ? source.file.name : source.files.map(({ name }) => name).join(),
  ]);

describe('footage of a cut', () => {
  test('is asked for once each, in its order', () => {
    expect(found(cut, new Map(), [], [])).toEqual([
      ['Dusk.mov', 2, null],
      ['street', 1, null],
      ['lost.mov', 1, null],
    ]);
  });

  test('is found among the files, whatever the case; without an ending only where no name is the same', () => {
    const files = ['dusk.mp4', 'DUSK.MOV', 'Street.mxf'].map(file);
    expect(found(cut, new Map(), files, []).map(([, , name]) => name)).toEqual(['DUSK.MOV', 'Street.mxf', null]);
  });

  test('else among what is here and has come in; by hand before all', () => {
    const reels = [
      reel('Line 14', [
        ['a', 'dusk.mov', 'working'],
        ['b', 'dusk.mov', 'ready'],
        ['c', 'street.mp4', 'ready'],
      ]),
    ];
    expect(found(cut, new Map([['lost.mov', [file('other.mp4')]]]), [], reels).map(([, , name]) => name)).toEqual(['b', 'c', 'other.mp4']);
    expect(found(cut, new Map(), [file('dusk.mov')], reels)[0]![2]).toBe('dusk.mov');
  });

  test('of images that are counted is found by any of them; a still by itself stays one', () => {
    const counted: CutIn = { name: 'C', left: [], kept: [], shots: [{ name: 'bell', file: 'bell.0001.png', taken: { by: 'images', from: 4, frames: 8 } }] };
    const files = ['notes.txt', 'Bell.0003.png', 'bell.0002.PNG', 'bell2.0001.png', 'bell.0002.jpg'].map(file);
    expect(found(counted, new Map(), files, [])).toEqual([['bell.0001.png', 1, 'Bell.0003.png,bell.0002.PNG']]);
    expect(found(counted, new Map(), [], [reel('Here', [['a', 'bell', 'ready']])])[0]![2]).toBe('a');
    expect(found(counted, new Map([['bell.0001.png', ['x1.png', 'x2.png'].map(file)]]), files, [])[0]![2]).toBe('x1.png,x2.png');
    expect(found(counted, new Map(), [file('bell.0009.png')], [])[0]![2]).toBe('bell.0009.png');
    const still: CutIn = { ...counted, shots: [{ name: 'bell', file: 'bell.0002.png', taken }] };
    expect(found(still, new Map(), files, [])[0]![2]).toBe('bell.0002.PNG');
  });

  test('cuts are known by their ending', () => expect(['a.otio', 'B.EDL', 'c.mov', 'otio'].map(isCutName)).toEqual([true, true, false, false]));
});
