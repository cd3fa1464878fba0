import { create } from 'zustand';
import { flushBench } from './document';

/** Which shots the dialog for prints is about: one, or several that were chosen together; none that it is closed. */
export const usePrinting = create<{ shots: readonly string[] }>()(() => ({ shots: [] }));

/** Opens the dialog, with the last change of the bench on its way to the server. */
export function openPrinting(shots: readonly string[]): void {
  flushBench();
  usePrinting.setState({ shots });
}

export const endPrinting = (): void => usePrinting.setState({ shots: [] });
