import { create } from 'zustand';

/** Which shots the dialog for prints is about: one is the shot on the bench, none that it is closed. */
export const usePrinting = create<{ shots: readonly string[] }>()(() => ({ shots: [] }));

export const beginPrinting = (shots: readonly string[]): void => usePrinting.setState({ shots });
export const endPrinting = (): void => usePrinting.setState({ shots: [] });
