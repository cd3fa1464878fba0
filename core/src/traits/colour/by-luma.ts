import type { Engine, Store } from '../../engine';
import { LUMA_WEIGHTS } from '../../frame/encoding';
import { rowAt, type Surface } from '../../frame/surface';

/** Entries over luma 0 to 1; between them along a line. */
const SIZE = 257;
export const { kr: RED, kb: BLUE } = LUMA_WEIGHTS.bt709;
export const GREEN = 1 - RED - BLUE;

/** What becomes of a colour of some luma Y: gain (Y + s (in - Y)) + added, s = saturation + vibrance (1 - spread of the channels). */
export interface LumaEntry {
  readonly gain: number;
  readonly saturation: number;
  readonly vibrance: number;
  readonly added: readonly [number, number, number];
}

/** Colours changed by their luma. */
export class ByLuma {
  private readonly store: Store;
  private place = 0;
  /** Saturation, where it is all that is changed, and by as much at every luma. */
  private even: number | undefined;

  constructor(private readonly engine: Engine) {
    this.store = engine.store();
  }

  release(): void {
    this.store.release();
  }

  fill(of: (luma: number) => LumaEntry): void {
    const entries = Array.from({ length: SIZE }, (_, i) => of(i / (SIZE - 1)));
    const { saturation } = entries[0]!;
    const even = entries.every((e) => e.saturation === saturation && e.gain === 1 && e.vibrance === 0 && e.added.every((v) => v === 0));
    this.even = even ? Math.max(0, saturation) : undefined;
    const values = new Float32Array(SIZE * 8);
    entries.forEach((e, i) => values.set([e.gain, e.saturation, e.vibrance, 0, ...e.added], i * 8));
    this.place = this.store.floats(values);
  }

  run(surface: Surface): void {
    const k = this.engine.kernels;
    for (let y = surface.top; y < surface.bottom; y++) {
      const [r, g, b] = [rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y)];
      if (this.even === undefined) k.byLumaRow(r, g, b, surface.width, this.place, SIZE, RED, BLUE);
      else k.saturateRow(r, g, b, surface.width, this.even, RED, BLUE);
    }
  }
}

/**
 * What a tint adds to red, green and blue: a colour difference of some size (0..1, as R'G'B') toward a hue, of no luma.
 * @param hue in radians from red, by way of yellow and green
 */
export function tintOf(k: { cos(x: number): number }, hue: number, size: number): [number, number, number] {
  const third = (2 * Math.PI) / 3;
  const raw = [k.cos(hue), k.cos(hue - third), k.cos(hue - 2 * third)];
  const luma = RED * raw[0]! + GREEN * raw[1]! + BLUE * raw[2]!;
  return raw.map((v) => (v - luma) * size) as [number, number, number];
}
