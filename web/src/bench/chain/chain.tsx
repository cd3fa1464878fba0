import { DndContext, PointerSensor, pointerWithin, useDraggable, useDroppable, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import clsx from 'clsx';
import { Plus } from 'lucide-react';
import { ACTS, carrierById, carriers, carrierShape, switchCarrier, traitById, type Act, type Look } from '@tin-ghost/core';
import type { Source } from '../../render/protocol';
import { ACT_NAMES } from './act-names';
import { tellSwitched } from './tell-switched';
import { actOf, moveUse, sameUse, toggleUse, type UseAt } from '../state/look-edits';
import { MotionLine } from '../card/motion-sign';
import { changeLook, useDocument } from '../state/document';
import { lookAt, offerTo, select, selectShot, useSession } from '../state/session';

/** Width of a life's carrier, and of an act at least: room for its name, or for its widest tag. */
const CARRIER_WIDTH = 116;
const roomFor = (uses: number): number => (uses ? 118 : 70);

/** The traits in the order the picture meets them, act by act and life by life. */
export function Chain({ source }: { source: Source }) {
  const look = useDocument((s) => s.look);
  // A press becomes a drag only after some way, so that a click stays a click.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));

  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (!over) return;
    const from = active.data.current as UseAt;
    const to = over.data.current as { life: number; act: Act; before: UseAt | null };
    if (to.life !== from.life) return;
    const moved = moveUse(look, from, to.act, to.before);
    if (JSON.stringify(moved.look) !== JSON.stringify(look)) changeLook(moved.look, moved.at);
  };

  return (
    <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={onDragEnd}>
      <section className="flex min-h-[128px] shrink-0 overflow-x-auto border-b border-rule" aria-label="Chain">
        <ShotBlock source={source} />
        {look.lives.map((_, life) => (
          <LifeBlock key={life} look={look} life={life} />
        ))}
        {look.lives.length === 0 && (
          <div className="flex flex-1 items-center gap-3 px-4 text-faint">
            <span>This look has no life yet: the picture passes as it was shot.</span>
            <button type="button" className="text-oxide underline" onClick={() => changeLook({ ...look, lives: [{ carrier: 'super8', traits: [] }] })}>
              Give it one on Super 8
            </button>
          </div>
        )}
      </section>
    </DndContext>
  );
}

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
      <span className={clsx('label !text-[11px]', open && '!text-oxide-ink')}>Shot</span>
      <span className="mt-1 text-[14px] font-semibold">{changed ? 'Prepared' : 'As shot'}</span>
      <span className={clsx('mono mt-1 text-[11px]', !open && 'text-faint')}>
        {(source.width / source.height).toFixed(2)}
        <br />
        {source.frames} frames
      </span>
    </button>
  );
}

function LifeBlock({ look, life }: { look: Look; life: number }) {
  const { carrier: id, traits } = look.lives[life]!;
  const carrier = carrierById(id)!;
  const shape = carrierShape(id);
  const setCarrier = (next: string): void => {
    const { look: switched, changes } = switchCarrier(look, life, next);
    changeLook(switched);
    tellSwitched(next, changes);
  };
  const acts = ACTS.map((act) => ({ act, uses: traits.map((use, index) => ({ use, at: { life, index } })).filter(({ use }) => actOf(use) === act) }));
  return (
    <div className="flex shrink-0 grow basis-0" style={{ minWidth: CARRIER_WIDTH + acts.reduce((sum, { uses }) => sum + roomFor(uses.length), 0) }}>
      <div className="w-[116px] shrink-0 border-r border-rule bg-tin px-2 py-2">
        <div className="label !text-[11px]">Life {life + 1}</div>
        <select
          aria-label={`Carrier of life ${life + 1}`}
          title={carrier.name}
          value={id}
          onChange={(e) => setCarrier(e.currentTarget.value)}
          className="mt-1 w-full bg-transparent text-[14px] font-semibold outline-offset-2"
        >
          {carriers.map((c) => (
            <option key={c.id} value={c.id} className="bg-panel">
              {c.name}
            </option>
          ))}
        </select>
        <div className="mono mt-1 text-[11px] leading-snug text-faint">
          {carrier.rate && <div>{Math.round(carrier.rate * 100) / 100} a second</div>}
          {carrier.gate ? <div>{`${carrier.gate.width} × ${carrier.gate.height} mm`}</div> : <div>{carrier.raster ? `${carrier.raster.height} lines` : 'no gate'}</div>}
        </div>
        {life === look.lives.length - 1 && shape !== undefined && (
          <select
            aria-label="Shape of the picture"
            title="The carrier’s shape, with bars where the file is of another, or the file’s"
            value={look.shape}
            onChange={(e) => changeLook({ ...look, shape: e.currentTarget.value as 'file' | 'carrier' })}
            className="mono mt-0.5 w-full bg-transparent text-[11px] text-faint outline-offset-2"
          >
            <option value="file" className="bg-panel">
              as file
            </option>
            <option value="carrier" className="bg-panel">
              {shape.toFixed(2)} : 1
            </option>
          </select>
        )}
      </div>
      {acts.map(({ act, uses }) => (
        <Compartment key={act} life={life} act={act} uses={uses.map((u) => u.at)} look={look} />
      ))}
    </div>
  );
}

