import { useState, type FormEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { Dialog } from 'radix-ui';
import { formatDistanceToNow } from 'date-fns';
import { toast } from 'sonner';
import type { ReelSummary } from '@tin-ghost/contract';
import { api, refresh, useReels } from '../api/client';
import { rateOf } from '../api/footage';
import { bringFiles } from '../api/upload';
import { Button } from '../parts/button';
import { useFileDrop } from '../parts/file-drop';
import { TopBar } from '../parts/top-bar';
import { useTitle } from '../parts/use-title';

/** The list of reels, each by its own picture. */
export function Shelf() {
  const { data: reels, error } = useReels();
  const navigate = useNavigate();
  useTitle('Shelf');
  useFileDrop('Drop them to make a new reel of them', (files) => {
    const name = files[0]!.name.replace(/\.[^.]+$/, '').slice(0, 160) || 'Untitled reel';
    makeReel(name).then(
      async (id) => {
        void bringFiles(files, id);
        await navigate(`/reels/${id}`);
      },
      (failure: Error) => toast.error(failure.message),
    );
  });
  return (
    <div className="flex h-full flex-col">
      <TopBar />
      <main className="flex-1 overflow-y-auto px-8 py-6">
        <div className="mb-5 flex items-end justify-between">
          <h1 className="text-[26px] font-bold">Reels</h1>
          <NewReel />
        </div>
        {error && (
          <p role="alert" className="mb-4 border-l-4 border-oxide bg-well px-3 py-2">
            {error.message}
          </p>
        )}
        {reels?.length === 0 && (
          <div className="rounded-sm border border-dashed border-faint bg-tin px-8 py-10 text-center">
            <p>Reels stand here: shots in order, with the wear you give them. Make one and bring in footage.</p>
          </div>
        )}
        <ul className="flex flex-col gap-4">
          {reels?.map((reel) => (
            <ReelRow key={reel.id} reel={reel} />
          ))}
        </ul>
      </main>
    </div>
  );
}

function lengthOf(reel: ReelSummary): string {
  const seconds = reel.shots.reduce((sum, s) => sum + (s.medium.footage ? s.medium.footage.frames / rateOf(s.medium.footage) : 0), 0);
  return `${Math.floor(seconds / 60)}:${String(Math.round(seconds % 60)).padStart(2, '0')}`;
}

/** A reel as a can on the shelf: its label, and its shots side by side. */
function ReelRow({ reel }: { reel: ReelSummary }) {
  const first = reel.shots[0];
  const to = first ? `/reels/${reel.id}/shots/${first.id}` : `/reels/${reel.id}`;
  return (
    <li className="flex overflow-hidden rounded-sm border border-rule bg-tin">
      <div className="flex w-[270px] shrink-0 flex-col border-r border-rule bg-well px-4 py-3">
        <Link to={to} className="text-[20px] leading-tight font-semibold hover:text-oxide">
          {reel.name}
        </Link>
        <div className="mono mt-2 text-faint">
          {reel.shots.length} {reel.shots.length === 1 ? 'shot' : 'shots'}, {lengthOf(reel)}
        </div>
        <div className="text-faint">touched {formatDistanceToNow(new Date(reel.touchedAt), { addSuffix: true })}</div>
        <div className="mt-auto pt-3">
          <Discard reel={reel} />
        </div>
      </div>
      <Link to={to} className="flex min-w-0 flex-1 gap-2 overflow-hidden p-2" tabIndex={-1} aria-hidden draggable={false}>
        {reel.shots.map((shot) => (
          <span
            key={shot.id}
            className="relative block h-[132px] shrink-0 bg-surround"
            style={{ aspectRatio: shot.medium.footage ? `${shot.medium.footage.width} / ${shot.medium.footage.height}` : '16 / 9' }}
          >
            {shot.medium.state === 'ready' && <img draggable={false} src={`/api/media/${shot.medium.id}/poster`} alt="" className="h-full w-full object-cover" />}
            <span className="absolute inset-x-0 bottom-0 truncate bg-[#1b1e1f]/80 px-1.5 py-0.5 text-[13px] text-[#e6e8e7]">
              {shot.medium.state === 'ready'
                ? shot.name
                : shot.medium.state === 'failed'
                  ? `${shot.name}: ${shot.medium.error ?? ''}`
                  : `${shot.name}, importing ${Math.floor(shot.medium.progress * 100)} %`}
            </span>
          </span>
        ))}
      </Link>
    </li>
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
      await navigate(`/reels/${await makeReel(name.trim() || 'Untitled reel')}`);
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  return (
    <form className="flex gap-2" onSubmit={(e) => void make(e)}>
      <input
        aria-label="Name of the new reel"
        placeholder="Name of a new reel"
        maxLength={160}
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        className="w-[240px] rounded-sm border border-rule bg-well px-2"
      />
      <Button kind="live" type="submit">
        New reel
      </Button>
    </form>
  );
}

function Discard({ reel }: { reel: ReelSummary }) {
  const discard = (): void =>
    void api(`/reels/${reel.id}`, { method: 'DELETE' }).then(
      () => refresh('/reels'),
      (error: Error) => toast.error(error.message),
    );
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button kind="bare" className="!px-0 text-[13px] text-faint">
          Discard…
        </Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#1b1e1f]/55" />
        <Dialog.Content className="fixed top-32 left-1/2 z-50 w-[400px] -translate-x-1/2 rounded-sm border border-rule bg-panel p-5 shadow-xl" aria-describedby={undefined}>
          <Dialog.Title className="text-[18px] font-bold">Discard “{reel.name}”?</Dialog.Title>
          <p className="mt-2">Its {reel.shots.length} shots and the footage imported for them are removed for good. Prints that were struck stay.</p>
          <div className="mt-4 flex justify-end gap-2">
            <Dialog.Close asChild>
              <Button>Keep it</Button>
            </Dialog.Close>
            <Button kind="live" onClick={discard}>
              Discard
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
