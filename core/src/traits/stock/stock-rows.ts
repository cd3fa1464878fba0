import type { Engine, Store } from '../../engine';
import { rowAt, type Surface } from '../../frame/surface';
import { stockColour } from './stock-colour';
import type { Stock } from './stocks';

/** What `stockRow` takes: points a side, two to each doubling of light from the first, which is none; entries on the axis of greys for each step. */
const [SIZE, GREYS, DIM] = [33, 32, 2 ** -14] as const;
/** How a logarithm bends between two points, and what densities and shares are counted in. */
const [BEND, DENSITIES, SHARES] = [0.17, 4096, 32767] as const;
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

/** Densities of a stock: at the points of its cube, red fastest, and on the axis of greys. */
interface Baked {
  readonly cube: Float32Array;
  readonly greys: Float32Array;
}

function bake(engine: Engine, stock: Stock): Baked {
  const of = stockColour(engine.kernels, stock);
  const cube = new Float32Array(SIZE ** 3 * 3);
  let at = 0;
  for (const b of LIGHTS)
    for (const g of LIGHTS)
      for (const r of LIGHTS) {
        cube.set(of([r, g, b]), at);
        at += 3;
      }
  const greys = new Float32Array(((SIZE - 1) * GREYS + 1) * 3);
  for (let i = 0; i * 3 < greys.length; i++) {
    const light = lightAt(Math.floor(i / GREYS), (i % GREYS) / GREYS);
    greys.set(of([light, light, light]), 3 * i);
  }
  return { cube, greys };
}

/** So much of a stock's densities, the rest those of light itself. */
function mixed({ cube, greys }: Baked, amount: number, log: (v: number) => number): Baked {
  if (amount === 1) return { cube, greys };
  const density = (light: number): number => -log(Math.max(light, 2 ** -29)) / Math.LN10;
  const bare = LIGHTS.map(density);
  const places = [1, SIZE, SIZE * SIZE];
  return {
    cube: cube.map((v, i) => {
      const own = bare[Math.floor(Math.floor(i / 3) / places[i % 3]!) % SIZE]!;
      return own + amount * (v - own);
    }),
    greys: greys.map((v, i) => {
      const entry = Math.floor(i / 3);
      const own = density(lightAt(Math.floor(entry / GREYS), (entry % GREYS) / GREYS));
      return own + amount * (v - own);
    }),
  };
}

/** As `stockRow` takes them: each point beside its neighbour in red, in green and in blue; and what the cube lacks on the axis of greys. */
function packed({ cube, greys }: Baked): { pairs: Int16Array; lacks: Int32Array } {
  const whole = cube.map((v) => Math.round(DENSITIES * Math.min(DENSEST, v)));
  const pairs = new Int16Array(3 * SIZE ** 3 * 8);
  for (const [third, step] of [1, SIZE, SIZE * SIZE].entries())
    for (let i = 0; i < SIZE ** 3; i++) {
      // The last point of a line has no neighbour and needs none.
      const next = Math.min(SIZE ** 3 - 1, i + step);
      for (let plane = 0; plane < 3; plane++) {
        pairs[(third * SIZE ** 3 + i) * 8 + 2 * plane] = whole[3 * i + plane]!;
        pairs[(third * SIZE ** 3 + i) * 8 + 2 * plane + 1] = whole[3 * next + plane]!;
      }
    }
  const onAxis = (point: number, plane: number): number => whole[3 * point * (1 + SIZE + SIZE * SIZE) + plane]!;
  const lacks = new Int32Array((greys.length / 3) * 4);
  for (let i = 0; i * 3 < greys.length; i++) {
    const point = Math.min(SIZE - 2, Math.floor(i / GREYS));
    const share = byLogarithm(i / GREYS - point);
    for (let plane = 0; plane < 3; plane++) {
      const straight = onAxis(point, plane) + share * (onAxis(point + 1, plane) - onAxis(point, plane));
      lacks[4 * i + plane] = Math.round(SHARES * (DENSITIES * Math.min(DENSEST, greys[3 * i + plane]!) - straight));
    }
  }
  return { pairs, lacks };
}

/** Baked once for all plans of an engine: what a slider changes is none of it. */
const baked = new WeakMap<Engine, Map<Stock, Baked>>();
function bakedOf(engine: Engine, stock: Stock): Baked {
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
  private amount = NaN;

  constructor(private readonly engine: Engine) {
    [this.cube, this.greys] = [engine.store(), engine.store()];
  }

  release(): void {
    this.cube.release();
    this.greys.release();
  }

  /** @param amount 0 to 1: so much of the stock's density, the rest that of the light itself */
  run(surface: Surface, stock: Stock, amount: number): void {
    if (stock !== this.of || amount !== this.amount) this.fill(stock, amount);
    const { width } = surface;
    for (let y = surface.top; y < surface.bottom; y++)
      this.engine.kernels.stockRow(rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), width, this.cube.at(0), this.greys.at(0));
  }

  private fill(stock: Stock, amount: number): void {
    [this.of, this.amount] = [stock, amount];
    const { log } = this.engine.kernels;
    const { pairs, lacks } = packed(mixed(bakedOf(this.engine, stock), amount, log));
    this.cube.numbers(pairs);
    this.greys.numbers(lacks);
  }
}
