import { useState, type FormEvent } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { ReelSummary } from '@tin-ghost/contract';
import { api, refresh, useReels } from '../api/client';
import { bringFiles } from '../api/upload';
import { Button } from '../parts/button';
import { useFileDrop } from '../parts/file-drop';
import { Page } from '../parts/page';
import { SortableList } from '../parts/sortable-list';
import { Bin } from './bin';
import { beginCut, CutButton, hasCut, ImportCut } from './cut/import-cut';
import { moveReel } from './move-reel';
import { ReelRow } from './reel-row';
import { texts } from '../messages/shelf';

/** The list of reels, each by its own picture. */
export function Shelf() {
  const { data: reels, error } = useReels();
  const navigate = useNavigate();
  useFileDrop(texts.dropThemToMakeNew, (files) => {
    if (hasCut(files)) return void beginCut(files);
    const name = files[0]!.name.replace(/\.[^.]+$/, '').slice(0, 160) || texts.untitledReel;
    makeReel(name).then(
      async (id) => {
        void bringFiles(files, id);
        await navigate(`/reels/${id}`);
      },
      (failure: Error) => toast.error(failure.message),
    );
  });
  return (
    <Page title={texts.shelf} heading={texts.reels} beside={<NewReel />} error={error}>
      {reels?.length === 0 && (
        <div className="rounded-sm border border-dashed border-faint bg-tin px-8 py-10 text-center">
          <p>{texts.reelsStandHereShots}</p>
        </div>
      )}
      {reels && (
        <SortableList ids={reels.map(({ id }) => id)} onMove={(id, to) => void moveReel(reels, id, to)}>
          <ul className="flex flex-col gap-4">
            {reels.map((reel, place) => (
              <ReelRow key={reel.id} reel={reel} onMove={(by) => void moveReel(reels, reel.id, place + by)} />
            ))}
          </ul>
        </SortableList>
      )}
      <Bin />
      <ImportCut />
    </Page>
  );
}

async function makeReel(name: string): Promise<string> {
  const reel = await api<ReelSummary>('/reels', { method: 'POST', body: { name } });
  await refresh('/reels');
  return reel.id;
}

function NewReel() {
  const [name, setName] = useState('');
  const navigate = useNavigate();
  const make = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    try {
      await navigate(`/reels/${await makeReel(name.trim() || texts.untitledReel)}`);
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  return (
    <form className="flex gap-2" onSubmit={(e) => void make(e)}>
      <input
        aria-label={texts.nameOfNewReel}
        placeholder={texts.nameOfANewReel}
        maxLength={160}
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        className="w-[240px] rounded-sm border border-rule bg-well px-2"
      />
      <Button kind="live" type="submit">
        {texts.newReel}
      </Button>
      <CutButton />
    </form>
  );
}
