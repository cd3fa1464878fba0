import type { ListedEvent } from '@tin-ghost/core';
import { isMuted } from '../state/event-edits';

/** Marks: a bar as long as its event; hollow where muted, with a head where pinned, ink where a hand changed it. */
export function paintLane(canvas: HTMLCanvasElement, events: readonly ListedEvent[], seconds: number, selected: string | null, changed: (id: string) => boolean): void {
  const scale = window.devicePixelRatio || 1;
  const { clientWidth: width, clientHeight: height } = canvas;
  canvas.width = Math.round(width * scale);
  canvas.height = Math.round(height * scale);
  const g = canvas.getContext('2d')!;
  g.scale(scale, scale);
  const style = getComputedStyle(canvas);
  const [rule, oxide, ink, faint] = ['rule', 'oxide', 'ink', 'faint'].map((name) => style.getPropertyValue(`--color-${name}`)) as [string, string, string, string];
  const middle = Math.round(height / 2);
  g.fillStyle = rule;
  g.fillRect(0, middle, width, 1);
  for (const event of [...events].sort((a, b) => Number(a.id === selected) - Number(b.id === selected))) {
    const x = (event.at / seconds) * width;
    const long = Math.max(2, (event.length / seconds) * width);
    const tall = isMuted(event) ? 4 : Math.max(4, Math.min(height - 4, 9 * Math.sqrt(Math.min(2, event.scale))));
    const tone = event.id === selected ? oxide : event.pinned || changed(event.id) ? ink : faint;
    g.fillStyle = g.strokeStyle = tone;
    if (isMuted(event)) g.strokeRect(x + 0.5, middle - tall / 2 + 0.5, Math.max(3, long), tall);
    else {
      g.globalAlpha = event.id === selected ? 1 : long > 4 ? 0.55 : 0.8;
      g.fillRect(x, middle - tall / 2, long, tall);
      g.globalAlpha = 1;
    }
    if (event.pinned) {
      g.beginPath();
      g.arc(x + 1, middle - tall / 2, 2.5, 0, 2 * Math.PI);
      g.fill();
    }
  }
}
