import { useEffect, useMemo, useState } from 'react';
import type { Look } from '@tin-ghost/core';
import { useLatest } from './latest';
import { preview, type WearOptions } from './preview';
import type { Source, Worn } from './protocol';

/** One object for each thing that is asked for. */
interface PictureOrder {
  readonly source: Source | null;
  readonly n: number;
  readonly look: Look;
  readonly width: number;
  readonly height: number;
  readonly options: WearOptions;
}

/**
 * The picture of a look at a moment, always the newest.
 * @returns the last picture, and whether it is the one that is wanted now
 */
export function usePicture(
  source: Source | null,
  n: number,
  look: Look,
  { width, height }: { width: number; height: number },
  { original = false, editing = null, scope = false, clean = null }: WearOptions = {},
): { worn: Worn | null; error: string | null; current: boolean } {
  const [state, setState] = useState<{ worn: Worn | null; of: string | null; error: string | null; order: PictureOrder | null }>({
    worn: null,
    of: null,
    error: null,
    order: null,
  });
  const ask = useLatest((order: PictureOrder) =>
    preview()
      .wear(order.source!, order.n, order.look, order, order.options)
      .then(
        (worn) => setState({ worn, of: order.source!.mediaId, error: null, order }),
        (error: Error) => setState((held) => ({ ...held, error: error.message, order })),
      ),
  );
  const order = useMemo<PictureOrder>(
    () => ({ source, n, look, width, height, options: { original, editing, scope, clean } }),
    [source, n, look, width, height, original, editing, scope, clean],
  );
  useEffect(() => {
    if (order.source) ask(order);
  }, [ask, order]);

  // The picture of other footage is none of this one's.
  const own = source === null || state.of === null || state.of === source.mediaId;
  return { worn: own ? state.worn : null, error: state.error, current: own && state.order === order };
}
