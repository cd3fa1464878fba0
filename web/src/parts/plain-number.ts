import type { NumberSetting } from '@tin-ghost/core';

/** A number of the interface's own, told as a trait's setting is: rows, sliders and fields take it in the same way. */
export const plainNumber = (name: string, says: string, sign: string, more: Partial<NumberSetting> = {}): NumberSetting => ({
  kind: 'number',
  unit: 'share',
  sign,
  name,
  says,
  default: 0,
  min: 0,
  max: 100,
  step: 1,
  resolve: (v) => v,
  ...more,
});
