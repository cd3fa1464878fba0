import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { carrierById, LookError, parseLook, traitById, type Look } from '@tin-ghost/core';
import type { StoredLook } from '@tin-ghost/contract';
import { api, refresh, useLooks, useReels, useReferences } from '../api/client';
import { bringPlates } from '../api/upload';
import { sourceOf } from '../render/source';
import { Button } from '../parts/button';
import { useFileDrop } from '../parts/file-drop';
import { TopBar } from '../parts/top-bar';
import { useTitle } from '../parts/use-title';
import { Plates } from './plates';
import { PictureCanvas } from '../render/canvas';
import type { Source } from '../render/protocol';
import { usePicture } from '../render/use-picture';

const WIDTH = 560;

/** The library: looks, live on a picture of one's own. */
export function Stockroom() {
  const { data: looks, error } = useLooks();
  const { data: reels } = useReels();
  const shots = useMemo(() => reels?.flatMap((reel) => reel.shots).filter((s) => s.medium.state === 'ready') ?? [], [reels]);
  const [chosen, setChosen] = useState<string | null>(null);
  // The first that was seen stays, whatever is touched elsewhere meanwhile.
  if (chosen === null && shots[0]) setChosen(shots[0].id);
  const shot = shots.find((s) => s.id === chosen) ?? shots[0];
  useTitle('Stockroom');
  useFileDrop('Drop look files or plates to add them to the stockroom', (files) => {
    const looks = files.filter((file) => file.name.toLowerCase().endsWith('.json'));
    if (looks.length) void bringLooks(looks);
    void bringPlates(files.filter((one) => !looks.includes(one)));
  });
  // eslint-disable-next-line react-hooks/exhaustive-deps -- made anew only for other footage
  const source = useMemo(() => (shot ? sourceOf(shot.medium) : null), [shot?.id, shot?.medium.id]);
  return (
    <div className="flex h-full flex-col">
      <TopBar />
      <main className="flex-1 overflow-y-auto px-8 py-6">
        <div className="mb-5 flex items-end justify-between">
          <h1 className="text-[26px] font-bold">Looks</h1>
          <label className="flex items-center gap-2">
            <span className="text-faint">seen on</span>
            <select
              aria-label="Picture the looks are seen on"
              value={shot?.id ?? ''}
              onChange={(e) => setChosen(e.currentTarget.value)}
              className="rounded-sm border border-rule bg-well px-2 py-1"
            >
              {reels?.map((reel) => (
                <optgroup key={reel.id} label={reel.name}>
                  {reel.shots
                    .filter((s) => s.medium.state === 'ready')
                    .map((s) => (
                      <option key={s.id} value={s.id}>
                        {s.name}
                      </option>
                    ))}
                </optgroup>
              ))}
            </select>
          </label>
        </div>
        {error && <p role="alert">{error.message}</p>}
        <ul className="grid grid-cols-3 gap-5">
          {looks?.map((stored) => (
            <LookCard key={stored.id} stored={stored} source={source} />
          ))}
        </ul>
        <Plates />
        <References />
      </main>
    </div>
  );
}

/** Adds look files to the stockroom; what is none is told by its name and its fault. */
async function bringLooks(files: File[]): Promise<void> {
  for (const file of files) {
    try {
      const look = parseLook(await file.text());
      await api('/looks', { method: 'POST', body: look });
      toast(`“${look.name}” added`);
    } catch (error) {
      toast.error(`${file.name}: ${error instanceof LookError ? error.problems.map((p) => `${p.path} ${p.message}`.trim()).join('; ') : (error as Error).message}`);
    }
  }
  await refresh('/looks');
}

/** Stills and clips of the real thing: those that ship and those of all reels. */
function References() {
  const { data: references } = useReferences();
  const { data: reels } = useReels();
  return (
    <section aria-label="References" className="mt-9">
      <h2 className="text-[26px] font-bold">References</h2>
      <p className="mb-4 text-faint">Pictures of the real thing. Pin one on the bench to hold a shot against it, or to match it. They are imported there, under the shots.</p>
      <ul className="grid grid-cols-4 gap-5">
        {references?.map((reference) => (
          <li key={reference.id} className="rounded-sm border border-rule bg-tin p-2">
            {reference.medium.state === 'ready' ? (
              <img draggable={false} src={`/api/media/${reference.medium.id}/poster`} alt={reference.name} className="block aspect-video w-full bg-surround object-cover" />
            ) : (
              <p className="aspect-video w-full bg-well p-2 text-faint">{reference.medium.error ?? 'importing'}</p>
            )}
            <div className="mt-1.5 flex items-baseline gap-2">
              <h3 className="flex-1 truncate text-[16px] font-semibold">{reference.name}</h3>
              <span className="label">{reference.shipped ? 'ships' : (reels?.find((r) => r.id === reference.reelId)?.name ?? '')}</span>
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A look in words: its carriers, and what they did to the picture. */
const inWords = (look: Look): string =>
  look.lives
    .map((life) => `${carrierById(life.carrier)?.name ?? life.carrier}: ${life.traits.map((t) => traitById(t.trait)?.name ?? t.trait).join(', ') || 'nothing yet'}`)
    .join('; then ') || 'leaves the picture as it is';

function LookCard({ stored, source }: { stored: StoredLook; source: Source | null }) {
  const { look } = stored;
  const height = source ? Math.round((WIDTH * source.height) / source.width) : 2;
  const { worn } = usePicture(source, source ? Math.floor(source.frames / 3) : 0, look, { width: WIDTH, height });
  const putBack = (): void =>
    void api('/looks', { method: 'POST', body: look }).then(
      () => refresh('/looks'),
      (error: Error) => toast.error(error.message),
    );
  const remove = (): void =>
    void api(`/looks/${stored.id}`, { method: 'DELETE' }).then(
      () => {
        toast(`“${look.name}” removed`, { duration: 20_000, action: { label: 'Undo', onClick: putBack } });
        return refresh('/looks');
      },
      (error: Error) => toast.error(error.message),
    );
  return (
    <li className="rounded-sm border border-rule bg-tin p-2.5">
      <PictureCanvas
        worn={worn}
        label={`${look.name} on your picture`}
        className="block w-full bg-surround"
        style={{ aspectRatio: source ? `${source.width} / ${source.height}` : '16 / 9' }}
      />
      <div className="mt-2 flex items-baseline gap-2">
        <h2 className="flex-1 truncate text-[17px] font-semibold">{look.name}</h2>
        <span className="label">{stored.shipped ? 'ships' : 'yours'}</span>
      </div>
      <p className="text-faint">{inWords(look)}</p>
      <div className="mt-2 flex gap-2">
        <a className="inline-flex items-center rounded-sm border border-rule bg-panel px-3 py-0.5 hover:bg-well" download={`${look.name}.json`} href={`/api/looks/${stored.id}`}>
          File
        </a>
        {!stored.shipped && (
          <Button onClick={remove} aria-label={`Remove ${look.name}`}>
            Remove
          </Button>
        )}
      </div>
    </li>
  );
}
