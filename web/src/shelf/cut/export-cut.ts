import { toast } from 'sonner';
import type { Cut } from '@tin-ghost/core';
import type { Reel, ReelCut } from '@tin-ghost/contract';
import { api } from '../../api/client';
import { saveFile } from '../../parts/save-file';
import type { CutForm } from './cut-files';
import { texts } from '../../messages/cut';

/** A reel as programs that cut read it. @throws {Error} where footage of it is still on its way in */
function cutOf({ name, shots }: Reel, { origin, clips }: ReelCut): Cut {
  const came = new Map(clips.map((clip) => [clip.shot, clip.origin]));
  return {
    name,
    origin: origin ?? undefined,
    shots: shots.map(({ id, name: shot, medium, preparation, look }) => {
      if (!medium.footage) throw new Error(texts.shotIsStillBeingImported(shot));
      const { rate, frames, timecode } = medium.footage;
      return { name: shot, file: medium.name, rate, frames, timecode, sound: medium.hasSound, preparation, look, origin: came.get(id) };
    }),
  };
}

/** Saves the cut of a reel as a file. */
export async function exportCut(id: string, form: CutForm): Promise<void> {
  try {
    const [reel, cut, { writeCut }] = await Promise.all([api<Reel>(`/reels/${id}`), api<ReelCut>(`/reels/${id}/cut`), import('./cut-files')]);
    const text = writeCut(cutOf(reel, cut), form);
    saveFile(`${reel.name}.${form}`, text, form === 'edl' ? 'text/plain' : 'application/json');
  } catch (error) {
    toast.error(texts.noFileWasMade((error as Error).message));
  }
}
