import { useEffect, useState, type KeyboardEvent } from 'react';
import { shownSize, type Look } from '@tin-ghost/core';
import { useDrag } from '../../parts/use-drag';
import { useLatest } from '../../render/latest';
import { preview } from '../../render/preview';
import type { Source, WantCaption } from '../../render/protocol';
import { changeLook, onGesture, useDocument } from '../state/document';
import { traitUseAt, type UseAt } from '../state/look-edits';
import { changeValue } from '../state/motion-edits';
import { usePlayback } from '../state/playback';
import { snapped, snapPlaces } from './snapping';

type Corner = readonly [number, number];

/** Where the text of a caption stands in the picture at the moment that is seen; none where it is not drawn. */
function useCorners(source: Source, look: Look, { life, index }: UseAt, n: number): readonly Corner[] {
  const [corners, setCorners] = useState<readonly Corner[]>([]);
  const ask = useLatest((order: WantCaption) =>
    preview()
      .ask(order)
      .then(setCorners, () => undefined),
  );
  const { width, height, rate } = source;
  useEffect(() => ask({ kind: 'caption', look, life, index, n, rate, width, height }), [ask, look, life, index, n, rate, width, height]);
  return corners;
}

/** The setting of a caption at this moment, as its card has it. */
const valueOf = (look: Look, at: UseAt, key: string, rest: number): number => (traitUseAt(look, at)?.settings?.[key] as number | undefined) ?? rest;

/** How near to a line a text takes its place, in pixels of the screen. */
const SNAP = 7;
const round = (v: number): number => Math.round(v * 100) / 100;

/** Over the picture: the chosen caption is dragged to its place and scaled by its corners; Alt leaves out snapping. */
export function CaptionOverlay({ at, source }: { at: UseAt; source: Source }) {
  const look = useDocument((s) => s.look);
  const n = usePlayback((s) => (s.playing ? s.begunAt : s.frame));
  const corners = useCorners(source, look, at, n);
  const [lines, setLines] = useState<{ x?: number; y?: number }>({});
  const shown = shownSize(look, source);
  const part = { width: shown.width / source.width, height: shown.height / source.height };
  const now = (): Look => useDocument.getState().look;
  const seconds = n / source.rate;
  const place = (values: Readonly<Record<string, number>>): void =>
    changeLook(Object.entries(values).reduce((made, [key, value]) => changeValue(made, at, key, round(value), seconds), now()));

  const drag = useDrag({
    slack: 2,
    start: ({ target, currentTarget }) => ({
      scaling: (target as Element).hasAttribute('data-corner'),
      x: valueOf(now(), at, 'x', 50),
      y: valueOf(now(), at, 'y', 50),
      size: valueOf(now(), at, 'size', 7),
      middle: centre(corners),
      box: (currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect(),
    }),
    move: (event, { scaling, x, y, size, middle, box }, { dx, dy }) => {
      if (scaling) {
        const far = (px: number, py: number): number => Math.hypot(px - (box.left + middle[0] * box.width), py - (box.top + middle[1] * box.height));
        const before = Math.max(8, far(event.clientX - dx, event.clientY - dy));
        return place({ size: Math.max(0.5, Math.min(60, (size * far(event.clientX, event.clientY)) / before)) });
      }
      const [wantX, wantY] = [x + (dx / box.width) * 100, y + (dy / box.height) * 100];
      const near = event.altKey ? 0 : 1;
      const across = snapped(wantX, snapPlaces, (near * SNAP * 100) / box.width);
      const down = snapped(wantY, snapPlaces, (near * SNAP * 100) / box.height);
      setLines({ x: across.line, y: down.line });
      place({ x: across.value, y: down.value });
    },
    end: () => setLines({}),
    onGesture,
  });
  const onKeyDown = (event: KeyboardEvent): void => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (way) {
      const step = event.shiftKey ? 1 : 0.1;
      place({ x: valueOf(now(), at, 'x', 50) + way[0]! * step, y: valueOf(now(), at, 'y', 50) + way[1]! * step });
    } else if (event.key === 'Enter') write();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  if (corners.length === 0) return null;
  const points = corners.map(([x, y]) => `${x * 100},${y * 100}`).join(' ');
  return (
    <div
      className="pointer-events-none absolute"
      style={{ left: `${50 * (1 - part.width)}%`, top: `${50 * (1 - part.height)}%`, width: `${100 * part.width}%`, height: `${100 * part.height}%` }}
    >
      <svg className="absolute inset-0 h-full w-full overflow-visible" viewBox="0 0 100 100" preserveAspectRatio="none">
        {lines.x !== undefined && <Line x1={lines.x} x2={lines.x} y1={0} y2={100} />}
        {lines.y !== undefined && <Line x1={0} x2={100} y1={lines.y} y2={lines.y} />}
        <g
          {...drag}
          tabIndex={0}
          role="application"
          aria-label="Caption: drag it to its place, its corners scale it, arrows move it, Enter writes"
          data-caption
          className="pointer-events-auto cursor-move touch-none outline-none focus-visible:[&>polygon]:stroke-[#e86b3a]"
          onKeyDown={onKeyDown}
          onDoubleClick={write}
        >
          <polygon points={points} fill="transparent" stroke="#1b1e1f" strokeWidth="3" vectorEffect="non-scaling-stroke" opacity="0.45" />
          <polygon points={points} fill="transparent" stroke="#f4f5f4" strokeWidth="1" strokeDasharray="5 4" vectorEffect="non-scaling-stroke" />
          {corners.map(([x, y], i) => (
            // A line without length is as wide as its stroke, whatever the picture's shape.
            <line
              key={i}
              data-corner={i}
              className="cursor-nwse-resize"
              x1={x * 100}
              y1={y * 100}
              x2={x * 100}
              y2={y * 100}
              stroke="#f4f5f4"
              strokeWidth="9"
              strokeLinecap="square"
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </g>
      </svg>
    </div>
  );
}

const centre = (corners: readonly Corner[]): Corner => [corners.reduce((sum, [x]) => sum + x, 0) / corners.length, corners.reduce((sum, [, y]) => sum + y, 0) / corners.length];

/** To the words on the card. */
function write(): void {
  document.querySelector<HTMLTextAreaElement>('[aria-label="Card"] textarea')?.focus();
}

function Line(at: { x1: number; y1: number; x2: number; y2: number }) {
  return <line {...at} stroke="#e86b3a" strokeWidth="1" vectorEffect="non-scaling-stroke" data-snap />;
}
