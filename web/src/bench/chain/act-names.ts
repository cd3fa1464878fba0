import type { Act } from '@tin-ghost/core';
import { texts } from '../../messages/chain';

export const ACT_NAMES: Record<Act, string> = { lens: texts.lens, stock: texts.stock, years: texts.years, machine: texts.machine, screen: texts.screen };
