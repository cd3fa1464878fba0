/** A stretch, as shares of a whole. */
export interface Part {
  readonly from: number;
  readonly to: number;
}

/**
 * The filmstrip of footage, in frames of its own shape. Which picture stands where belongs to the footage, not to the part that is seen, so
 * that nothing swims while it is scrolled.
 * @param pictures of the filmstrip, side by side @param part of the footage that fills the width
 */
export function paintFilmstrip(g: CanvasRenderingContext2D, pictures: HTMLImageElement, shape: number, part: Part, width: number, height: number): void {
  const count = Math.max(1, Math.round(pictures.naturalWidth / (pictures.naturalHeight * shape)));
  const [wide, tall] = [pictures.naturalWidth / count, pictures.naturalHeight];
  const frame = height * shape;
  /** Pixels of the whole footage at this size, in whole frames. */
  const whole = Math.max(1, Math.round(width / (part.to - part.from) / frame)) * frame;
  const stretch = width / (part.to - part.from) / whole;
  for (let i = Math.floor((part.from * whole) / frame); i * frame < part.to * whole; i++) {
    const x = (i * frame - part.from * whole) * stretch;
    const picture = Math.min(count - 1, Math.floor((((i + 0.5) * frame) / whole) * count));
    g.drawImage(pictures, picture * wide, 0, wide, tall, x, 0, frame * stretch, height);
  }
}

/** The largest sample at each pixel of a part of a sound. @param peaks of equal parts of it, 0..1 */
export function peaksOf(peaks: readonly number[], part: Part, width: number): number[] {
  return Array.from({ length: width }, (_, x) => {
    const at = (share: number): number => (part.from + (part.to - part.from) * share) * peaks.length;
    const first = Math.max(0, Math.floor(at(x / width)));
    const last = Math.min(peaks.length, Math.max(first + 1, Math.ceil(at((x + 1) / width))));
    let most = 0;
    for (let i = first; i < last; i++) most = Math.max(most, peaks[i]!);
    return most;
  });
}

/** The shape of a part of a sound, a line at each pixel. @param width, height in pixels of the canvas @param top where it begins */
export function paintSound(g: CanvasRenderingContext2D, peaks: readonly number[], part: Part, width: number, top: number, height: number): void {
  peaksOf(peaks, part, width).forEach((peak, x) => {
    const half = Math.max(0.5, peak * (height / 2 - 1));
    g.fillRect(x, top + height / 2 - half, 1, 2 * half);
  });
}
