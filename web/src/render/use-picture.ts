import { useEffect, useMemo, useState } from 'react';
import type { Look } from '@tin-ghost/core';
import { useLatest } from './latest';
import { LastPicture, type PictureAsked } from './last-picture';
import { preview, type WearOptions } from './preview';
import type { Source, Worn } from './protocol';

/** One object for each thing that is asked for. */
interface PictureOrder extends PictureAsked {
  readonly look: Look;
  readonly beside: Look | null;
}

interface Made {
  readonly worn: Worn | null;
  readonly beside: Worn | null;
  /** The footage they are of. */
  readonly of: string | null;
  readonly error: string | null;
  readonly order: PictureOrder | null;
}

const wearAs = ({ source, n, options, ...size }: PictureAsked, look: Look): Promise<Worn> => preview().wear(source!, n, look, size, options);

/**
 * The picture of a look at a moment, always the newest.
 * @param beside a look whose picture of the same moment is made with it: one is never given without the other
 * @returns the last picture and the one beside it, and whether they are those that are wanted now
 */
export function usePicture(
  source: Source | null,
  n: number,
  look: Look,
  { width, height }: { width: number; height: number },
  { original = false, editing = null, scope = false, clean = null }: WearOptions = {},
  beside: Look | null = null,
): { worn: Worn | null; beside: Worn | null; error: string | null; current: boolean } {
  const [state, setState] = useState<Made>({ worn: null, beside: null, of: null, error: null, order: null });
  // It is often the same while the look is changed.
  const [lastBeside] = useState(() => new LastPicture(wearAs));
  const ask = useLatest((order: PictureOrder) =>
    Promise.all([wearAs(order, order.look), order.beside && lastBeside.wear(order, order.beside)]).then(
      ([worn, beside]) => setState({ worn, beside, of: order.source!.mediaId, error: null, order }),
      (error: Error) => setState((held) => ({ ...held, error: error.message, order })),
    ),
  );
  const order = useMemo<PictureOrder>(
    () => ({ source, n, look, width, height, options: { original, editing, scope, clean }, beside }),
    [source, n, look, width, height, original, editing, scope, clean, beside],
  );
  useEffect(() => {
    if (order.source) ask(order);
  }, [ask, order]);

  // The picture of other footage is none of this one's.
  const own = source === null || state.of === null || state.of === source.mediaId;
  return { worn: own ? state.worn : null, beside: own ? state.beside : null, error: state.error, current: own && state.order === order };
}
