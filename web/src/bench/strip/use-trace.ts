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

/** What a setting is at one frame. @throws {Error} where the worker fails */
export async function valueAt({ rate }: Source, look: Look, { life, index }: UseAt, key: string, frame: number): Promise<number[]> {
  const rows = await preview().ask({ kind: 'trace', look, rate, life, index, key, pictures: [frame] });
  return rows.map((row) => Math.round(row[0]! * 1e4) / 1e4);
}

/**
 * What a setting is over a part of the shot; while a changed look's is worked out, that of the last one.
 * @param first, last frames of the part
 */
export function useTrace(source: Source, look: Look, { life, index }: UseAt, key: string, first: number, last: number): Trace | null {
  const [trace, setTrace] = useState<Trace | null>(null);
  const { rate } = source;
  const pictures = useMemo(() => {
    const count = Math.min(last - first + 1, MOST);
    return Array.from({ length: count }, (_, i) => first + Math.round((i * (last - first)) / Math.max(1, count - 1)));
  }, [first, last]);
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
