import type { Engine, Store } from '../engine';
import type { Surface } from '../frame/surface';

/**
 * The picture as it is before a use of a trait: as long as nothing before the use changes, a change of the use costs what
 * comes after it. Outlives plans: each change of a setting makes a new one.
 */
export class Kept {
  private key = '';
  private place: Store | undefined;

  /**
   * @param life @param index place of the use in the look as written
   * @param source names the footage the pictures come from
   */
  constructor(
    readonly life: number,
    readonly index: number,
    readonly source: string,
  ) {}

  /** Puts the kept picture on the surface, if it is the one the key names. */
  restore(key: string, engine: Engine, surface: Surface): boolean {
    if (key !== this.key || !this.place) return false;
    const bytes = surface.stride * surface.height;
    const at = this.place.at(0);
    surface.planes.forEach((plane, i) => engine.kernels.copy(plane, at + i * bytes, bytes));
    return true;
  }

  keep(key: string, engine: Engine, surface: Surface): void {
    const bytes = surface.stride * surface.height;
    this.place ??= engine.store();
    const at = this.place.at(3 * bytes);
    surface.planes.forEach((plane, i) => engine.kernels.copy(at + i * bytes, plane, bytes));
    this.key = key;
  }

  release(): void {
    this.place?.release();
    this.key = '';
  }
}
