import type { Act } from '@tin-ghost/core';

/** Names of the acts. */
export const ACT_NAMES: Readonly<Record<Act, string>> = { lens: 'Lens', stock: 'Stock', years: 'Years', machine: 'Machine', screen: 'Screen' };
