import type { Engine, Store } from '../engine';
import { cubicTaps, Resampler } from './resample';
import type { Surface } from './surface';

/** Excursions of more than this many times the RMS are rare: a picture is enlarged for these, the few beyond continue its edge. */
export const OPENED_FOR = 2.5;

/** Where a picture stands: shifts in pixels, a turn in radians about the middle, a size. */
export interface Placement {
  readonly x: number;
  readonly y: number;
  readonly turn: number;
  readonly zoom: number;
}

/** Puts a picture in another place, by the cubic; what is bared continues its edge. */
export class Placer {
  private readonly resampler: Resampler;
  private readonly rows: Store;

  constructor(
    private readonly engine: Engine,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.resampler = new Resampler(engine, width, height);
    this.rows = engine.store();
  }

  release(): void {
    this.resampler.release();
    this.rows.release();
  }

  /** @param pass with the planes and their spares, which it exchanges */
  run({ surface, spare, swap }: { surface: Surface; spare: readonly number[]; swap(plane: number): void }, at: Placement): void {
    const k = this.engine.kernels;
    const { width, height } = this;
    const { turn, zoom } = at;
    if (turn === 0) {
      const across = cubicTaps(width, (-width / 2 - at.x) / zoom + width / 2, 1 / zoom);
      const down = cubicTaps(height, (-height / 2 - at.y) / zoom + height / 2, 1 / zoom);
      this.resampler.aim(across, down);
      for (let plane = 0; plane < 3; plane++) {
        this.resampler.run(spare[plane]!, surface.stride, surface.planes[plane]!, surface.stride);
        swap(plane);
      }
      return;
    }
    const [mx, my] = [width / 2, height / 2];
    const [c, n] = [k.cos(turn) / zoom, k.sin(turn) / zoom];
    const x = this.rows.at(2 * surface.stride);
    const y = x + surface.stride;
    const before = [...surface.planes] as const;
    for (let row = 0; row < height; row++) {
      const dy = row + 0.5 - my - at.y;
      const dx = 0.5 - mx - at.x;
      k.rampRow(x, width, c * dx + n * dy + mx - 0.5, c);
      k.rampRow(y, width, c * dy - n * dx + my - 0.5, -n);
      const [d0, d1, d2] = [0, 1, 2].map((plane) => spare[plane]! + row * surface.stride) as [number, number, number];
      k.warpCubicThree(d0, d1, d2, width, x, y, before[0], before[1], before[2], surface.stride, width, height);
    }
    for (let plane = 0; plane < 3; plane++) swap(plane);
  }
}
