import { create } from 'zustand';

export const GUIDES = { thirds: 'Thirds', centre: 'Centre', horizon: 'Horizon', safe: 'Title-safe' } as const;
export type Guide = keyof typeof GUIDES;

/** Lines over the picture while it is framed. */
export const useGuides = create<Record<Guide, boolean>>(() => ({ thirds: true, centre: false, horizon: false, safe: false }));

export const toggleGuide = (guide: Guide): void => useGuides.setState((s) => ({ [guide]: !s[guide] }));
