import { create } from 'zustand';
import { texts } from '../../messages/state';

export const GUIDES = { thirds: texts.thirds, centre: texts.centre, horizon: texts.horizon, safe: texts.titleSafe } as const;
export type Guide = keyof typeof GUIDES;

/** Lines over the picture while it is framed. */
export const useGuides = create<Record<Guide, boolean>>(() => ({ thirds: true, centre: false, horizon: false, safe: false }));

export const toggleGuide = (guide: Guide): void => useGuides.setState((s) => ({ [guide]: !s[guide] }));
