import type { KeyboardEvent, PointerEvent } from 'react';
import { tintOf } from '@tin-ghost/core';
import { useDrag } from '../../parts/use-drag';
import { onGesture } from '../state/document';
import { texts } from '../../messages/card';

const HUES = 24;
const STRENGTHS = 5;
/** Neutral of the chart. */
const GREY = 0.55;

const swatch = (hue: number, size: number): string => {
  const tint = tintOf(Math, (hue * Math.PI) / 180, size);
  return `rgb(${tint.map((v) => Math.round(255 * Math.max(0, Math.min(1, GREY + v)))).join(' ')})`;
};

interface Props {
  name: string;
  hue: number;
  /** 0..1 of `most`. */
  share: number;
  /** Strength at the top of the chart, as a share of full scale. */
  most: number;
  onChange: (hue: number, share: number) => void;
}

/** A card of swatches: neutral along the foot, hues side by side, stronger upwards. A tint is picked where it lies. */
export function TintChart({ name, hue, share, most, onChange }: Props) {
  const pick = (event: PointerEvent): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const x = Math.max(0, Math.min(1, (event.clientX - box.left) / box.width));
    const y = Math.max(0, Math.min(1, 1 - (event.clientY - box.top) / box.height));
    // The lowest row is neutral all along.
    const foot = 1 / (STRENGTHS + 1);
    onChange(Math.round(x * 360), y < foot ? 0 : Math.round(((y - foot) / (1 - foot)) * 1000) / 1000);
  };
  const drag = useDrag({
    start: (event) => {
      pick(event);
      return true;
    },
    move: pick,
    onGesture,
  });
  const onKeyDown = (event: KeyboardEvent): void => {
    const way = { ArrowLeft: [-5, 0], ArrowRight: [5, 0], ArrowUp: [0, 0.02], ArrowDown: [0, -0.02] }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    onChange((hue + way[0]! + 360) % 360, Math.max(0, Math.min(1, Math.round((share + way[1]!) * 1000) / 1000)));
  };
  const foot = 1 / (STRENGTHS + 1);
  return (
    <div
      className="relative my-1 h-[66px] touch-none border border-rule focus-visible:outline-oxide"
      role="slider"
      tabIndex={0}
      aria-label={texts.hueAndStrengthOf(name)}
      aria-valuenow={Math.round(share * 100)}
      aria-valuetext={share === 0 ? texts.neutral : texts.hueAndShare(Math.round(hue), Math.round(share * 100))}
      style={{ display: 'grid', gridTemplateColumns: `repeat(${HUES}, 1fr)`, gridTemplateRows: `repeat(${STRENGTHS + 1}, 1fr)`, cursor: 'crosshair' }}
      {...drag}
      onKeyDown={onKeyDown}
    >
      {Array.from({ length: STRENGTHS }, (_, r) =>
        Array.from({ length: HUES }, (_, h) => <span key={`${r}-${h}`} style={{ background: swatch(((h + 0.5) / HUES) * 360, most * ((STRENGTHS - r) / STRENGTHS)) }} />),
      )}
      <span className="col-span-full grid place-items-center text-[10px] leading-none text-white" style={{ background: swatch(0, 0) }}>
        {texts.neutral}
      </span>
      <span
        className="pointer-events-none absolute h-[11px] w-[11px] -translate-x-1/2 translate-y-1/2 border-2 border-white bg-oxide"
        style={{ left: `${(hue / 360) * 100}%`, bottom: share === 0 ? `${(foot / 2) * 100}%` : `${(foot + share * (1 - foot)) * 100}%` }}
      />
    </div>
  );
}
