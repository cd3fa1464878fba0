import { useWithKeys } from '../keys/actions-context';
import { memo, type RefObject } from 'react';
import clsx from 'clsx';
import { DropdownMenu } from 'radix-ui';
import { ChevronDown, Maximize } from 'lucide-react';
import { useShallow } from 'zustand/react/shallow';
import { actOf, traitById, type Look } from '@tin-ghost/core';
import type { Reference } from '@tin-ghost/contract';
import { useLooks } from '../../api/client';
import { Tool, Toolbar } from '../../parts/toolbar';
import { type Against, againstName, compareAs, compareWith, type Mode, MODES, remember, useCompare } from '../state/compare';
import { traitUseAt, type UseAt } from '../state/look-edits';
import { useDocument } from '../state/document';
import { usePlayback } from '../state/playback';
import { useLookLater } from '../state/look-later';
import { MAGNIFIED, setView, setZoom, useSession } from '../state/session';
import { actionNames } from '../../messages/actions';
import { ACT_NAMES } from '../../messages/acts';
import { texts } from '../../messages/picture';
import { usePointed } from './use-pointed';

const VIEWS = [
  ['worn', texts.worn, texts.pictureWithItsWearW],
  ['asShot', texts.asShotView, texts.pictureBeforeHoldBForMoment],
] as const;
const MODE_NAMES: Record<Mode, string> = { off: texts.alone, wipe: texts.wipe, side: texts.sideBySide, blink: texts.blink, shots: texts.onAllShots };

const bar = 'pointer-events-auto flex max-w-full flex-wrap whitespace-nowrap bg-[#1b1e1f] text-[14px] text-[#d5d9d8]';
const part = (on: boolean): string => clsx('px-2.5 py-1', on ? 'bg-[#e6e8e7] text-[#1b1e1f]' : 'hover:text-white');

interface Props {
  stage: RefObject<HTMLDivElement | null>;
  reference: Reference | undefined;
  percent: number | null;
}

/** What is shown, and what it is held against. It lies over the picture, so it stands there only while it is wanted. */
export const ViewBar = (props: Props) => <BarOf {...props} look={useLookLater()} />;

