import { useState, type KeyboardEvent } from 'react';
import clsx from 'clsx';
import { Link } from 'react-router';
import { formatDistanceToNow } from 'date-fns';
import { toast } from 'sonner';
import type { ReelSummary } from '@tin-ghost/contract';
import { api } from '../api/client';
import { told, UNDO_MS } from '../api/told';
import { Button } from '../parts/button';
import { MenuButton } from '../parts/context-menu';
import { ImportWords } from '../parts/medium-state';
import { NameField } from '../parts/name-field';
import { useSortableItem } from '../parts/sortable-list';
import { exportCut } from './cut/export-cut';
import { reelLength } from './reel-length';
import { texts } from '../messages/shelf';

/** A reel as a can on the shelf: its label, and its shots side by side. */
export function ReelRow({ reel, onMove }: { reel: ReelSummary; onMove: (by: -1 | 1) => void }) {
  const [naming, setNaming] = useState(false);
  const { ref, listeners, style, isDragging } = useSortableItem(reel.id, naming);
  const first = reel.shots[0];
  const to = first ? `/reels/${reel.id}/shots/${first.id}` : `/reels/${reel.id}`;
  const rename = (name: string | undefined): void => {
    setNaming(false);
    if (name) void told(api(`/reels/${reel.id}`, { method: 'PATCH', body: { name } }));
  };
  const discard = (): void =>
    void told(api(`/reels/${reel.id}`, { method: 'DELETE' })).then(
      (done) =>
        done &&
        toast(texts.nameDeleted(reel.name), {
          description: texts.inBinBelowFor30Days,
          duration: UNDO_MS,
          action: { label: texts.undo, onClick: () => void told(api(`/reels/${reel.id}/restore`, { method: 'POST' })) },
        }),
    );
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = event.altKey ? ({ ArrowUp: -1, ArrowDown: 1 } as const)[event.key] : undefined;
    if (!by) return;
    event.preventDefault();
    onMove(by);
  };
  const act = '!px-0 text-[13px] text-faint';
  return (
    <li
      ref={ref}
      {...listeners}
      data-reel={reel.id}
      onKeyDown={onKeyDown}
      style={style}
      className={clsx('flex overflow-hidden rounded-sm border border-rule bg-tin', isDragging && 'relative z-10 opacity-80')}
    >
      <div className="flex w-[270px] shrink-0 flex-col border-r border-rule bg-well px-4 py-3">
        {naming ? (
          <NameField name={reel.name} className="bg-tin text-[18px] font-semibold" onDone={rename} />
        ) : (
          <Link to={to} draggable={false} title={texts.reelTitle(reel.name)} className="text-[20px] leading-tight font-semibold hover:text-oxide">
            {reel.name}
          </Link>
        )}
        <div className="mono mt-2 text-faint">{texts.shotsAndLength(reel.shots.length, reelLength(reel.shots))}</div>
        <div className="text-faint">{texts.changed(formatDistanceToNow(new Date(reel.touchedAt), { addSuffix: true }))}</div>
        <div className="mt-auto flex gap-4 pt-3">
          <Button kind="bare" className={act} onClick={() => setNaming(true)} aria-label={texts.renameName(reel.name)}>
            {texts.rename}
          </Button>
          <Button kind="bare" className={act} onClick={() => void told(api(`/reels/${reel.id}/copy`, { method: 'POST' }))} aria-label={texts.duplicateName(reel.name)}>
            {texts.duplicate}
          </Button>
          <MenuButton
            entries={[
              { name: texts.cutAsOtio, run: () => void exportCut(reel.id, 'otio') },
              { name: texts.cutAsEdlCmx3600, run: () => void exportCut(reel.id, 'edl') },
            ]}
          >
            <Button kind="bare" className={act} disabled={reel.shots.length === 0} aria-label={texts.exportName(reel.name)}>
              {texts.export}
            </Button>
          </MenuButton>
          <Button kind="bare" className={act} onClick={discard} aria-label={texts.deleteName(reel.name)}>
            {texts.delete}
          </Button>
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
              <ShotState shot={shot} />
            </span>
          </span>
        ))}
      </Link>
    </li>
  );
}

function ShotState({ shot: { name, medium } }: { shot: ReelSummary['shots'][number] }) {
  if (medium.state === 'ready') return name;
  if (medium.state === 'failed') return `${name}: ${medium.error ?? ''}`;
  return (
    <>
      {name}, <ImportWords medium={medium} />
    </>
  );
}
