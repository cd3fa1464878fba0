/** Ways in which a worn picture is laid over what it was: the W3C's separable modes, and add and subtract. The order is that of the kernel. */
export const BLENDS = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'colour-dodge',
  'colour-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'add',
  'subtract',
] as const;
export type Blend = (typeof BLENDS)[number];

/** As they are called where one is chosen. */
export const BLEND_NAMES = Object.fromEntries(BLENDS.map((name) => [name, name[0]!.toUpperCase() + name.slice(1).replace('-', ' ')])) as Record<Blend, string>;
