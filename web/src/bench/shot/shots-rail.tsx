import type { ReactNode } from 'react';
import { Link } from 'react-router';
import clsx from 'clsx';
import { toast } from 'sonner';
import type { Reel, Shot } from '@tin-ghost/contract';
import { api, refresh } from '../../api/client';
import { rateOf } from '../../api/footage';
import { Button } from '../../parts/button';
import { Sendings } from '../../parts/use-files';
import { AddCard } from './add-card';

interface RailProps {
  reel: Reel;
  shotId: string;
  onAdd: () => void;
  /** Shown also where there is little room. */
  open: boolean;
  children?: ReactNode;
}

/** The shots of the reel, narrow, on the left. */
export function ShotsRail({ reel, shotId, onAdd, open, children }: RailProps) {
  return (
    <aside className={clsx('flex w-[108px] shrink-0 flex-col overflow-y-auto border-r border-rule px-2.5 py-2.5', !open && 'max-[900px]:hidden')} aria-label="Shots">
      <h2 className="label mb-1.5">Shots</h2>
      <ol className="flex flex-col gap-2">
        {reel.shots.map((shot, i) => (
          <ShotEntry key={shot.id} shot={shot} number={i + 1} current={shot.id === shotId} />
        ))}
      </ol>
      <Button className="mt-2.5 justify-center" onClick={onAdd}>
        Add footage
      </Button>
      <AddCard reel={reel} />
      <Sendings />
      {children}
    </aside>
  );
}

export function MediumState({ shot }: { shot: Pick<Shot, 'id' | 'medium'> }) {
  const { medium } = shot;
  if (medium.state === 'failed') {
    return (
      <span className="block p-1 text-[12px] text-oxide" role="alert">
        <span className="line-clamp-4 break-words">
          {medium.name}: {medium.error}
        </span>
      </span>
    );
  }
  return (
    <span className="block p-1 text-[12px] text-faint" role="status">
      {medium.state === 'waiting' ? 'waiting' : `importing, ${Math.floor(medium.progress * 100)} %`}
      <progress className="h-1 w-full accent-oxide" value={medium.progress} />
    </span>
  );
}

function ShotEntry({ shot, number, current }: { shot: Shot; number: number; current: boolean }) {
  const { medium } = shot;
  const { footage } = medium;
  const ask = (path: string, method: string): void =>
    void api(path, { method }).then(
      () => refresh('/reels'),
      (error: Error) => toast.error(error.message),
    );
  return (
    <li>
      <Link
        draggable={false}
        data-own-delete
        to={`/reels/${shot.reelId}/shots/${shot.id}`}
        aria-current={current}
        title={shot.name}
        className={clsx('block border bg-tin', current ? 'border-oxide outline-1 outline-oxide' : 'border-rule')}
      >
        {medium.state === 'ready' ? (
          <span className="relative block">
            <img draggable={false} src={`/api/media/${medium.id}/poster`} alt={shot.name} className="block aspect-video w-full bg-surround object-cover" />
            <span className="mono absolute bottom-0 left-0 bg-[#1b1e1f] px-1 text-[11px] text-[#e6e8e7]">
              {number} {footage && `${Math.round(footage.frames / rateOf(footage))} s`}
            </span>
          </span>
        ) : (
          <MediumState shot={shot} />
        )}
      </Link>
      {medium.state !== 'ready' && (
        <span className="flex flex-wrap gap-x-2">
          {medium.state === 'failed' && (
            <button type="button" className="text-[12px] text-oxide underline" onClick={() => ask(`/media/${medium.id}/again`, 'POST')}>
              Try again
            </button>
          )}
          <button type="button" className="text-[12px] text-faint underline" onClick={() => ask(`/shots/${shot.id}`, 'DELETE')}>
            {medium.state === 'failed' ? 'Remove' : 'Cancel'}
          </button>
        </span>
      )}
    </li>
  );
}
