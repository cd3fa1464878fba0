import { useEffect, useRef } from 'react';
import { useLights } from '../../parts/top-bar';
import { usePlayback } from '../state/playback';
import { useStripView } from '../state/strip-view';
import { SHOT_SIDES } from './stretched';

/** The line at the picture that is seen. Drawn: an element that moved would have the browser go through all layers of the page with every picture. */
export function Playhead({ frames }: { frames: number }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const lit = useLights((s) => s.down);
  useEffect(() => {
    const canvas = ref.current!;
    const draw = (): void => {
      const g = canvas.getContext('2d')!;
      const { zoom, from } = useStripView.getState();
      g.clearRect(0, 0, canvas.width, 1);
      g.fillRect(Math.floor(((usePlayback.getState().frame + 0.5) / frames - from) * zoom * canvas.width), 0, 1, 1);
    };
    const observer = new ResizeObserver(() => {
      canvas.width = Math.round(canvas.clientWidth * devicePixelRatio);
      canvas.getContext('2d')!.fillStyle = getComputedStyle(canvas).getPropertyValue('--color-oxide');
      draw();
    });
    observer.observe(canvas);
    const stops = [usePlayback.subscribe((now, before) => now.frame !== before.frame && draw()), useStripView.subscribe(draw)];
    return () => {
      for (const stop of stops) stop();
      observer.disconnect();
    };
  }, [frames, lit]);
  return (
    <canvas
      ref={ref}
      height={1}
      aria-hidden
      data-playhead
      className="pointer-events-none absolute inset-y-0 h-full"
      style={{ left: SHOT_SIDES.left, width: `calc(100% - ${SHOT_SIDES.left + SHOT_SIDES.right}px)` }}
    />
  );
}
