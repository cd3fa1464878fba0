import type { Act } from '@tin-ghost/core';

export const ACT_NAMES: Record<Act, string> = { lens: 'Lens', stock: 'Stock', years: 'Years', machine: 'Machine', screen: 'Screen' };
