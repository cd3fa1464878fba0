import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { through, type Curve, type CurveSetting } from '@tin-ghost/core';
import { useDrag } from '../../parts/use-drag';
import type { ScopeData } from '../../render/protocol';
import { onGesture } from '../state/document';
import { texts } from '../../messages/card';

const [WIDTH, HEIGHT] = [256, 150];
/** Points stand at least this far apart. */
const APART = 0.01;
const MOST = 16;
const CHANNELS = { luma: 0, red: 1, green: 2, blue: 3 } as const;
const INKS = { luma: 'var(--color-ink)', red: '#8c2f25', green: '#2f6b3c', blue: '#2c4c8c' } as const;
const two = (v: number): number => Math.round(v * 1e4) / 1e4;

/** A curve drawn on the histogram of the picture as it comes to it: click to set a point, drag it, double-click to take it away. */
export function CurveEditor({ setting, value, before, onChange }: { setting: CurveSetting; value: Curve; before?: ScopeData; onChange: (value: Curve | undefined) => void }) {
  const [chosen, setChosen] = useState<number | null>(null);
  const field = useRef<SVGSVGElement>(null);
  const bins = before?.bins[CHANNELS[setting.over]];
  const of = through(value);
  const path = Array.from({ length: 129 }, (_, i) => `${i ? 'L' : 'M'}${(i / 128) * WIDTH} ${HEIGHT - of(i / 128) * HEIGHT}`).join('');
  const hills = bins && `M0 ${HEIGHT}${Array.from(bins, (v, i) => `L${(i / 255) * WIDTH} ${HEIGHT - Math.sqrt(v) * HEIGHT * 0.94}`).join('')}L${WIDTH} ${HEIGHT}Z`;

  const placeOf = (event: PointerEvent): [number, number] => {
    const box = field.current!.getBoundingClientRect();
    return [Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)), Math.max(0, Math.min(1, 1 - (event.clientY - box.top) / box.height))];
  };
  const put = (i: number, [x, y]: readonly [number, number]): void => {
    // Ends keep to their sides, all others between their neighbours.
    const low = i === 0 ? 0 : value[i - 1]![0] + APART;
    const high = i === value.length - 1 ? 1 : value[i + 1]![0] - APART;
    onChange(value.map((p, k) => (k === i ? [two(Math.max(low, Math.min(high, x))), two(Math.max(0, Math.min(1, y)))] : p)));
  };
  /** The point under the pointer, or a new one there. */
  const take = (event: PointerEvent): number | undefined => {
    const [x, y] = placeOf(event);
    const near = value.findIndex(([px, py]) => Math.hypot((px - x) * WIDTH, (py - y) * HEIGHT) < 10);
    if (near >= 0) return near;
    if (value.length >= MOST || value.some(([px]) => Math.abs(px - x) < APART)) return undefined;
    const next = [...value, [two(x), two(y)] as const].sort((a, b) => a[0] - b[0]);
    onChange(next);
    return next.findIndex(([px]) => px === two(x));
  };
  const drag = useDrag({
    start: (event) => {
      const point = take(event);
      setChosen(point ?? null);
      return point;
    },
    move: (event, point) => put(point, placeOf(event)),
    onGesture,
  });
  const remove = (i: number): void => {
    if (value.length <= 2) return;
    setChosen(null);
    onChange(value.filter((_, k) => k !== i));
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key === 'Tab' || chosen === null) return;
    const step = event.shiftKey ? 0.05 : event.altKey ? 0.001 : 0.01;
    const way = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key];
    const point = value[chosen];
    if (way && point) put(chosen, [point[0] + way[0]!, point[1] + way[1]!]);
    else if (event.key === 'Delete' || event.key === 'Backspace') remove(chosen);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const point = chosen === null ? undefined : value[chosen];
  const type = (axis: 0 | 1, text: string): void => {
    const typed = Number(text);
    if (point && text.trim() !== '' && Number.isFinite(typed)) put(chosen!, axis === 0 ? [typed / 100, point[1]] : [point[0], typed / 100]);
  };
  const numberClass = 'mono w-[58px] rounded-sm border border-rule bg-well px-1 text-right';
  return (
    <div className="py-1.5" title={setting.says} data-setting={setting.name}>
      <div className="mb-1 flex items-baseline gap-2">
        <span className="flex-1" onDoubleClick={() => onChange(undefined)}>
          {setting.name}
        </span>
        {point ? (
          <>
            <input
              key={`x${chosen}${point[0]}`}
              aria-label={texts.inOfPoint(setting.name, chosen! + 1)}
              className={numberClass}
              defaultValue={(point[0] * 100).toFixed(1)}
              onBlur={(e) => type(0, e.currentTarget.value)}
              onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
            />
            <span className="text-faint">{texts.to}</span>
            <input
              key={`y${chosen}${point[1]}`}
              aria-label={texts.outOfPoint(setting.name, chosen! + 1)}
              className={numberClass}
              defaultValue={(point[1] * 100).toFixed(1)}
              onBlur={(e) => type(1, e.currentTarget.value)}
              onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
            />
          </>
        ) : (
          <span className="text-[13px] text-faint">{texts.clickToSetPoint}</span>
        )}
      </div>
      <svg
        ref={field}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full touch-none border border-rule bg-well"
        style={{ aspectRatio: `${WIDTH} / ${HEIGHT}`, cursor: 'crosshair' }}
        tabIndex={0}
        role="application"
        aria-label={texts.curveOfPoints(setting.name, value.length)}
        {...drag}
        onDoubleClick={() => chosen !== null && remove(chosen)}
        onKeyDown={onKeyDown}
      >
        {hills && <path d={hills} fill="var(--color-rule)" />}
        {[0.25, 0.5, 0.75].map((t) => (
          <g key={t} stroke="var(--color-rule)" strokeWidth="0.6">
            <line x1={t * WIDTH} x2={t * WIDTH} y1="0" y2={HEIGHT} />
            <line x1="0" x2={WIDTH} y1={t * HEIGHT} y2={t * HEIGHT} />
          </g>
        ))}
        <path d={path} fill="none" stroke={INKS[setting.over]} strokeWidth="1.6" />
        {value.map(([x, y], i) => (
          <rect
            key={i}
            x={x * WIDTH - 3.5}
            y={HEIGHT - y * HEIGHT - 3.5}
            width="7"
            height="7"
            fill={i === chosen ? 'var(--color-oxide)' : 'var(--color-panel)'}
            stroke={i === chosen ? 'var(--color-oxide)' : 'var(--color-ink)'}
          />
        ))}
      </svg>
    </div>
  );
}
