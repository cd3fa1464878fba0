import { Fragment, useRef, type KeyboardEvent } from 'react';
import clsx from 'clsx';
import { traitById, type Look, type Span } from '@tin-ghost/core';
import { usePlates } from '../../api/client';
import { useDrag } from '../../parts/use-drag';
import type { Source } from '../../render/protocol';
import { changeLook, onGesture, useDocument } from '../state/document';
import { sameUse, traitUseAt, type UseAt } from '../state/look-edits';
import { select, useSession } from '../state/session';
import type { Clip } from '../state/plate-edits';
import { changeSpell, moveSpell, setSpells } from '../state/spell-edits';
import { BAR, BarHandle } from './bar-handle';
import { clipOf, PlateParts } from './plate-parts';

const LANE = 19;
const LANES_SEEN = 4;

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
export function Spells({ source, margin }: { source: Source; margin: number }) {
  const look = useDocument((s) => s.look);
  const uses = spelled(look);
  const selected = useSession((s) => s.selected);
  const clip = useClip(look);
  if (uses.length === 0) return null;
  const lanes = uses.length + (clip ? 1 : 0);
  return (
    <div className="shrink-0 overflow-y-auto border-t border-rule" style={{ height: Math.min(lanes, LANES_SEEN) * LANE + 1 }} role="group" aria-label="Spells">
      {uses.map((at) => (
        <Fragment key={`${at.life}.${at.index}`}>
          <Lane at={at} source={source} margin={margin} />
          {clip && sameUse(at, selected) && (
            <div className="relative bg-tin" style={{ height: LANE }}>
              <span className="absolute inset-y-0 left-0 border-r border-rule pl-4 text-[12px] leading-4 text-faint" style={{ width: margin }}>
                parts
              </span>
              <div className="absolute inset-y-0 right-3 touch-none" style={{ left: margin + 10 }}>
                <PlateParts at={at} clip={clip} source={source} />
              </div>
            </div>
          )}
        </Fragment>
      ))}
    </div>
  );
}

function Lane({ at, source, margin }: { at: UseAt; source: Source; margin: number }) {
  const use = useDocument((s) => traitUseAt(s.look, at));
  const open = useSession((s) => sameUse(s.selected, at));
  const lane = useRef<HTMLDivElement>(null);
  if (!use) return null;
  const seconds = source.frames / source.rate;
  const name = use.name ?? traitById(use.trait)!.name;
  const perPixel = (): number => seconds / lane.current!.getBoundingClientRect().width;
  return (
    <div className={clsx('relative', open && 'bg-tin')} style={{ height: LANE }}>
      <button
        type="button"
        onClick={() => select(at)}
        className={clsx('absolute inset-y-0 left-0 truncate border-r border-rule px-2 text-left text-[12px] leading-4', open ? 'text-oxide' : 'text-faint')}
        style={{ width: margin }}
      >
        {name}
      </button>
      <div ref={lane} className="absolute inset-y-0 right-3 touch-none" style={{ left: margin + 10 }} data-spells={use.trait}>
        {(use.when ?? [{ from: 0, to: seconds }]).map((spell, i) => (
          <Bar key={i} at={at} index={i} name={`${name}, spell ${i + 1}`} always={!use.when} spell={spell} seconds={seconds} rate={source.rate} perPixel={perPixel} />
        ))}
      </div>
    </div>
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
      return { part: ((target as HTMLElement).dataset.part ?? 'all') as Part, spell };
    },
    move: (_, held, { dx }) => {
      if (!traitUseAt(useDocument.getState().look, at)?.when) changeLook(setSpells(useDocument.getState().look, at, [spell]));
      apply(held.part, held.spell, dx * perPixel());
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
      aria-label={`${name}: arrows move it, with Alt its end`}
      aria-valuemin={0}
      aria-valuemax={seconds}
      aria-valuenow={from}
      aria-valuetext={always ? 'always' : `from ${from.toFixed(2)} to ${to.toFixed(2)} s`}
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
