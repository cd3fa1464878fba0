import { useEffect, useMemo, useState } from 'react';
import type { Look } from '@tin-ghost/core';
import { useLatest } from '../../render/latest';
import { preview } from '../../render/preview';
import type { Source, WantTrace } from '../../render/protocol';
import type { UseAt } from '../state/look-edits';

/** Places along a shot at which a setting is asked for. */
const MOST = 400;

export interface Trace {
  readonly pictures: readonly number[];
  /** A row for a number, three for a colour. */
  readonly rows: readonly Float32Array[];
}

/** What a setting is over the shot; while a changed look's is worked out, that of the last one. */
export function useTrace(source: Source, look: Look, { life, index }: UseAt, key: string): Trace | null {
  const [trace, setTrace] = useState<Trace | null>(null);
  const { frames, rate } = source;
  const pictures = useMemo(() => {
    const count = Math.min(frames, MOST);
    return Array.from({ length: count }, (_, i) => Math.round((i * (frames - 1)) / Math.max(1, count - 1)));
  }, [frames]);
  const ask = useLatest((order: WantTrace) =>
    preview()
      .ask(order)
      .then(
        (rows) => setTrace({ pictures: order.pictures, rows }),
        // A worker that fails leaves the curve as it was; the picture tells what went wrong.
        () => undefined,
      ),
  );
  useEffect(() => ask({ kind: 'trace', look, rate, life, index, key, pictures }), [ask, look, rate, life, index, key, pictures]);
  return trace;
}
