import { useLayoutEffect, useRef, type CSSProperties } from 'react';
import type { Worn } from './protocol';

/** Puts a worn picture on a canvas, pixel for pixel. */
export function paint(canvas: HTMLCanvasElement, worn: Worn): void {
  if (canvas.width !== worn.width) canvas.width = worn.width;
  if (canvas.height !== worn.height) canvas.height = worn.height;
  canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(worn.pixels), worn.width, worn.height), 0, 0);
}

interface Props {
  worn: Worn | null;
  /** Whether it is what was last asked for; until it is, it stands for no answer. */
  current?: boolean;
  className?: string;
  style?: CSSProperties;
  label: string;
}

export function PictureCanvas({ worn, current = true, className, style, label }: Props) {
  const ref = useRef<HTMLCanvasElement>(null);
  // Before the screen is drawn: what is said to be ready is seen.
  useLayoutEffect(() => {
    if (worn && ref.current) paint(ref.current, worn);
  }, [worn]);
  return <canvas ref={ref} className={className} style={style} role="img" aria-label={label} data-ready={worn && current ? '' : undefined} />;
}
