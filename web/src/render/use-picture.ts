import { useEffect, useMemo, useRef, useState } from 'react';
import type { Look } from '@tin-ghost/core';
import { preview, type WearOptions } from './preview';
import type { Source, Worn } from './protocol';

/**
 * The picture of a look at a moment, always the newest: while one is being rendered, what comes meanwhile waits, and
 * only the last of it is rendered next.
 * @returns the last picture, and whether it is the one that is wanted now
 */
export function usePicture(
  source: Source | null,
  n: number,
  look: Look,
  size: { width: number; height: number },
  { original = false, editing = null, scope = false, clean = false }: WearOptions = {},
): { worn: Worn | null; error: string | null; current: boolean } {
  const [state, setState] = useState<{ worn: Worn | null; of: string | null; error: string | null; order: object | null }>({ worn: null, of: null, error: null, order: null });
  const wanted = useRef<(() => Promise<void>) | null>(null);
  const busy = useRef(false);
  const { width, height } = size;

  // One object for each thing that is asked for.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const order = useMemo(() => ({}), [source, n, look, width, height, original, editing, scope, clean]);

  useEffect(() => {
    if (!source) return;
    wanted.current = () =>
      preview()
        .wear(source, n, look, { width, height }, { original, editing, scope, clean })
        .then(
          (worn) => setState({ worn, of: source.mediaId, error: null, order }),
          (error: Error) => setState((held) => ({ ...held, error: error.message, order })),
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
  }, [source, n, look, width, height, original, editing, scope, clean, order]);

  // The picture of other footage is none of this one's.
  const own = source === null || state.of === null || state.of === source.mediaId;
  return { worn: own ? state.worn : null, error: state.error, current: own && state.order === order };
}
