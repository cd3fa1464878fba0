import { useState, type MouseEvent, type ReactNode } from 'react';
import clsx from 'clsx';
import type { Reel } from '@tin-ghost/contract';
import { AddFootage, Sendings } from '../../parts/footage-files';
import { Later } from '../../parts/later';
import { SortableList } from '../../parts/sortable-list';
import { useWidths } from '../state/widths';
import { AddCard } from './add-card';
import { moveShot } from './shot-actions';
import { ShotEntry } from './shot-entry';
import { texts } from '../../messages/shot';

interface RailProps {
  reel: Reel;
  shotId: string;
  /** Shown also where there is little room. */
  open: boolean;
  children?: ReactNode;
}

/** The shots of the reel, narrow, on the left. */
export function ShotsRail({ reel, shotId, open, children }: RailProps) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const width = useWidths((w) => w.shots);
  /** Ctrl adds or leaves out one, Shift all from the one on the bench on; a plain click opens a shot and chooses none. */
  const choose = (id: string, { ctrlKey, metaKey, shiftKey }: MouseEvent): boolean => {
    const ids = reel.shots.map((shot) => shot.id);
    if (shiftKey) {
      const [from, to] = [ids.indexOf(shotId), ids.indexOf(id)].sort((a, b) => a - b) as [number, number];
      setChosen(new Set(ids.slice(Math.max(0, from), to + 1)));
    } else if (ctrlKey || metaKey) {
      const next = new Set(chosen.size ? chosen : [shotId]);
      if (!next.delete(id)) next.add(id);
      setChosen(next);
    } else {
      setChosen(new Set());
      return false;
    }
    return true;
  };
  return (
    <aside style={{ width }} className={clsx('flex shrink-0 flex-col overflow-y-auto border-r border-rule px-2.5 py-2.5', !open && 'max-[901px]:hidden')} aria-label={texts.shots}>
      <Later>
        <h2 className="label mb-1.5">{texts.shots}</h2>
        <SortableList ids={reel.shots.map(({ id }) => id)} onMove={(id, to) => void moveShot(reel, id, to)}>
          <ol className="flex flex-col gap-2">
            {reel.shots.map((shot, i) => (
              <ShotEntry key={shot.id} reel={reel} shot={shot} place={i} current={shot.id === shotId} chosen={chosen} onChoose={choose} />
            ))}
          </ol>
        </SortableList>
        <AddFootage reel={reel.id} className="mt-2.5 justify-center" />
        <AddCard reel={reel} />
        <Sendings />
        {children}
      </Later>
    </aside>
  );
}