const BarOf = memo(function BarOf({ stage, reference, percent, look }: Props & { look: Look }) {
  const { view, zoom, magnified, selected, framing } = useSession(useShallow(({ view, zoom, magnified, selected, framing }) => ({ view, zoom, magnified, selected, framing })));
  const { mode, against } = useCompare(useShallow(({ mode, against }) => ({ mode, against })));
  const full = zoom === 'full';
  const traitName = (at: UseAt): string => {
    const use = traitUseAt(look, at);
    return use ? (use.name ?? traitById(use.trait)!.name) : '';
  };
  const withKeys = useWithKeys();
  const pointed = usePointed(stage);
  const playing = usePlayback((s) => s.playing);
  // A still that is not the worn picture alone would be taken for it.
  const wanted = pointed || (!playing && (view === 'asShot' || mode !== 'off'));
  const fullScreen = (): void => void (document.fullscreenElement ? document.exitFullscreen() : stage.current?.closest('[data-screen]')?.requestFullscreen());
  // While the picture is framed its corners are handles.
  if (framing) return null;
  return (
    <div
      data-view-bar
      className={clsx(
        'pointer-events-none absolute inset-0 has-[:focus-visible]:opacity-100 has-[:hover]:opacity-100 motion-safe:transition-opacity motion-safe:duration-200',
        !wanted && 'opacity-0',
      )}
    >
      {/* Clear of the zoom at the right. */}
      <div className="absolute top-2.5 right-3 left-3 flex flex-wrap gap-2 min-[902px]:right-[212px]">
        <Toolbar className={bar} label={texts.whatIsShown}>
          {VIEWS.map(([id, name, title]) => (
            <Tool key={id}>
              <button type="button" title={title} aria-pressed={view === id} onClick={() => setView(id)} className={part(view === id)}>
                {name}
              </button>
            </Tool>
          ))}
        </Toolbar>
        <Toolbar className={bar} label={texts.howItIsCompared}>
          {MODES.map((m) => (
            <Tool key={m}>
              <button type="button" aria-pressed={mode === m} onClick={() => compareAs(m)} className={part(mode === m)} title={withKeys(MODE_NAMES[m], actionNames.compare)}>
                {MODE_NAMES[m]}
              </button>
            </Tool>
          ))}
          {mode !== 'off' && mode !== 'shots' && (
            <AgainstMenu look={look} reference={reference} traitName={traitName}>
              {texts.withName(againstName(against, look, selected, reference, traitName))}
            </AgainstMenu>
          )}
        </Toolbar>
      </div>
      <Toolbar
        label={texts.zoom}
        className="mono pointer-events-auto absolute top-2.5 right-3 flex gap-2 bg-[#1b1e1f] px-2 py-1 text-[#d5d9d8] max-[901px]:top-auto max-[901px]:bottom-2"
      >
        <Tool>
          <button
            type="button"
            aria-pressed={!full}
            className={clsx(!full && 'underline underline-offset-4')}
            onClick={() => setZoom('fit')}
            title={withKeys(texts.fit, actionNames.fitPicture)}
          >
            {texts.fitPercent(percent)}
          </button>
        </Tool>
        {MAGNIFIED.map((m) => (
          <Tool key={m}>
            <button
              type="button"
              aria-pressed={full && magnified === m}
              className={clsx(full && magnified === m && 'underline underline-offset-4')}
              onClick={() => setZoom('full', m)}
              title={texts.magnified(m, m)}
            >
              {m}:1
            </button>
          </Tool>
        ))}
        <Tool>
          <button type="button" aria-label={texts.fullScreen} title={withKeys(texts.fullScreen, actionNames.fullScreen)} data-full-screen onClick={fullScreen}>
            <Maximize size={14} />
          </button>
        </Tool>
      </Toolbar>
    </div>
  );
});

function AgainstMenu({ look, reference, traitName, children }: { look: Look; reference: Reference | undefined; traitName: (at: UseAt) => string; children: React.ReactNode }) {
  const selected = useSession((s) => s.selected);
  const remembered = useCompare((s) => s.remembered);
  const { data: looks } = useLooks();
  const use = traitUseAt(look, selected);
  const item = 'cursor-pointer px-2 py-1 outline-none data-[highlighted]:bg-well data-[disabled]:opacity-45';
  const choose = (against: Against) => () => compareWith(against);
  return (
    <DropdownMenu.Root>
      <Tool>
        <DropdownMenu.Trigger className="flex max-w-[220px] items-center gap-1 truncate border-l border-[#565c5b] px-2.5 py-1" aria-label={texts.compareWith}>
          <span className="truncate">{children}</span> <ChevronDown size={13} />
        </DropdownMenu.Trigger>
      </Tool>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="z-50 max-h-[60vh] overflow-auto rounded-sm border border-rule bg-panel p-1.5 shadow-lg" align="start" sideOffset={4}>
          <DropdownMenu.Item className={item} onSelect={choose({ kind: 'clean' })}>
            {texts.asShotView}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={!use} onSelect={choose({ kind: 'trait' })}>
            {use ? texts.without(traitName(selected!)) : texts.withoutChosenTrait}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={!use} onSelect={choose({ kind: 'act' })}>
            {use ? texts.withoutAct(ACT_NAMES[actOf(use)]) : texts.withoutItsAct}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={choose({ kind: 'opened' })}>
            {texts.asItWasOpened}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={!remembered} onSelect={choose({ kind: 'remembered' })}>
            {texts.asRemembered}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => remember(useDocument.getState().look)}>
            {texts.rememberHowItIsNow}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={!reference} onSelect={choose({ kind: 'reference' })}>
            {reference ? reference.name : texts.pinnedReference}
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 border-t border-rule" />
          {looks?.map((stored) => (
            <DropdownMenu.Item key={stored.id} className={item} onSelect={choose({ kind: 'look', look: stored.look })}>
              {stored.look.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
