import { expect, test } from '@jest/globals';
import { cdlText, parseCdl, traitById } from '@tin-ghost/core';
import { cdlOf, settingsOf } from './cdl-files';

test('settings of the trait go out as a correction and come back the same', () => {
  const settings = { slopeRed: 1.2, offsetGreen: -0.05, powerBlue: 0.8, saturation: 0.9 };
  const back = settingsOf(parseCdl(cdlText([cdlOf({ trait: 'cdl', name: 'Dusk', settings })], 'ccc'))[0]!);
  const defaults = Object.fromEntries(Object.entries(traitById('cdl')!.settings as Record<string, { default: number }>).map(([key, s]) => [key, s.default]));
  expect(back).toEqual({ ...defaults, ...settings });
});
