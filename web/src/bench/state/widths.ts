import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

interface Widths {
  /** Of the column of shots, and of the card, in pixels. */
  readonly shots: number;
  readonly card: number;
}

export type Side = keyof Widths;

export const USUAL: Widths = { shots: 108, card: 312 };
export const LIMITS: Readonly<Record<Side, { readonly min: number; readonly max: number }>> = { shots: { min: 92, max: 240 }, card: { min: 272, max: 560 } };

/** How wide the columns beside the picture are, in this browser. */
export const useWidths = create<Widths>()(persist((): Widths => USUAL, { name: 'tin-ghost widths', storage: createJSONStorage(() => localStorage) }));

export const setWidth = (side: Side, width: number): void => {
  const { min, max } = LIMITS[side];
  useWidths.setState({ [side]: Math.round(Math.max(min, Math.min(max, width))) });
};
