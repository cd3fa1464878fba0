import type { Engine, Store } from '../../engine';
import { rowAt, type Surface } from '../../frame/surface';
import { StockColour } from './stock-colour';
import type { Stock } from './stocks';

/** What `stockRow` takes: points a side, two to each doubling of light from the first, which is none; entries on the axis of greys for each step. */
const [SIZE, GREYS, DIM] = [33, 32, 2 ** -14] as const;
/** How a logarithm bends between two points, and what densities and shares are counted in. */
const [BEND, DENSITIES, SHARES] = [0.17, 4096, 32767] as const;
const POINTS = SIZE ** 3;
/** The densest that is told. */
const DENSEST = 32767 / DENSITIES;

/** Light at a point and some way to the next, straight between them. */
function lightAt(point: number, way = 0): number {
  const octave = Math.floor(point / 2);
  return DIM * (2 ** octave * ((point % 2 ? 1.5 : 1) + way / 2) - 1);
}
/** How far that is between the two by their logarithms, as the kernel has it. */
const byLogarithm = (way: number): number => way * (1 + BEND - BEND * way);
const LIGHTS = Array.from({ length: SIZE }, (_, i) => lightAt(i));

/** A stock as `stockRow` takes it. */
interface Baked {
  /** Densities at the points of its cube, red fastest: each beside its neighbour in red, then in green, then in blue. */
  readonly pairs: Int16Array;
  /** What the cube lacks on the axis of greys. */
  readonly lacks: Int32Array;
}

function bake(engine: Engine, stock: Stock): Baked {
  const colour = new StockColour(engine, stock);
  const counted = (density: number): number => DENSITIES * Math.min(DENSEST, density);
  // Loops over typed arrays: this is waited for before the first picture.
  const points = new Float64Array(POINTS * 3);
  let at = 0;
  for (const blue of LIGHTS)
    for (const green of LIGHTS)
      for (const red of LIGHTS) {
        points[at++] = red;
        points[at++] = green;
        points[at++] = blue;
      }
  const pairs = colour.cube(points, SIZE, DENSEST);
  const onAxis = (point: number, plane: number): number => pairs[8 * point * (1 + SIZE + SIZE * SIZE) + 2 * plane]!;
  const entries = (SIZE - 1) * GREYS + 1;
  const placeOf = (i: number): { point: number; way: number } => {
    const point = Math.min(SIZE - 2, Math.floor(i / GREYS));
    return { point, way: i / GREYS - point };
  };
  const greys = new Float64Array(entries * 3);
  for (let i = 0; i < entries; i++) {
    const { point, way } = placeOf(i);
    greys.fill(lightAt(point, way), 3 * i, 3 * i + 3);
  }
  const exact = colour.densities(greys);
  const lacks = new Int32Array(entries * 4);
  for (let i = 0; i < entries; i++) {
    const { point, way } = placeOf(i);
    const share = byLogarithm(way);
    for (let plane = 0; plane < 3; plane++) {
      const straight = onAxis(point, plane) + share * (onAxis(point + 1, plane) - onAxis(point, plane));
      lacks[4 * i + plane] = Math.round(SHARES * (counted(exact[3 * i + plane]!) - straight));
    }
  }
  colour.release();
  return { pairs, lacks };
}

/** Baked once for all plans of an engine: each change of a look makes a plan. */
const baked = new WeakMap<Engine, Map<Stock, Baked>>();
export function bakedOf(engine: Engine, stock: Stock): Baked {
  let known = baked.get(engine);
  if (!known) baked.set(engine, (known = new Map()));
  let found = known.get(stock);
  if (!found) known.set(stock, (found = bake(engine, stock)));
  return found;
}

/** Linear light through a stock to density, row by row. */
export class StockRows {
  private readonly cube: Store;
  private readonly greys: Store;
  private of: Stock | undefined;

  constructor(private readonly engine: Engine) {
    [this.cube, this.greys] = [engine.store(), engine.store()];
  }

  release(): void {
    for (const store of [this.cube, this.greys]) store.release();
  }

  /** @param amount 0 to 1: so much of the stock's density, the rest that of the light itself */
  run(surface: Surface, stock: Stock, amount: number): void {
    if (stock !== this.of) {
      const { pairs, lacks } = bakedOf(this.engine, stock);
      this.cube.numbers(pairs);
      this.greys.numbers(lacks);
      this.of = stock;
    }
    const k = this.engine.kernels;
    const [cube, greys] = [this.cube.at(0), this.greys.at(0)];
    for (let y = surface.top; y < surface.bottom; y++) {
      const [r, g, b] = [rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y)];
      if (amount < 1) k.stockPartRow(r, g, b, surface.width, cube, greys, amount);
      else k.stockRow(r, g, b, surface.width, cube, greys);
    }
  }
}
