import type { KeyboardEvent, PointerEvent } from 'react';
import { useDrag } from '../../parts/use-drag';
import { moveWipe, useCompare } from '../state/compare';
import { texts } from '../../messages/picture';

const STEP = 0.02;
const TURN = 5;

/** The line between two pictures: dragged by its middle, turned by its end, or both with the arrow keys. */
export function WipeLine() {
  const line = useCompare((s) => s.line);
  const within = (v: number): number => Math.max(0, Math.min(1, v));

  const move = (event: PointerEvent): void => {
    const box = event.currentTarget.parentElement!.parentElement!.getBoundingClientRect();
    moveWipe({ x: within((event.clientX - box.left) / box.width), y: within((event.clientY - box.top) / box.height) });
  };
  const turn = (event: PointerEvent): void => {
    const box = event.currentTarget.parentElement!.parentElement!.getBoundingClientRect();
    const [dx, dy] = [event.clientX - box.left - line.x * box.width, event.clientY - box.top - line.y * box.height];
    const angle = Math.round((Math.atan2(dx, -dy) * 180) / Math.PI);
    // Upright and level hold the line a little.
    const near = Math.round(angle / 90) * 90;
    moveWipe({ angle: Math.abs(angle - near) < 4 ? near : angle });
  };
  const take = (event: PointerEvent): true => {
    // At 1:1 the picture below would be moved.
    event.stopPropagation();
    return true;
  };
  const [middle, end] = [useDrag({ start: take, move }), useDrag({ start: take, move: turn })];
  const onKeyDown = (event: KeyboardEvent): void => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.shiftKey) moveWipe({ angle: line.angle + (way[0]! || way[1]!) * TURN });
    else moveWipe({ x: within(line.x + way[0]! * STEP), y: within(line.y + way[1]! * STEP) });
  };
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      <div className="absolute" style={{ left: `${line.x * 100}%`, top: `${line.y * 100}%`, transform: `rotate(${line.angle}deg)` }}>
        <span className="absolute -top-[2000px] left-0 h-[4000px] w-px bg-[#f4f5f4] outline-1 outline-[#1b1e1f]" />
      </div>
      <button
        type="button"
        data-handle
        aria-label={texts.wipingLineHandle}
        className="pointer-events-auto absolute h-[18px] w-[18px] -translate-x-1/2 -translate-y-1/2 touch-none rounded-full border-2 border-[#f4f5f4] bg-oxide"
        style={{ left: `${line.x * 100}%`, top: `${line.y * 100}%` }}
        {...middle}
        onKeyDown={onKeyDown}
      />
      <button
        type="button"
        data-handle
        tabIndex={-1}
        aria-label={texts.turnWipingLine}
        className="pointer-events-auto absolute h-[14px] w-[14px] touch-none rounded-[2px] border-2 border-[#f4f5f4] bg-[#1b1e1f]"
        style={{
          left: `calc(${line.x * 100}% + ${Math.sin((line.angle * Math.PI) / 180) * 90 - 7}px)`,
          top: `calc(${line.y * 100}% - ${Math.cos((line.angle * Math.PI) / 180) * 90 + 7}px)`,
        }}
        {...end}
      />
    </div>
  );
}
