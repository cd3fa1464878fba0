import type { KeyboardEvent } from 'react';
import { useDrag } from '../parts/use-drag';
import { LIMITS, setWidth, USUAL, useWidths, type Side } from './state/widths';
import { texts } from '../messages/bench';

const NAMES: Record<Side, string> = { shots: texts.widthOfShots, card: texts.widthOfCard };
/** Pixels that an arrow moves it. */
const STEP = 16;

/** The edge of a column: dragged, moved by arrows, back to where it was by a double click. */
export function SideHandle({ side }: { side: Side }) {
  const width = useWidths((w) => w[side]);
  // The card lies to the right of its edge.
  const way = side === 'card' ? -1 : 1;
  const drag = useDrag({
    start: () => useWidths.getState()[side],
    move: (_, from, { dx }) => setWidth(side, from + way * dx),
  });
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
    if (by === undefined || event.altKey || event.ctrlKey) return;
    event.preventDefault();
    event.stopPropagation();
    setWidth(side, width + way * by);
  };
  return (
    <div className={`relative z-10 w-0 shrink-0 ${side === 'shots' ? 'max-[901px]:hidden' : ''}`}>
      <div
        {...drag}
        role="separator"
        tabIndex={0}
        aria-orientation="vertical"
        aria-label={NAMES[side]}
        aria-valuemin={LIMITS[side].min}
        aria-valuemax={LIMITS[side].max}
        aria-valuenow={width}
        title={texts.dragSide(NAMES[side])}
        onKeyDown={onKeyDown}
        onDoubleClick={() => setWidth(side, USUAL[side])}
        className="absolute inset-y-0 -left-[4px] w-[8px] cursor-col-resize touch-none hover:bg-oxide/30 focus-visible:bg-oxide/40"
      />
    </div>
  );
}
