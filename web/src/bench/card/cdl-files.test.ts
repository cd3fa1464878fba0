import { expect, test } from '@jest/globals';
import { cdlText, parseCdl, traitById } from '@tin-ghost/core';
import { cdlOf, settingsOf } from './cdl-files';

test('settings of the trait go out as a correction and come back the same', () => {
  const settings = { slopeRed: 1.2, offsetGreen: -0.05, powerBlue: 0.8, saturation: 0.9 };
  const back = settingsOf(parseCdl(cdlText([cdlOf({ trait: 'cdl', name: 'Dusk', settings })], 'ccc'))[0]!);
  const defaults = Object.fromEntries(Object.entries(traitById('cdl')!.settings as Record<string, { default: number }>).map(([key, s]) => [key, s.default]));
  expect(back).toEqual({ ...defaults, ...settings });
});

test('a number the trait cannot hold is named, not taken', () => {
  const three = [1, 1, 1] as const;
  expect(() => settingsOf({ id: 'x', slope: [1, 5, 1], offset: [0, 0, -2], power: three, saturation: 1 })).toThrow(
    'Slope, green is 5, and must be from 0 to 4; Offset, blue is -2, and must be from -1 to 1',
  );
});
