import { useState, type KeyboardEvent } from 'react';
import { useDraggable, useDroppable } from '@dnd-kit/core';
import clsx from 'clsx';
import { actOf, ACTS, traitById, type Act, type Look, type TraitUse } from '@tin-ghost/core';
import { OnRightClick, type MenuEntry } from '../../parts/context-menu';
import { NameField } from '../../parts/name-field';
import { Tool } from '../../parts/toolbar';
import { focusCard } from '../card/focus-card';
import { MotionLine } from '../card/motion-sign';
import { copyUses, useClipboard } from '../state/clipboard';
import { changeLook, useDocument } from '../state/document';
import { changeUse, moveUse, sameUse, toggleUse, type UseAt } from '../state/look-edits';
import { select, useSession } from '../state/session';
import { pasteCopied, pasteInto, removeTold } from './use-actions';
import { texts } from '../../messages/chain';

/** A trait in the chain: opened by a click, moved by hand or by keys, and all else by its menu. */
export function Tag({ at, act, look }: { at: UseAt; act: Act; look: Look }) {
  const use = look.lives[at.life]!.traits[at.index]!;
  const trait = traitById(use.trait)!;
  const selected = useSession((s) => sameUse(s.selected, at));
  const drag = useDraggable({ id: `use-${at.life}-${at.index}`, data: at });
  const drop = useDroppable({ id: `before-${at.life}-${at.index}`, data: { life: at.life, act, before: at } });
  const on = use.on !== false;
  const strength = use.strength ?? 1;
  const name = use.name ?? trait.name;
  const moves = Object.keys(use.motions ?? {}).length > 0;
  const copied = useClipboard((c) => c.uses);
  const [naming, setNaming] = useState(false);
  const remove = (): void => removeTold(at);
  /** As it is now. */
  const uses = (): TraitUse[] => [useDocument.getState().look.lives[at.life]!.traits[at.index]!];
  const copy = (): void => copyUses(uses());
  const duplicate = (): void => pasteInto(at.life, uses(), at);
  const paste = (): void => pasteCopied(at.life, at);
  const move = (way: -1 | 1): void => {
    const to = neighbourOf(look, at, act, way);
    if (!to) return;
    const moved = moveUse(useDocument.getState().look, at, to.act, to.before);
    changeLook(moved.look, moved.at);
    // The focus goes along.
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-use="${moved.at.life} ${moved.at.index}"]`)?.focus());
  };
  const entries: MenuEntry[] = [
    { name: on ? texts.turnOff : texts.turnOn, keys: 'X', run: () => changeLook(toggleUse(useDocument.getState().look, at)) },
    { name: texts.rename, keys: 'F2', run: () => setNaming(true) },
    { name: texts.duplicate, keys: 'Ctrl D', run: duplicate },
    { name: texts.copy, keys: 'Ctrl C', run: copy },
    { name: texts.pasteAfterIt, keys: 'Ctrl V', off: !copied, run: paste },
    'rule',
    { name: texts.moveEarlier, keys: 'Alt ←', off: !neighbourOf(look, at, act, -1), run: () => move(-1) },
    { name: texts.moveLater, keys: 'Alt →', off: !neighbourOf(look, at, act, 1), run: () => move(1) },
    'rule',
    { name: texts.remove, keys: 'Del', run: remove },
  ];
  const onKeyDown = (event: KeyboardEvent): void => {
    const act = {
      F2: () => setNaming(true),
      Delete: remove,
      Backspace: remove,
      ...((event.ctrlKey || event.metaKey) && { c: copy, v: paste, d: duplicate }),
      ...(event.altKey && { ArrowLeft: () => move(-1), ArrowRight: () => move(1) }),
    }[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  };
  if (naming)
    return (
      <NameField
        name={name}
        className="h-7 w-[110px] bg-well text-[14px]"
        onDone={(given) => {
          setNaming(false);
          if (given) changeLook(changeUse(useDocument.getState().look, at, { name: given === trait.name ? undefined : given }));
        }}
      />
    );
  return (
    <OnRightClick entries={entries} keepsFocus={naming}>
      <Tool>
        <button
          type="button"
          data-use={`${at.life} ${at.index}`}
          ref={(node) => {
            drag.setNodeRef(node);
            drop.setNodeRef(node);
          }}
          {...drag.listeners}
          aria-pressed={selected}
          title={texts.tagTitle(name)}
          aria-label={`${name}, ${on ? texts.strengthPercent(Math.round(strength * 100)) : texts.off}${moves ? texts.moves : ''}`}
          onClick={(event) => {
            select(at);
            // Pressed by a key.
            if (event.detail === 0) focusCard();
          }}
          onDoubleClick={() => changeLook(toggleUse(useDocument.getState().look, at))}
          onKeyDown={onKeyDown}
          className={clsx(
            'relative flex h-7 min-w-0 touch-none items-center rounded-sm border pr-2.5 pl-3.5 text-[14px] whitespace-nowrap',
            selected ? 'border-oxide bg-oxide text-oxide-ink' : 'border-rule bg-well',
            !on && 'line-through opacity-55',
            drop.isOver && 'outline-2 outline-oxide',
          )}
          style={{ transform: drag.transform ? `translate(${drag.transform.x}px, ${drag.transform.y}px)` : undefined, zIndex: drag.isDragging ? 20 : undefined }}
        >
          <span className="absolute inset-y-0 left-0 flex w-[5px] flex-col justify-end border-r border-rule" aria-hidden>
            <span className={selected ? 'bg-oxide-ink' : 'bg-ink'} style={{ height: `${on ? strength * 100 : 0}%` }} />
          </span>
          <span className="truncate">{name}</span>
          {moves && (
            <span className="ml-1.5" title={texts.somethingOfItMoves}>
              <MotionLine kind="wander" />
            </span>
          )}
        </button>
      </Tool>
    </OnRightClick>
  );
}

/** Where a use goes by one step: past its neighbour in the act, or into the act beside it; undefined at the ends of its life. */
function neighbourOf(look: Look, at: UseAt, act: Act, way: -1 | 1): { act: Act; before: UseAt | null } | undefined {
  const usesOf = (one: Act): UseAt[] => look.lives[at.life]!.traits.flatMap((use, index) => (actOf(use) === one ? [{ life: at.life, index }] : []));
  const own = usesOf(act);
  const place = own.findIndex((one) => sameUse(one, at));
  if (way < 0 && place > 0) return { act, before: own[place - 1]! };
  if (way > 0 && place < own.length - 1) return { act, before: own[place + 2] ?? null };
  const next = ACTS[ACTS.indexOf(act) + way];
  return next && { act: next, before: way > 0 ? (usesOf(next)[0] ?? null) : null };
}
