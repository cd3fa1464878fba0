import { memo } from 'react';
import { DndContext, PointerSensor, pointerWithin, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import clsx from 'clsx';
import type { Act, Look } from '@tin-ghost/core';
import type { Source } from '../../render/protocol';
import { moveUse, type UseAt } from '../state/look-edits';
import { changeLook, useDocument } from '../state/document';
import { useLookLater } from '../state/look-later';
import { selectShot, useSession } from '../state/session';
import { LifeBlock } from './life-block';
import { texts } from '../../messages/chain';

/** The traits in the order the picture meets them, act by act and life by life. */
export const Chain = ({ source }: { source: Source }) => <ChainOf look={useLookLater()} source={source} />;

const ChainOf = memo(function ChainOf({ look, source }: { look: Look; source: Source }) {
  // A press becomes a drag only after some way, so that a click stays a click.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));

  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (!over) return;
    const from = active.data.current as UseAt;
    const to = over.data.current as { life: number; act: Act; before: UseAt | null };
    if (to.life !== from.life) return;
    const moved = moveUse(useDocument.getState().look, from, to.act, to.before);
    changeLook(moved.look, moved.at);
  };

  return (
    <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={onDragEnd}>
      <section id="chain" className="flex min-h-[128px] shrink-0 overflow-x-auto border-b border-rule" aria-label={texts.chain}>
        <ShotBlock source={source} />
        {look.lives.map((_, life) => (
          <LifeBlock key={life} look={look} life={life} />
        ))}
        {look.lives.length === 0 && (
          <div className="flex flex-1 items-center gap-3 px-4 text-faint">
            <span>{texts.thisLookHasNoLife}</span>
            <button type="button" className="text-oxide underline" onClick={() => changeLook({ ...useDocument.getState().look, lives: [{ carrier: 'super8', traits: [] }] })}>
              {texts.giveItOneOnSuper8}
            </button>
          </div>
        )}
      </section>
    </DndContext>
  );
});

/** Where the picture comes from: opens the shot's own card. */
function ShotBlock({ source }: { source: Source }) {
  const open = useSession((s) => s.shotOpen);
  const changed = Object.keys(source.preparation).length > 0;
  return (
    <button
      type="button"
      aria-pressed={open}
      data-shot-block
      onClick={selectShot}
      className={clsx('flex w-[74px] shrink-0 flex-col border-r border-rule px-2 py-2 text-left', open ? 'bg-oxide text-oxide-ink' : 'bg-tin hover:bg-well')}
    >
      <span className={clsx('label !text-[11px]', open && '!text-oxide-ink')}>{texts.shot}</span>
      <span className="mt-1 text-[14px] font-semibold">{changed ? texts.prepared : texts.asShot}</span>
      <span className={clsx('mono mt-1 text-[11px]', !open && 'text-faint')}>
        {(source.width / source.height).toFixed(2)}
        <br />
        {source.frames} {texts.frames}
      </span>
    </button>
  );
}
