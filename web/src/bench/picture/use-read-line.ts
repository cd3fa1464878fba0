import { useEffect, useState } from 'react';
import type { Clean } from '../../render/protocol';
import { useScopes } from '../state/scope';

/** So long the line must have been still. */
const STILL_MS = 1000;

/** What of the picture without its wear is made while it plays: the line that is read, or all while the line moves, which costs more, so that it is seen wherever it goes. Null while none is read. */
export function useReadLine(): Clean {
  const open = useScopes((s) => s.lineOpen);
  const [read, setRead] = useState<Clean>(() => useScopes.getState().line);
  useEffect(() => {
    if (!open) return;
    let timer: ReturnType<typeof setTimeout>;
    const settle = (ms: number): void => {
      timer = setTimeout(() => setRead(useScopes.getState().line), ms);
    };
    settle(0);
    // Past React: it moves with the pointer.
    const stop = useScopes.subscribe((state, before) => {
      if (state.line === before.line) return;
      clearTimeout(timer);
      setRead('all');
      settle(STILL_MS);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [open]);
  return open ? read : null;
}
