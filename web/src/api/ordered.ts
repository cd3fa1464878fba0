import { create } from 'zustand';
import { isUnderWay, type Print, type PrintOrder, type PrintState } from '@tin-ghost/contract';
import { api, refresh } from './client';

/** The one note in which prints are told of. */
export const PRINTS_NOTE = 'prints';

/** Prints that this page ordered and of which it has not yet been told that they ended; and those that ended. */
export const useOrdered = create<{ waiting: readonly string[]; ended: readonly { readonly id: string; readonly state: PrintState }[] }>()(() => ({ waiting: [], ended: [] }));

/** Orders prints, one after the other. @throws ApiError for the first that is refused; those before it stay ordered */
export async function orderPrints(orders: readonly PrintOrder[]): Promise<void> {
  try {
    for (const body of orders) {
      const { id } = await api<Print>('/prints', { method: 'POST', body });
      useOrdered.setState(({ waiting, ended }) => (waiting.length ? { waiting: [...waiting, id], ended } : { waiting: [id], ended: [] }));
    }
  } finally {
    await refresh('/prints');
  }
}

/** Notes how a print stands; what had been ordered here and is at an end is told. */
export function noteEnd(id: string, state: PrintState): void {
  const { waiting, ended } = useOrdered.getState();
  if (!waiting.includes(id) || isUnderWay(state)) return;
  useOrdered.setState({ waiting: waiting.filter((one) => one !== id), ended: [...ended, { id, state }] });
}

/** Looks after what was ordered here, where news may have been missed. */
export async function askAfterOrdered(): Promise<void> {
  for (const id of useOrdered.getState().waiting) {
    const print = await api<Print>(`/prints/${id}`).catch(() => null);
    if (print) noteEnd(id, print.state);
  }
}
