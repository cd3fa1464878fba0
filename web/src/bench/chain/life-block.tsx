import clsx from 'clsx';
import { useDroppable } from '@dnd-kit/core';
import { Ellipsis, Plus } from 'lucide-react';
import { actOf, ACTS, carrierById, carriers, carrierShape, switchCarrier, type Act, type Look } from '@tin-ghost/core';
import { MenuButton, OnRightClick, type MenuEntry } from '../../parts/context-menu';
import { Tool, Toolbar } from '../../parts/toolbar';
import { copyUses, useClipboard } from '../state/clipboard';
import { changeLook, useDocument } from '../state/document';
import { addLife, copyLife, mayAddLife, moveLife, removeLife, toggleAll } from '../state/life-edits';
import { sameUse, type UseAt } from '../state/look-edits';
import { lookAt, offerTo, useSession } from '../state/session';
import { ACT_NAMES } from '../../messages/acts';
import { Tag } from './tag';
import { pasteCopied } from './use-actions';
import { tellSwitched } from './tell-switched';
import { texts } from '../../messages/chain';

/** Width of a life's carrier, and of an act at least: room for its name, or for its widest tag. */
const CARRIER_WIDTH = 116;
const roomFor = (uses: number): number => (uses ? 118 : 78);

/** A life: its carrier, and its five acts. */
export function LifeBlock({ look, life }: { look: Look; life: number }) {
  const { carrier: id, traits } = look.lives[life]!;
  const carrier = carrierById(id)!;
  const shape = carrierShape(id);
  /** Changes the look as it is now. */
  const change = (changed: (now: Look) => Look): void => changeLook(changed(useDocument.getState().look), null);
  const setCarrier = (next: string): void => {
    const { look: switched, changes } = switchCarrier(useDocument.getState().look, life, next);
    changeLook(switched);
    tellSwitched(next, changes);
  };
  const copied = useClipboard((c) => c.uses);
  const last = look.lives.length - 1;
  const entries: MenuEntry[] = [
    { name: texts.addLifeAfterIt, off: !mayAddLife(look), run: () => change((now) => addLife(now, life, id)) },
    { name: texts.addLifeBeforeIt, off: !mayAddLife(look), run: () => change((now) => addLife(now, life - 1, id)) },
    { name: texts.duplicate, off: !mayAddLife(look), run: () => change((now) => copyLife(now, life)) },
    { name: texts.moveEarlier, off: life === 0, run: () => change((now) => moveLife(now, life, life - 1)) },
    { name: texts.moveLater, off: life === last, run: () => change((now) => moveLife(now, life, life + 1)) },
    'rule',
    { name: texts.copyItsTraits, off: traits.length === 0, run: () => copyUses(useDocument.getState().look.lives[life]!.traits) },
    { name: texts.pasteTraits, off: !copied, run: () => pasteCopied(life, null) },
    { name: texts.allOfItOffOrOn, off: traits.length === 0, run: () => changeLook(toggleAll(useDocument.getState().look, life)) },
    'rule',
    { name: texts.remove, run: () => change((now) => removeLife(now, life)) },
  ];
  const acts = ACTS.map((act) => ({ act, uses: traits.map((use, index) => ({ use, at: { life, index } })).filter(({ use }) => actOf(use) === act) }));
  return (
    <div className="flex shrink-0 grow basis-0" style={{ minWidth: CARRIER_WIDTH + acts.reduce((sum, { uses }) => sum + roomFor(uses.length), 0) }}>
      <div className="w-[116px] shrink-0 border-r border-rule bg-tin px-2 py-2">
        <div className="flex items-center justify-between">
          <span className="label !text-[11px]">{texts.life(life + 1)}</span>
          <MenuButton entries={entries}>
            <button type="button" className="-my-1 grid h-6 w-6 place-items-center rounded-sm hover:text-oxide" aria-label={texts.whatCanBeDoneWithLife(life + 1)}>
              <Ellipsis size={15} />
            </button>
          </MenuButton>
        </div>
        <select
          aria-label={texts.carrierOfLife(life + 1)}
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
          {carrier.rate && <div>{texts.rateFps(Math.round(carrier.rate * 100) / 100)}</div>}
          {carrier.gate ? <div>{texts.millimetres(carrier.gate.width, carrier.gate.height)}</div> : <div>{carrier.raster ? texts.lines(carrier.raster.height) : texts.noGate}</div>}
        </div>
        {life === look.lives.length - 1 && shape !== undefined && (
          <select
            aria-label={texts.shapeOfPicture}
            title={texts.carriersShapeWithBarsWhere}
            value={look.shape}
            onChange={(e) => changeLook({ ...useDocument.getState().look, shape: e.currentTarget.value as 'file' | 'carrier' })}
            className="mono mt-0.5 w-full bg-transparent text-[11px] text-faint outline-offset-2"
          >
            <option value="file" className="bg-panel">
              {texts.asFile}
            </option>
            <option value="carrier" className="bg-panel">
              {shape.toFixed(2)} : 1
            </option>
          </select>
        )}
      </div>
      <Toolbar label={texts.traitsOfLife(life + 1)} className="flex min-w-0 flex-1">
        {acts.map(({ act, uses }) => (
          <Compartment key={act} life={life} act={act} uses={uses.map((u) => u.at)} look={look} />
        ))}
      </Toolbar>
    </div>
  );
}

