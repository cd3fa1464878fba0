import { toast } from 'sonner';
import type { Look } from '@tin-ghost/core';
import type { Reel, Shot } from '@tin-ghost/contract';
import { api } from '../../api/client';
import { told, UNDO_MS } from '../../api/told';
import { movedTo } from '../../parts/sortable-list';
import { changeLook, useDocument } from '../state/document';
import { texts } from '../../messages/shot';

export const renameShot = (shot: Shot, name: string): Promise<boolean> => told(api(`/shots/${shot.id}`, { method: 'PATCH', body: { name } }));

/** Makes a copy after each. @returns the id of the first */
export async function copyShots(shots: readonly Shot[]): Promise<string | undefined> {
  let first: string | undefined;
  await told(
    (async () => {
      for (const { id } of shots) {
        const { shot } = await api<{ shot: string }>(`/shots/${id}/copy`, { method: 'POST' });
        first ??= shot;
      }
    })(),
  );
  return first;
}

/** Lays shots in the bin, and says how they come back. */
export async function discardShots(shots: readonly Shot[]): Promise<boolean> {
  const done = await told(Promise.all(shots.map(({ id }) => api(`/shots/${id}`, { method: 'DELETE' }))));
  // What never came in is gone.
  const back = shots.filter(({ medium }) => medium.state === 'ready');
  if (done && back.length)
    toast(texts.shotsDeleted(shots.length, shots[0]!.name), {
      description: texts.inBinOnShelf,
      duration: UNDO_MS,
      action: { label: texts.undo, onClick: () => void told(Promise.all(back.map(({ id }) => api(`/shots/${id}/restore`, { method: 'POST' })))) },
    });
  return done;
}

const setOrder = (reel: Reel, ids: readonly string[]): Promise<boolean> => told(api(`/reels/${reel.id}/order`, { method: 'PUT', body: { shots: ids } }));

/** Puts a shot in another's place. */
export function moveShot(reel: Reel, id: string, to: number): Promise<boolean> {
  const ids = movedTo(
    reel.shots.map((shot) => shot.id),
    id,
    to,
  );
  return ids ? setOrder(reel, ids) : Promise.resolve(true);
}

const newSeed = (): number => crypto.getRandomValues(new Uint32Array(1))[0]!;

/** Gives a look to shots, each with a seed of its own, so that no two have the same specks; it can be taken back from each that nobody has changed since. */
export async function lookToShots(look: Look, shots: readonly Shot[]): Promise<void> {
  const open = useDocument.getState().shotId;
  const before: { id: string; look: Look; revision: number }[] = [];
  let given = 0;
  await told(
    (async () => {
      for (const { id } of shots) {
        const dressed = { ...look, seed: newSeed() };
        // The one on the bench has its own way of being kept and taken back.
        if (id === open) {
          changeLook(dressed);
          given++;
          continue;
        }
        const now = await api<Shot>(`/shots/${id}`);
        const { revision } = await api<{ revision: number }>(`/shots/${id}/look`, { method: 'PUT', body: { look: dressed, revision: now.revision } });
        before.push({ id, look: now.look, revision });
        given++;
      }
    })(),
  );
  // Where one was refused those before it have it, and can give it back.
  if (given === 0) return;
  toast(texts.lookOnShots(look.name, given, shots[0]!.name), {
    duration: UNDO_MS,
    ...(before.length && {
      action: {
        label: texts.undo,
        onClick: () => void told(Promise.all(before.map(({ id, look: old, revision }) => api(`/shots/${id}/look`, { method: 'PUT', body: { look: old, revision } })))),
      },
    }),
  });
}
