import { useState, type KeyboardEvent, type MouseEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import clsx from 'clsx';
import type { Reel, Shot } from '@tin-ghost/contract';
import { api } from '../../api/client';
import { rateOf } from '../../api/footage';
import { told } from '../../api/told';
import { OnRightClick, type MenuEntry } from '../../parts/context-menu';
import { useSortableItem } from '../../parts/sortable-list';
import { NameField } from '../../parts/name-field';
import { copyLook, useClipboard } from '../state/clipboard';
import { useDocument } from '../state/document';
import { MediumState } from '../../parts/medium-state';
import { openPrinting } from '../state/printing';
import { copyShots, discardShots, lookToShots, moveShot, renameShot } from './shot-actions';
import { texts } from '../../messages/shot';

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
/** A shot in the rail: opened by a click, chosen with others by Ctrl or Shift, moved by hand, and all else by its menu or its keys. */
export function ShotEntry({ reel, shot, place, current, chosen, onChoose }: Props) {
  const navigate = useNavigate();
  const [naming, setNaming] = useState(false);
  const { ref, listeners, style, isDragging } = useSortableItem(shot.id, naming);
  const copied = useClipboard((s) => s.look);
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
  const entries: MenuEntry[] = [
    { name: texts.rename, keys: 'F2', run: () => setNaming(true) },
    { name: all.length > 1 ? texts.duplicateShots(all.length) : texts.duplicate, keys: 'Ctrl D', run: copy },
    { name: texts.moveUp, keys: 'Alt ↑', off: place === 0, run: () => void moveShot(reel, shot.id, place - 1) },
    { name: texts.moveDown, keys: 'Alt ↓', off: place === reel.shots.length - 1, run: () => void moveShot(reel, shot.id, place + 1) },
    'rule',
    { name: texts.copyLook, keys: 'Ctrl C', run: () => copyLook(lookOf()) },
    { name: copied ? texts.pasteLookName(copied.name) : texts.pasteLook, keys: 'Ctrl V', off: !copied, run: () => void lookToShots(copied!, all) },
    { name: texts.applyItsLookToAllOthers, off: others.length === 0, run: () => void lookToShots(lookOf(), others) },
    {
      name: all.length > 1 ? texts.strikePrintsOfShots(all.length) : texts.strikePrint,
      off: !all.every((one) => one.medium.state === 'ready'),
      run: () => openPrinting(all.map(({ id }) => id)),
    },
    'rule',
    { name: all.length > 1 ? texts.deleteShots(all.length) : texts.delete, keys: 'Del', run: discard },
  ];
  return (
    <li ref={ref} style={style} className={clsx(isDragging && 'z-10 opacity-80')}>
      <OnRightClick entries={entries} keepsFocus={naming}>
        <Link
          {...listeners}
          draggable={false}
          data-own-delete
          to={`/reels/${shot.reelId}/shots/${shot.id}`}
          aria-current={current}
          aria-selected={marked || undefined}
          title={texts.shotTitle(shot.name)}
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
              {footage && <span className={clsx(CORNER, 'right-0')}>{texts.lasts(Math.round(footage.frames / rateOf(footage)))}</span>}
            </span>
          ) : (
            <MediumState medium={shot.medium} />
          )}
        </Link>
      </OnRightClick>
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
          {/* First, so that it stays where it is when the other comes and goes. */}
          <button type="button" className="text-[12px] text-faint underline" onClick={() => void told(api(`/shots/${shot.id}`, { method: 'DELETE' }))}>
            {medium.state === 'failed' ? texts.remove : texts.cancel}
          </button>
          {medium.state === 'failed' && (
            <button type="button" className="text-[12px] text-oxide underline" onClick={() => void told(api(`/media/${medium.id}/again`, { method: 'POST' }))}>
              {texts.tryAgain}
            </button>
          )}
        </span>
      )}
    </li>
  );
}
