import { useEffect, useRef, type RefObject } from 'react';

/**
 * Keeps a canvas painted: at once, and when its size changes. It has the pixels of the screen.
 * @param paint draws in pixels of the page; what was there is gone @param again what else it depends on
 * @returns for the canvas
 */
export function usePainted(paint: (g: CanvasRenderingContext2D, width: number, height: number) => void, again: readonly unknown[]): RefObject<HTMLCanvasElement | null> {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current!;
    const draw = (): void => {
      const scale = window.devicePixelRatio || 1;
      const { clientWidth: width, clientHeight: height } = element;
      element.width = Math.round(width * scale);
      element.height = Math.round(height * scale);
      const g = element.getContext('2d')!;
      g.scale(scale, scale);
      paint(g, width, height);
    };
    draw();
    // It tells the size once when it begins, too.
    let [width, height] = [element.clientWidth, element.clientHeight];
    const observer = new ResizeObserver(() => {
      if (element.clientWidth === width && element.clientHeight === height) return;
      [width, height] = [element.clientWidth, element.clientHeight];
      draw();
    });
    observer.observe(element);
    return () => observer.disconnect();
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, again);
  return canvas;
}
