import { describe, expect, test } from '@jest/globals';
import { readTimecode, timecodeText } from './timecode';

const FILM = { num: 24, den: 1 };
const NTSC = { num: 30_000, den: 1001 };
const NTSC60 = { num: 60_000, den: 1001 };

describe('timecode', () => {
  test.each([
    [0, FILM, false, '00:00:00:00'],
    [24 * 3600 + 23, FILM, false, '01:00:00:23'],
    [86_400 * 24 + 5, FILM, false, '00:00:00:05'],
    [1799, NTSC, true, '00:00:59;29'],
    // Two numbers are left out at each minute but every tenth (ST 12-1).
    [1800, NTSC, true, '00:01:00;02'],
    [17_981, NTSC, true, '00:09:59;29'],
    [17_982, NTSC, true, '00:10:00;00'],
    [107_892, NTSC, true, '01:00:00;00'],
    [3600, NTSC60, true, '00:01:00;04'],
    [215_784, NTSC60, true, '01:00:00;00'],
    // Without them the clock is slow.
    [107_892, NTSC, false, '00:59:56:12'],
    [1800, FILM, true, '00:01:15:00'],
  ])('frame %d at %j is %s %s', (frame, rate, drop, text) => expect(timecodeText(frame, rate, drop)).toBe(text));

  test('is read as it is written, for every frame of some minutes, dropped or not', () => {
    for (const rate of [FILM, NTSC, NTSC60])
      for (const drop of [false, true])
        for (let frame = 107_000; frame < 109_500; frame += 7) expect(readTimecode(timecodeText(frame, rate, drop), rate)).toEqual({ frame, drop: drop && rate !== FILM });
  });

  test.each(['', '1:2', '00:00:60:00', '00:00:00:24', '25:00:00:00', '00:00:00', 'aa:bb:cc:dd'])('%j is none', (text) => expect(readTimecode(text, FILM)).toBeUndefined());
});