function Compartment({ life, act, uses, look }: { life: number; act: Act; uses: UseAt[]; look: Look }) {
  const { setNodeRef, isOver } = useDroppable({ id: `end-${life}-${act}`, data: { life, act, before: null } });
  const live = useSession((s) => uses.some((at) => sameUse(at, s.selected)));
  const copied = useClipboard((c) => c.uses);
  const entries: MenuEntry[] = [
    { name: texts.addToAct(ACT_NAMES[act]), run: () => offerTo({ life, act }) },
    'rule',
    { name: texts.copyItsTraits, off: uses.length === 0, run: () => copyUses(uses.map(({ index }) => useDocument.getState().look.lives[life]!.traits[index]!)) },
    {
      name: texts.pasteTraits,
      off: !copied,
      run: () => pasteCopied(life, uses.at(-1) ?? null, act),
    },
    { name: texts.allOfItOffOrOn, off: uses.length === 0, run: () => changeLook(toggleAll(useDocument.getState().look, life, act)) },
  ];
  return (
    <OnRightClick entries={entries}>
      <div
        ref={setNodeRef}
        className={clsx('relative flex flex-col border-r border-rule', isOver && 'bg-tin')}
        // By the room its tags take; they wrap into the height there is.
        style={{ flexGrow: 1.2 + uses.length, flexBasis: 0, minWidth: roomFor(uses.length) }}
        role="group"
        aria-label={texts.actOfLife(ACT_NAMES[act], life + 1)}
      >
        <div className="flex items-center justify-between px-2 pt-1.5">
          <MenuButton entries={entries}>
            <Tool>
              <button type="button" className="label !text-[11px] hover:!text-oxide" aria-label={texts.whatCanBeDoneWithAct(ACT_NAMES[act])}>
                {ACT_NAMES[act]}
              </button>
            </Tool>
          </MenuButton>
          <Tool>
            <button
              type="button"
              className="p-0.5 hover:text-oxide"
              aria-label={texts.addToAct(ACT_NAMES[act])}
              aria-haspopup="dialog"
              data-add={`${life} ${act}`}
              onClick={() => offerTo({ life, act })}
            >
              <Plus size={15} />
            </button>
          </Tool>
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
    </OnRightClick>
  );
}

/** Between two tags: with the pointer here, the picture is shown as it is at this point. */
function Gap({ life, act, place }: { life: number; act: Act; place: number }) {
  return (
    <span
      className="group flex h-7 w-2.5 items-center justify-center"
      title={texts.pictureAtThisPoint}
      onPointerEnter={() => lookAt({ life, act, place })}
      onPointerLeave={() => lookAt(null)}
    >
      <span className="h-4 w-px bg-transparent group-hover:bg-oxide" />
    </span>
  );
}
