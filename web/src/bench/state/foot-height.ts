import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

/** How high what stands below the picture was last, in this browser, in pixels; at first as high as of a look with a few events. */
const useFootHeight = create<{ readonly height: number }>()(persist(() => ({ height: 290 }), { name: 'tin-ghost foot', storage: createJSONStorage(() => localStorage) }));

export const footHeight = (): number => useFootHeight.getState().height;

export function keepFootHeight(height: number): void {
  useFootHeight.setState({ height: Math.round(height) });
}
