import { useEffect, useRef, type CSSProperties } from 'react';
import type { Worn } from './protocol';

/** Puts a worn picture on a canvas, pixel for pixel. */
export function paint(canvas: HTMLCanvasElement, worn: Worn): void {
  if (canvas.width !== worn.width) canvas.width = worn.width;
  if (canvas.height !== worn.height) canvas.height = worn.height;
  canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(worn.pixels), worn.width, worn.height), 0, 0);
}

export function PictureCanvas({ worn, className, style, label }: { worn: Worn | null; className?: string; style?: CSSProperties; label: string }) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (worn && ref.current) paint(ref.current, worn);
  }, [worn]);
  return <canvas ref={ref} className={className} style={style} role="img" aria-label={label} data-ready={worn ? '' : undefined} />;
}
