import { useEffect, useRef, useState } from 'react';
import type { Look } from '@tin-ghost/core';
import { preview, type WearOptions } from './preview';
import type { Source, Worn } from './protocol';

/**
 * The picture of a look at a moment, always the newest: while one is being rendered, what comes meanwhile waits, and
 * only the last of it is rendered next.
 */
export function usePicture(
  source: Source | null,
  n: number,
  look: Look,
  size: { width: number; height: number },
  { original = false, editing = null, scope = false }: WearOptions = {},
): { worn: Worn | null; error: string | null } {
  const [state, setState] = useState<{ worn: Worn | null; error: string | null }>({ worn: null, error: null });
  const wanted = useRef<(() => Promise<void>) | null>(null);
  const busy = useRef(false);
  const { width, height } = size;

  useEffect(() => {
    if (!source) return;
    wanted.current = () =>
      preview()
        .wear(source, n, look, { width, height }, { original, editing, scope })
        .then(
          (worn) => setState({ worn, error: null }),
          (error: Error) => setState((held) => ({ ...held, error: error.message })),
        );
    const go = async (): Promise<void> => {
      if (busy.current) return;
      busy.current = true;
      while (wanted.current) {
        const work = wanted.current;
        wanted.current = null;
        await work();
      }
      busy.current = false;
    };
    void go();
  }, [source, n, look, width, height, original, editing, scope]);

  return state;
}
