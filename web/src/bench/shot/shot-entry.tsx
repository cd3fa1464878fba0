import { useState, type KeyboardEvent, type MouseEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import clsx from 'clsx';
import { ContextMenu } from 'radix-ui';
import type { Reel, Shot } from '@tin-ghost/contract';
import { api } from '../../api/client';
import { rateOf } from '../../api/footage';
import { told } from '../../api/told';
import { NameField } from '../../parts/name-field';
import { copyLook, useCopiedLook } from '../state/copied-look';
import { useDocument } from '../state/document';
import { MediumState } from './medium-state';
import { openPrinting } from '../state/printing';
import { copyShots, discardShots, lookToShots, moveShot, renameShot } from './shot-actions';

interface Props {
  reel: Reel;
  shot: Shot;
  /** Its place in the reel, from 0. */
  place: number;
  current: boolean;
  /** Those that are chosen together; what is done to one of them is done to all. */
  chosen: ReadonlySet<string>;
  onChoose: (id: string, event: MouseEvent) => boolean;
}

/** A word in a corner of the thumbnail, readable on any picture. */
const CORNER = 'mono absolute bottom-0 bg-[#1b1e1f] px-1 text-[11px] text-[#e6e8e7]';
const ITEM = 'flex cursor-pointer justify-between gap-6 px-2 py-1 outline-none data-[highlighted]:bg-well data-[disabled]:opacity-45';

/** A shot in the rail: opened by a click, chosen with others by Ctrl or Shift, moved by hand, and all else by its menu or its keys. */
export function ShotEntry({ reel, shot, place, current, chosen, onChoose }: Props) {
  const navigate = useNavigate();
  const [naming, setNaming] = useState(false);
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: shot.id, disabled: naming });
  const copied = useCopiedLook((s) => s.look);
  const { medium } = shot;
  const { footage } = medium;
  const marked = chosen.has(shot.id);
  const all = marked ? reel.shots.filter(({ id }) => chosen.has(id)) : [shot];
  const others = reel.shots.filter(({ id }) => id !== shot.id);
  /** The look as it is seen: that of the bench may be newer than what was kept. */
  const lookOf = () => (current ? useDocument.getState().look : shot.look);
  const open = (id: string): void => void navigate(`/reels/${reel.id}/shots/${id}`);
  const copy = (): void => void copyShots(all).then((first) => first && open(first));
  const discard = (): void => {
    const left = reel.shots.filter(({ id }) => !all.some((gone) => gone.id === id));
    const leaves = all.some(({ id }) => id === useDocument.getState().shotId);
    // Where the one on the bench goes, the nearest that stays takes its place.
    const next = left.find(({ id }) => reel.shots.findIndex((one) => one.id === id) >= place) ?? left.at(-1);
    void discardShots(all).then((done) => done && leaves && void navigate(next ? `/reels/${reel.id}/shots/${next.id}` : `/reels/${reel.id}`));
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const act = {
      F2: () => setNaming(true),
      Delete: discard,
      Backspace: discard,
      ...((event.ctrlKey || event.metaKey) && { d: copy, c: () => copyLook(lookOf()), v: () => copied && void lookToShots(copied, all) }),
      ...(event.altKey && { ArrowUp: () => void moveShot(reel, shot.id, place - 1), ArrowDown: () => void moveShot(reel, shot.id, place + 1) }),
    }[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  };
  return (
    <li ref={setNodeRef} style={{ transform: CSS.Transform.toString(transform), transition }} className={clsx(isDragging && 'z-10 opacity-80')}>
      <ContextMenu.Root>
        <ContextMenu.Trigger asChild>
          <Link
            {...listeners}
            draggable={false}
            data-own-delete
            to={`/reels/${shot.reelId}/shots/${shot.id}`}
            aria-current={current}
            aria-selected={marked || undefined}
            title={`${shot.name}: F2 renames, Delete deletes, Alt with an arrow moves it; more by a right click`}
            onClick={(event) => {
              if (onChoose(shot.id, event)) event.preventDefault();
            }}
            onKeyDown={onKeyDown}
            className={clsx('block border bg-tin', current ? 'border-oxide outline-1 outline-oxide' : 'border-rule', marked && 'outline-2 outline-offset-1 outline-ink')}
          >
            {medium.state === 'ready' ? (
              <span className="relative block">
                <img draggable={false} src={`/api/media/${medium.id}/poster`} alt={shot.name} className="block aspect-video w-full bg-surround object-cover" />
                <span className={CORNER}>{place + 1}</span>
                {footage && <span className={clsx(CORNER, 'right-0')}>{Math.round(footage.frames / rateOf(footage))} s</span>}
              </span>
            ) : (
              <MediumState shot={shot} />
            )}
          </Link>
        </ContextMenu.Trigger>
        <ContextMenu.Portal>
          <ContextMenu.Content className="z-50 min-w-[220px] rounded-sm border border-rule bg-panel p-1.5 shadow-lg" onCloseAutoFocus={(event) => naming && event.preventDefault()}>
            <ContextMenu.Item className={ITEM} onSelect={() => setNaming(true)}>
              Rename <kbd className="mono text-faint">F2</kbd>
            </ContextMenu.Item>
            <ContextMenu.Item className={ITEM} onSelect={copy}>
              {all.length > 1 ? `Duplicate ${all.length} shots` : 'Duplicate'} <kbd className="mono text-faint">Ctrl D</kbd>
            </ContextMenu.Item>
            <ContextMenu.Item className={ITEM} disabled={place === 0} onSelect={() => void moveShot(reel, shot.id, place - 1)}>
              Move up <kbd className="mono text-faint">Alt ↑</kbd>
            </ContextMenu.Item>
            <ContextMenu.Item className={ITEM} disabled={place === reel.shots.length - 1} onSelect={() => void moveShot(reel, shot.id, place + 1)}>
              Move down <kbd className="mono text-faint">Alt ↓</kbd>
            </ContextMenu.Item>
            <ContextMenu.Separator className="my-1 border-t border-rule" />
            <ContextMenu.Item className={ITEM} onSelect={() => copyLook(lookOf())}>
              Copy look <kbd className="mono text-faint">Ctrl C</kbd>
            </ContextMenu.Item>
            <ContextMenu.Item className={ITEM} disabled={!copied} onSelect={() => void lookToShots(copied!, all)}>
              {copied ? `Paste look “${copied.name}”` : 'Paste look'} <kbd className="mono text-faint">Ctrl V</kbd>
            </ContextMenu.Item>
            <ContextMenu.Item className={ITEM} disabled={others.length === 0} onSelect={() => void lookToShots(lookOf(), others)}>
              Apply its look to all others
            </ContextMenu.Item>
            <ContextMenu.Item className={ITEM} disabled={!all.every((one) => one.medium.state === 'ready')} onSelect={() => openPrinting(all.map(({ id }) => id))}>
              {all.length > 1 ? `Strike prints of ${all.length} shots` : 'Strike a print'}
            </ContextMenu.Item>
            <ContextMenu.Separator className="my-1 border-t border-rule" />
            <ContextMenu.Item className={ITEM} onSelect={discard}>
              {all.length > 1 ? `Delete ${all.length} shots` : 'Delete'} <kbd className="mono text-faint">Del</kbd>
            </ContextMenu.Item>
          </ContextMenu.Content>
        </ContextMenu.Portal>
      </ContextMenu.Root>
      {naming && (
        <NameField
          name={shot.name}
          className="mt-0.5 w-full bg-well text-[13px]"
          onDone={(name) => {
            setNaming(false);
            if (name) void renameShot(shot, name);
          }}
        />
      )}
      {medium.state !== 'ready' && (
        <span className="flex flex-wrap gap-x-2">
          {medium.state === 'failed' && (
            <button type="button" className="text-[12px] text-oxide underline" onClick={() => void told(api(`/media/${medium.id}/again`, { method: 'POST' }))}>
              Try again
            </button>
          )}
          <button type="button" className="text-[12px] text-faint underline" onClick={() => void told(api(`/shots/${shot.id}`, { method: 'DELETE' }))}>
            {medium.state === 'failed' ? 'Remove' : 'Cancel'}
          </button>
        </span>
      )}
    </li>
  );
}
