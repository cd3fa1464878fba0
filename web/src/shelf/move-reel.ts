import { toast } from 'sonner';
import type { ReelSummary } from '@tin-ghost/contract';
import { api } from '../api/client';
import { told, UNDO_MS } from '../api/told';
import { movedTo } from '../parts/sortable-list';
import { texts } from '../messages/shelf';

const setOrder = (ids: readonly string[]): Promise<boolean> => told(api('/reels/order', { method: 'PUT', body: { reels: ids } }));

/** Puts a reel in another's place on the shelf, and says so with the way back. @param to place from 0; beyond the ends it is held to them */
export async function moveReel(reels: readonly ReelSummary[], id: string, to: number): Promise<void> {
  const before = reels.map((reel) => reel.id);
  const ids = movedTo(before, id, to);
  if (!ids) return;
  // In place of the last one's note, whose way back would take back this move, too.
  if (await setOrder(ids))
    toast(texts.nameMoved(reels.find((reel) => reel.id === id)!.name, ids.indexOf(id) + 1), {
      id: 'shelf order',
      duration: UNDO_MS,
      action: { label: texts.undo, onClick: () => void setOrder(before) },
    });
}
