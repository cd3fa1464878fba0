import { useEffect, useState, type KeyboardEvent } from 'react';
import { traitById, type Look, type NumberSetting } from '@tin-ghost/core';
import { useDrag } from '../../parts/use-drag';
import { useLatest } from '../../render/latest';
import { preview } from '../../render/preview';
import type { Source, WantLaid } from '../../render/protocol';
import { changeLook, onGesture, useDocument } from '../state/document';
import { traitUseAt, type UseAt } from '../state/look-edits';
import { changeValue } from '../state/motion-edits';
import { usePlayback } from '../state/playback';
import { Handle, OverPicture } from './over-picture';
import { snapped, snapPlaces } from './snapping';
import { texts } from '../../messages/picture';

type Corner = readonly [number, number];

/** Where what is laid over the picture stands at the moment that is seen; none where it is not drawn. */
function useCorners(source: Source, look: Look, { life, index }: UseAt, n: number): readonly Corner[] {
  const [corners, setCorners] = useState<readonly Corner[]>([]);
  const ask = useLatest((order: WantLaid) =>
    preview()
      .ask(order)
      .then(setCorners, () => undefined),
  );
  const { width, height, rate } = source;
  useEffect(() => ask({ kind: 'laid', look, life, index, n, rate, width, height }), [ask, look, life, index, n, rate, width, height]);
  return corners;
}

/** What scales it. */
const SCALED_BY: Readonly<Record<string, string>> = { caption: 'size', plate: 'scale' };

/** A number of a use, as its card has it where nothing moves it. */
function valueOf(look: Look, at: UseAt, key: string): number {
  const use = traitUseAt(look, at)!;
  return (use.settings?.[key] as number | undefined) ?? settingOf(use.trait, key).default;
}
const settingOf = (trait: string, key: string): NumberSetting => (traitById(trait)!.settings as Record<string, NumberSetting>)[key]!;

/** How near to a line a text takes its place, in pixels of the screen. */
const SNAP = 7;
/** Turned nearly upright or level, in degrees, it is so. */
const UPRIGHT: readonly number[] = [-180, -90, 0, 90, 180];
const TURN_SNAP = 2;
/** Length of the handle's stem, in hundredths of the picture. */
const STEM = 6;
const round = (v: number): number => Math.round(v * 100) / 100;

