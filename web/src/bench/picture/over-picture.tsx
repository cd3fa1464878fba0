import type { ReactNode } from 'react';
import { shownSize, type Look } from '@tin-ghost/core';
import type { Source } from '../../render/protocol';

interface OverProps {
  look: Look;
  source: Source;
  children: ReactNode;
}

/** Drawn over what a look shows of the picture, without its bars: 100 by 100, whatever its shape. What takes hold of it does not take hold of the picture. */
export function OverPicture({ look, source, children }: OverProps) {
  const shown = shownSize(look, source);
  const part = { width: shown.width / source.width, height: shown.height / source.height };
  return (
    <div
      className="pointer-events-none absolute"
      onPointerDown={(event) => event.stopPropagation()}
      style={{ left: `${50 * (1 - part.width)}%`, top: `${50 * (1 - part.height)}%`, width: `${100 * part.width}%`, height: `${100 * part.height}%` }}
    >
      <svg className="absolute inset-0 h-full w-full overflow-visible" viewBox="0 0 100 100" preserveAspectRatio="none">
        {children}
      </svg>
    </div>
  );
}

/** A point that is taken hold of, in shares of the picture. @param handle what its holder finds it by */
export function Handle({ handle, x, y, cursor }: { handle: string; x: number; y: number; cursor: string }) {
  // A line without length is as wide as its stroke, whatever the picture's shape.
  return (
    <line
      data-handle={handle}
      className={cursor}
      x1={x * 100}
      y1={y * 100}
      x2={x * 100}
      y2={y * 100}
      stroke="#f4f5f4"
      strokeWidth="9"
      strokeLinecap="square"
      vectorEffect="non-scaling-stroke"
    />
  );
}
