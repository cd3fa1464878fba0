import { Fragment, useRef, type KeyboardEvent } from 'react';
import clsx from 'clsx';
import { traitById, type Look, type Span } from '@tin-ghost/core';
import { usePlates } from '../../api/client';
import { useDrag } from '../../parts/use-drag';
import type { Source } from '../../render/protocol';
import { changeLook, onGesture, useDocument } from '../state/document';
import { sameUse, traitUseAt, type UseAt } from '../state/look-edits';
import { select, useSession } from '../state/session';
import { usePlayback } from '../state/playback';
import type { Clip } from '../state/plate-edits';
import { changeSpell, moveSpell, setSpells } from '../state/spell-edits';
import { BAR, BarHandle } from './bar-handle';
import { LaneRow, LaneRows } from './lane-row';
import { clipOf, PlateParts } from './plate-parts';
import { Stretched } from './stretched';
import { snapped } from './strip-places';
import { texts } from '../../messages/strip';

type Part = 'from' | 'to' | 'in' | 'out' | 'all';

/** Uses that act in spells, and those laid over the picture, which are usually given some. */
const spelled = (look: Look): UseAt[] =>
  look.lives.flatMap((life, l) =>
    life.traits.flatMap((use, index) => (use.on !== false && ((use.when?.length ?? 0) > 0 || traitById(use.trait)?.family === 'laid') ? [{ life: l, index }] : [])),
  );

/** The chosen use's plate as a clip, where it has one that moves. */
function useClip(look: Look): Clip | undefined {
  const use = useSession((s) => traitUseAt(look, s.selected));
  const { data: plates } = usePlates();
  return use?.trait === 'plate' ? clipOf(plates?.find(({ key }) => key !== null && key === use.settings?.plate)) : undefined;
}

/** Below the footage: when traits act that do not act always, as bars with ramps, and the parts of the chosen plate. */
export function Spells({ source }: { source: Source }) {
  const look = useDocument((s) => s.look);
  const uses = spelled(look);
  const selected = useSession((s) => s.selected);
  const clip = useClip(look);
  if (uses.length === 0) return null;
  const lanes = uses.length + (clip ? 1 : 0);
  return (
    <LaneRows name={texts.spells} count={lanes} source={source}>
      {uses.map((at) => (
        <Fragment key={`${at.life}.${at.index}`}>
          <Lane at={at} source={source} />
          {clip && sameUse(at, selected) && (
            <LaneRow name={texts.parts} open>
              <Stretched>
                <PlateParts at={at} clip={clip} source={source} />
              </Stretched>
            </LaneRow>
          )}
        </Fragment>
      ))}
    </LaneRows>
  );
}

function Lane({ at, source }: { at: UseAt; source: Source }) {
  const use = useDocument((s) => traitUseAt(s.look, at));
  const open = useSession((s) => sameUse(s.selected, at));
  const lane = useRef<HTMLDivElement>(null);
  if (!use) return null;
  const seconds = source.frames / source.rate;
  const name = use.name ?? traitById(use.trait)!.name;
  const perPixel = (): number => seconds / lane.current!.getBoundingClientRect().width;
  return (
    <LaneRow name={name} open={open} onName={() => select(at)}>
      <Stretched inner={lane}>
        <div className="absolute inset-0 touch-none" data-spells={use.trait}>
          {(use.when ?? [{ from: 0, to: seconds }]).map((spell, i) => (
            <Bar key={i} at={at} index={i} name={texts.spellOf(name, i + 1)} always={!use.when} spell={spell} seconds={seconds} rate={source.rate} perPixel={perPixel} />
          ))}
        </div>
      </Stretched>
    </LaneRow>
  );
}

interface BarProps {
  at: UseAt;
  index: number;
  name: string;
  /** It acts always: taking hold of it makes a spell of that. */
  always: boolean;
  spell: Span;
  seconds: number;
  rate: number;
  perPixel: () => number;
}

function Bar({ at, index, name, always, spell, seconds, rate, perPixel }: BarProps) {
  const { from, to, in: fadeIn = 0, out = 0 } = spell;
  // One may outlast the shot; of it that part is seen which the shot has.
  const end = Math.min(to, seconds);
  const length = Math.max(0, end - from);
  const fadeOut = Math.max(0, out - (to - end));
  const share = (part: number): string => `${Math.min(1, length > 0 ? part / length : 0) * 100}%`;
  const apply = (part: Part, held: Span, by: number): void => {
    const { look } = useDocument.getState();
    if (part === 'all') return changeLook(moveSpell(look, at, index, held.from + by, seconds, rate));
    const moved: Partial<Span> =
      part === 'from'
        ? { from: Math.min(held.from + by, held.to - 1 / rate) }
        : part === 'to'
          ? { to: held.to + by }
          : part === 'in'
            ? { in: (held.in ?? 0) + by }
            : { out: (held.out ?? 0) - by };
    changeLook(changeSpell(look, at, index, moved, seconds, rate));
  };
  const drag = useDrag({
    slack: 2,
    start: ({ target }) => {
      select(at);
      const { frame, loop } = usePlayback.getState();
      return { part: ((target as HTMLElement).dataset.part ?? 'all') as Part, spell, marks: [frame, ...(loop ? [loop.from, loop.to] : [])].map((n) => n / rate) };
    },
    move: (_, held, { dx }) => {
      if (!traitUseAt(useDocument.getState().look, at)?.when) changeLook(setSpells(useDocument.getState().look, at, [spell]));
      const by = dx * perPixel();
      // An end, or the beginning of all of it, is held by the playhead and by the ends of the loop.
      const edge = held.part === 'to' ? held.spell.to : held.part === 'all' || held.part === 'from' ? held.spell.from : undefined;
      apply(held.part, held.spell, edge === undefined ? by : snapped(edge + by, held.marks, perPixel()) - edge);
    },
    onGesture,
  });
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined || always) return;
    event.preventDefault();
    event.stopPropagation();
    apply(event.altKey ? 'to' : 'all', spell, (event.shiftKey ? by * Math.round(rate) : by) / rate);
  };
  return (
    <div
      {...drag}
      tabIndex={0}
      role="slider"
      aria-label={texts.spellTitle(name)}
      aria-valuemin={0}
      aria-valuemax={seconds}
      aria-valuenow={from}
      aria-valuetext={always ? texts.always : texts.secondsFromTo(from.toFixed(2), to.toFixed(2))}
      onKeyDown={onKeyDown}
      className={BAR}
      style={{ left: `${(from / seconds) * 100}%`, width: `${(length / seconds) * 100}%` }}
    >
      <span
        className={clsx('pointer-events-none absolute inset-0 bg-oxide', always ? 'opacity-25' : 'opacity-55')}
        style={{ clipPath: `polygon(0 100%, ${share(fadeIn)} 0, ${share(length - fadeOut)} 0, 100% ${fadeOut > 0 || to <= seconds ? '100%' : '0'}, 100% 100%)` }}
      />
      {!always && <BarHandle part="in" left={share(fadeIn)} cursor="cursor-ew-resize" />}
      {!always && <BarHandle part="out" left={share(length - fadeOut)} cursor="cursor-ew-resize" />}
      <BarHandle part="from" left="0%" cursor="cursor-w-resize" />
      <BarHandle part="to" left="100%" cursor="cursor-e-resize" />
    </div>
  );
}
