import type { KeyboardEvent } from 'react';
import type { ZoneShape } from '@tin-ghost/core';
import { useDrag } from '../../parts/use-drag';
import type { Source } from '../../render/protocol';
import { changeLook, onGesture, useDocument } from '../state/document';
import type { UseAt } from '../state/look-edits';
import { usePlayback } from '../state/playback';
import { useSession } from '../state/session';
import { placeZone, shapeAt } from '../state/zone-edits';
import { Handle, OverPicture } from './over-picture';
import { texts } from '../../messages/picture';

/** Handles: which way each stands from the middle. */
const HANDLES = [
  [1, 0],
  [-1, 0],
  [0, 1],
  [0, -1],
] as const;
/** An arrow moves it by this share of the picture. */
const STEP = 0.005;

/** Over the picture: the ellipse in which the chosen trait acts, or which it leaves clean; it is drawn, dragged to its place, and its handles make it wider and higher. */
export function ZoneOverlay({ at, source }: { at: UseAt; source: Source }) {
  const look = useDocument((s) => s.look);
  const seconds = usePlayback((s) => (s.playing ? s.begunAt : s.frame)) / source.rate;
  const shape = shapeAt(look, at, seconds);
  const drawing = useSession((s) => s.drawing);
  const place = (more: Partial<ZoneShape>, from: ZoneShape): void => changeLook(placeZone(useDocument.getState().look, at, { ...from, ...more }, seconds));
  const drag = useDrag({
    slack: 2,
    start: ({ target, currentTarget }) => ({
      by: (target as HTMLElement).dataset.handle,
      from: shape!,
      box: (currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect(),
    }),
    move: (_, { by, from, box }, { dx, dy }) => {
      const [x, y] = [dx / box.width, dy / box.height];
      if (by === undefined) place({ x: from.x + x, y: from.y + y }, from);
      else {
        const [across, down] = HANDLES[Number(by)]!;
        place(across ? { across: from.across + across * x } : { down: from.down + down * y }, from);
      }
    },
    onGesture,
  });
  if (!shape) return null;
  const onKeyDown = (event: KeyboardEvent): void => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    const [x, y] = way.map((v) => v * STEP * (event.shiftKey ? 10 : 1)) as [number, number];
    place(event.altKey ? { across: shape.across + x, down: shape.down - y } : { x: shape.x + x, y: shape.y + y }, shape);
    event.preventDefault();
    event.stopPropagation();
  };
  const ellipse = { cx: shape.x * 100, cy: shape.y * 100 };
  const inner = 1 - shape.soft;
  return (
    <OverPicture look={look} source={source}>
      <g
        {...drag}
        tabIndex={0}
        role="application"
        aria-label={texts.zoneDrag}
        data-zone
        className="pointer-events-auto cursor-move touch-none outline-none focus-visible:[&>ellipse]:stroke-[#e86b3a]"
        onKeyDown={onKeyDown}
      >
        <ellipse {...ellipse} rx={shape.across * 100} ry={shape.down * 100} fill="transparent" stroke="#1b1e1f" strokeWidth="3" vectorEffect="non-scaling-stroke" opacity="0.45" />
        <ellipse {...ellipse} rx={shape.across * 100} ry={shape.down * 100} fill="none" stroke="#f4f5f4" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />
        <ellipse
          {...ellipse}
          rx={shape.across * inner * 100}
          ry={shape.down * inner * 100}
          fill="none"
          stroke="#f4f5f4"
          strokeWidth="1"
          strokeDasharray="2 4"
          vectorEffect="non-scaling-stroke"
        />
        {!drawing &&
          HANDLES.map(([x, y], i) => (
            <Handle key={i} handle={String(i)} x={shape.x + x * shape.across} y={shape.y + y * shape.down} cursor={x ? 'cursor-ew-resize' : 'cursor-ns-resize'} />
          ))}
      </g>
    </OverPicture>
  );
}
