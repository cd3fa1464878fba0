import { useEffect, useState } from 'react';
import type { Medium } from '@tin-ghost/contract';
import { useLights } from '../../parts/top-bar';
import { usePainted } from '../../parts/use-painted';
import type { Source } from '../../render/protocol';
import { useStripView } from '../state/strip-view';
import { paintFilmstrip, paintSound, type Part } from './footage-painting';
import { takenPart } from './strip-places';

/** Heights of the filmstrip and of the sound, and the room between them, in pixels. */
const FILMSTRIP = 36;
const BETWEEN = 4;
const SOUND = 32;

/** What of the footage lies on the strip: its pictures, and the shape of its sound. */
export function FootageOnStrip({ medium, source, peaks }: { medium: Medium; source: Source; peaks: readonly number[] | undefined }) {
  const { zoom, from } = useStripView();
  const lit = useLights((s) => s.down);
  const pictures = useImage(source.proxy.made ? `/api/media/${medium.id}/strip` : null);
  const footage = medium.footage!;
  const canvas = usePainted(
    (g, width) => {
      const taken = takenPart(footage.frames, source);
      const at = (share: number): number => taken.from + share * (taken.to - taken.from);
      const part: Part = { from: at(from), to: at(from + 1 / zoom) };
      const shape = footage.stacked ? (2 * footage.width) / footage.height : footage.width / footage.height;
      if (pictures) paintFilmstrip(g, pictures, shape, part, width, FILMSTRIP);
      if (!peaks) return;
      g.fillStyle = getComputedStyle(g.canvas).getPropertyValue('--color-faint');
      paintSound(g, peaks, part, Math.floor(width), FILMSTRIP + BETWEEN, SOUND);
    },
    [pictures, peaks, source, footage, zoom, from, lit],
  );
  return <canvas ref={canvas} aria-hidden data-footage className="absolute inset-0 h-full w-full" />;
}

/** An image, once it is there. */
function useImage(url: string | null): HTMLImageElement | null {
  const [image, setImage] = useState<HTMLImageElement | null>(null);
  useEffect(() => {
    if (url === null) return;
    const loading = new Image();
    let wanted = true;
    loading.onload = () => wanted && setImage(loading);
    loading.src = url;
    return () => {
      wanted = false;
    };
  }, [url]);
  return image;
}