function Compartment({ life, act, uses, look }: { life: number; act: Act; uses: UseAt[]; look: Look }) {
  const { setNodeRef, isOver } = useDroppable({ id: `end-${life}-${act}`, data: { life, act, before: null } });
  const live = useSession((s) => uses.some((at) => sameUse(at, s.selected)));
  return (
    <div
      ref={setNodeRef}
      className={clsx('relative flex flex-col border-r border-rule', isOver && 'bg-tin')}
      // By the room its tags take; they wrap into the height there is.
      style={{ flexGrow: 1.2 + uses.length, flexBasis: 0, minWidth: roomFor(uses.length) }}
      role="group"
      aria-label={`${ACT_NAMES[act]}, life ${life + 1}`}
    >
      <div className="flex items-center justify-between px-2 pt-1.5">
        <span className="label !text-[11px]">{ACT_NAMES[act]}</span>
        <button
          type="button"
          className="p-0.5 hover:text-oxide"
          aria-label={`Add to ${ACT_NAMES[act]}`}
          aria-haspopup="dialog"
          data-add={`${life} ${act}`}
          onClick={() => offerTo({ life, act })}
        >
          <Plus size={15} />
        </button>
      </div>
      <div className="flex flex-1 flex-wrap content-start items-start gap-y-1.5 px-1 pt-1 pb-7">
        {uses.length === 0 && <Gap life={life} act={act} place={0} />}
        {uses.map((at, place) => (
          <span key={at.index} className="flex max-w-full items-center">
            {place === 0 && <Gap life={life} act={act} place={0} />}
            <Tag at={at} act={act} look={look} />
            <Gap life={life} act={act} place={place + 1} />
          </span>
        ))}
      </div>
      {/* The path of the picture, over a roller for each act. */}
      <svg className="pointer-events-none absolute inset-x-0 bottom-1 h-5 w-full" aria-hidden>
        <line x1="0" x2="100%" y1="10" y2="10" stroke="var(--color-ink)" strokeWidth="1" />
        <circle cx="50%" cy="10" r="5" fill={live ? 'var(--color-oxide)' : 'var(--color-panel)'} stroke={live ? 'var(--color-oxide)' : 'var(--color-ink)'} />
      </svg>
    </div>
  );
}

/** Between two tags: with the pointer here, the picture is shown as it is at this point. */
function Gap({ life, act, place }: { life: number; act: Act; place: number }) {
  return (
    <span
      className="group flex h-7 w-2.5 items-center justify-center"
      title="The picture at this point"
      onPointerEnter={() => lookAt({ life, act, place })}
      onPointerLeave={() => lookAt(null)}
    >
      <span className="h-4 w-px bg-transparent group-hover:bg-oxide" />
    </span>
  );
}

function Tag({ at, act, look }: { at: UseAt; act: Act; look: Look }) {
  const use = look.lives[at.life]!.traits[at.index]!;
  const trait = traitById(use.trait)!;
  const selected = useSession((s) => sameUse(s.selected, at));
  const drag = useDraggable({ id: `use-${at.life}-${at.index}`, data: at });
  const drop = useDroppable({ id: `before-${at.life}-${at.index}`, data: { life: at.life, act, before: at } });
  const on = use.on !== false;
  const strength = use.strength ?? 1;
  const name = use.name ?? trait.name;
  const moves = Object.keys(use.motions ?? {}).length > 0;
  return (
    <button
      type="button"
      ref={(node) => {
        drag.setNodeRef(node);
        drop.setNodeRef(node);
      }}
      {...drag.listeners}
      aria-pressed={selected}
      title={name}
      aria-label={`${name}, ${on ? `strength ${Math.round(strength * 100)} %` : 'off'}${moves ? ', moves' : ''}`}
      onClick={() => select(at)}
      onDoubleClick={() => changeLook(toggleUse(look, at))}
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
        <span className="ml-1.5" title="Something of it moves">
          <MotionLine kind="wander" />
        </span>
      )}
    </button>
  );
}