/** Over the picture: what is laid there and chosen is dragged to its place, scaled by its corners, turned by the handle above it; Alt leaves out snapping. */
export function LaidOverlay({ at, source }: { at: UseAt; source: Source }) {
  const look = useDocument((s) => s.look);
  const n = usePlayback((s) => (s.playing ? s.begunAt : s.frame));
  const corners = useCorners(source, look, at, n);
  const [lines, setLines] = useState<{ x?: number; y?: number }>({});
  const now = (): Look => useDocument.getState().look;
  const seconds = n / source.rate;
  const place = (values: Readonly<Record<string, number>>): void =>
    changeLook(Object.entries(values).reduce((made, [key, value]) => changeValue(made, at, key, round(value), seconds), now()));

  const { trait } = traitUseAt(look, at)!;
  const scaledBy = SCALED_BY[trait]!;
  const drag = useDrag({
    slack: 2,
    start: ({ target, currentTarget }) => ({
      by: (target as HTMLElement).dataset.handle,
      x: valueOf(now(), at, 'x'),
      y: valueOf(now(), at, 'y'),
      size: valueOf(now(), at, scaledBy),
      turn: valueOf(now(), at, 'turn'),
      middle: centre(corners),
      box: (currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect(),
    }),
    move: (event, { by, x, y, size, turn, middle, box }, { dx, dy }) => {
      const away = (px: number, py: number): readonly [number, number] => [px - (box.left + middle[0] * box.width), py - (box.top + middle[1] * box.height)];
      const [from, to] = [away(event.clientX - dx, event.clientY - dy), away(event.clientX, event.clientY)];
      if (by === 'turn') {
        const by = ((Math.atan2(to[1], to[0]) - Math.atan2(from[1], from[0])) * 180) / Math.PI;
        const whole = ((turn + by + 540) % 360) - 180;
        return place({ turn: event.altKey ? whole : snapped(whole, UPRIGHT, TURN_SNAP).value });
      }
      if (by === 'scale') {
        const { min, max } = settingOf(trait, scaledBy);
        return place({ [scaledBy]: Math.max(min, Math.min(max, (size * Math.hypot(...to)) / Math.max(8, Math.hypot(...from)))) });
      }
      const near = event.altKey ? 0 : SNAP * 100;
      const across = snapped(x + (dx / box.width) * 100, snapPlaces, near / box.width);
      const down = snapped(y + (dy / box.height) * 100, snapPlaces, near / box.height);
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
      place({ x: valueOf(now(), at, 'x') + way[0]! * step, y: valueOf(now(), at, 'y') + way[1]! * step });
    } else if (event.key === 'Enter' && trait === 'caption') write();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  if (corners.length === 0) return null;
  const points = corners.map(([x, y]) => `${x * 100},${y * 100}`).join(' ');
  return (
    <OverPicture look={look} source={source}>
      {lines.x !== undefined && <Line x1={lines.x} x2={lines.x} y1={0} y2={100} />}
      {lines.y !== undefined && <Line x1={0} x2={100} y1={lines.y} y2={lines.y} />}
      <g
        {...drag}
        tabIndex={0}
        role="application"
        aria-label={texts.laidOverPicture(traitById(trait)!.name, trait === 'caption')}
        data-laid={trait}
        className="pointer-events-auto cursor-move touch-none outline-none focus-visible:[&>polygon]:stroke-[#e86b3a]"
        onKeyDown={onKeyDown}
        onDoubleClick={trait === 'caption' ? write : undefined}
      >
        <polygon points={points} fill="transparent" stroke="#1b1e1f" strokeWidth="3" vectorEffect="non-scaling-stroke" opacity="0.45" />
        <polygon points={points} fill="transparent" stroke="#f4f5f4" strokeWidth="1" strokeDasharray="5 4" vectorEffect="non-scaling-stroke" />
        <line {...stem(corners)} stroke="#f4f5f4" strokeWidth="1" vectorEffect="non-scaling-stroke" />
        <line
          data-handle="turn"
          className="cursor-grab"
          {...stem(corners)}
          x1={stem(corners).x2}
          y1={stem(corners).y2}
          stroke="#f4f5f4"
          strokeWidth="11"
          strokeLinecap="round"
          vectorEffect="non-scaling-stroke"
        />
        {corners.map(([x, y], i) => (
          <Handle key={i} handle="scale" x={x} y={y} cursor="cursor-nwse-resize" />
        ))}
      </g>
    </OverPicture>
  );
}

/** From the middle of its upper side to a handle above it; inside of it where that would be out of the picture, or at its edge, where the view's own buttons are. */
function stem([a, b, , d]: readonly Corner[]): { x1: number; y1: number; x2: number; y2: number } {
  const [x, y] = [50 * (a![0] + b![0]), 50 * (a![1] + b![1])];
  const [upX, upY] = [a![0] - d![0], a![1] - d![1]];
  const long = Math.hypot(upX, upY) || 1;
  const at = (way: number): readonly [number, number] => [x + (way * STEM * upX) / long, y + (way * STEM * upY) / long];
  const within = ([u, v]: readonly [number, number]): boolean => Math.min(u, v) > 2 * STEM && Math.max(u, v) < 100 - STEM;
  const [x2, y2] = within(at(1)) ? at(1) : at(-2);
  return { x1: x, y1: y, x2, y2 };
}

const centre = (corners: readonly Corner[]): Corner => [corners.reduce((sum, [x]) => sum + x, 0) / corners.length, corners.reduce((sum, [, y]) => sum + y, 0) / corners.length];

/** To the words on the card. */
function write(): void {
  document.querySelector<HTMLTextAreaElement>('#card textarea')?.focus();
}

function Line(at: { x1: number; y1: number; x2: number; y2: number }) {
  return <line {...at} stroke="#e86b3a" strokeWidth="1" vectorEffect="non-scaling-stroke" data-snap />;
}
