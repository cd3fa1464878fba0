import type { Engine, Store } from '../engine';
import { rowAt, type Surface } from '../frame/surface';

/** Pictures kept beyond those that are being read, for a screen that goes back a little. */
const SPARE = 2;

/** Bytes of a row: whole groups of eight samples. */
const rowBytes = ({ width }: Surface): number => (width * 2 + 15) & ~15;

/** Writes a whole picture in half the bytes. */
export function writeHalves(engine: Engine, surface: Surface, at: number): void {
  for (let plane = 0; plane < 3; plane++)
    for (let y = 0; y < surface.height; y++) engine.kernels.floatsToHalves(halvesRow(surface, at, plane, y), rowAt(surface, plane, y), surface.width);
}

/** Where row `y` of a plane of a picture begins that was written so. */
export const halvesRow = (surface: Surface, at: number, plane: number, y: number): number => at + (plane * surface.height + y) * rowBytes(surface);

/** What screens showed, by keys that tell each picture from every other: what the last picture was made with is kept for the next. */
export class Recollection {
  private readonly kept = new Map<string, Store>();
  private readonly unused: Store[] = [];
  private readonly used = new Set<string>();

  constructor(private readonly engine: Engine) {}

  has(key: string): boolean {
    return this.kept.has(key);
  }

  /** The place of a kept picture. */
  use(key: string): number | undefined {
    const store = this.kept.get(key);
    if (!store) return undefined;
    this.kept.delete(key);
    this.kept.set(key, store);
    this.used.add(key);
    return store.at(0);
  }

  /** A place for a picture of the size of a surface. */
  add(key: string, surface: Surface): number {
    const store = this.unused.pop() ?? this.engine.store();
    this.kept.set(key, store);
    this.used.add(key);
    return store.at(3 * rowBytes(surface) * surface.height);
  }

  /** A picture is done: gives up all that was not used for it, but for a few. */
  next(): void {
    let over = this.kept.size - this.used.size - SPARE;
    for (const [key, store] of this.kept) {
      if (over <= 0) break;
      if (this.used.has(key)) continue;
      this.kept.delete(key);
      this.unused.push(store);
      over--;
    }
    this.used.clear();
  }

  clear(): void {
    this.unused.push(...this.kept.values());
    this.kept.clear();
    this.used.clear();
  }

  release(): void {
    this.clear();
    for (const store of this.unused) store.release();
    this.unused.length = 0;
  }
}
