// What a stock makes of light, wavelength by wavelength: a cube asks for it some ten thousand times. `core/src/traits/stock/stock-colour.ts` says what the
// numbers are and where they come from. In double precision throughout, as it is rounded only once.

/** A stock by its tables and numbers. Addresses first, then numbers. */
@unmanaged
export class StockNumbers {
  /** What passes each dye by its amount: a row of wavelengths for each step, in single precision. */
  cyan: usize;
  magenta: usize;
  yellow: usize;
  /** For each wavelength, weights by which light adds up to red, to green and to blue. */
  red: usize;
  green: usize;
  blue: usize;
  /** For each wavelength, what of it passes the base. */
  clear: usize;
  /** Amounts of the three dyes that are a neutral, for each step of density. */
  neutrals: usize;
  neutralCount: i32;
  /** An even number of them: they are taken in twos. */
  wavelengths: i32;
  /** The most of a dye, and steps to an amount of 1. */
  mostDye: f64;
  dyeSteps: f64;
  neutralStep: f64;
  /** Least light that is told from none. */
  dark: f64;
  middle: f64;
  /** Where colours begin to come within what a display can show, and where they would end. */
  gamutKnee: f64;
  gamutEdge: f64;
  whiteKnee: f64;
  whiteEdge: f64;
  /** For each layer: what it sees of red, green and blue, its speed, its curve (gain, rest, back, to white, to black, high, low), and how all three hold it back: fourteen numbers. */
  layers: usize;
}

/** Numbers of a layer. */
const LAYER: usize = 14 * 8;

/** What passes some amount of a dye, at each step of amount and wavelength: 10^-(amount shape). */
export function dyeTable(dst: usize, shape: usize, wavelengths: i32, steps: i32, perAmount: f64): void {
  for (let step = 0; step <= steps; step++)
    for (let i = 0; i < wavelengths; i++, dst += 4) store<f32>(dst, <f32>Math.exp((-Math.LN10 * <f64>step * load<f64>(shape + (<usize>i << 3))) / perAmount));
}

// @ts-ignore: decorator
@inline
function log10(v: f64, dark: f64): f64 {
  return Math.log(Math.max(dark, v)) / Math.LN10;
}

/** Linear light, three doubles at `dst`, that passes three amounts of dye and what is `under` them (for each wavelength what of it passes; 0: all). */
export function passDyes(dst: usize, stock: StockNumbers, cyan: f64, magenta: f64, yellow: f64, under: usize): void {
  const count = stock.wavelengths;
  const c = Math.max(0, Math.min(stock.mostDye, cyan)) * stock.dyeSteps;
  const m = Math.max(0, Math.min(stock.mostDye, magenta)) * stock.dyeSteps;
  const y = Math.max(0, Math.min(stock.mostDye, yellow)) * stock.dyeSteps;
  const cf = c - Math.floor(c), mf = m - Math.floor(m), yf = y - Math.floor(y);
  const row = <usize>count << 2;
  let cp = stock.cyan + <usize>(<i32>c * count << 2), mp = stock.magenta + <usize>(<i32>m * count << 2), yp = stock.yellow + <usize>(<i32>y * count << 2);
  const cs = f64x2.splat(cf), ms = f64x2.splat(mf), ys = f64x2.splat(yf);
  let r = f64x2.splat(0), g = f64x2.splat(0), b = f64x2.splat(0);
  for (let i: usize = 0; i < <usize>count << 3; i += 16, cp += 8, mp += 8, yp += 8) {
    let t = f64x2.mul(f64x2.mul(between(cp, row, cs), between(mp, row, ms)), between(yp, row, ys));
    if (under) t = f64x2.mul(t, v128.load(under + i));
    r = f64x2.add(r, f64x2.mul(t, v128.load(stock.red + i)));
    g = f64x2.add(g, f64x2.mul(t, v128.load(stock.green + i)));
    b = f64x2.add(b, f64x2.mul(t, v128.load(stock.blue + i)));
  }
  store<f64>(dst, f64x2.extract_lane(r, 0) + f64x2.extract_lane(r, 1));
  store<f64>(dst, f64x2.extract_lane(g, 0) + f64x2.extract_lane(g, 1), 8);
  store<f64>(dst, f64x2.extract_lane(b, 0) + f64x2.extract_lane(b, 1), 16);
}

/** Between two rows of a table, at two wavelengths. */
// @ts-ignore: decorator
@inline
function between(at: usize, row: usize, share: v128): v128 {
  const low = f64x2.promote_low_f32x4(v128.load64_zero(at));
  return f64x2.add(low, f64x2.mul(share, f64x2.sub(f64x2.promote_low_f32x4(v128.load64_zero(at + row)), low)));
}

/** The smaller of two numbers with a rounded corner; see film-curve.ts. */
// @ts-ignore: decorator
@inline
function softMin(a: f64, b: f64, s: f64): f64 {
  return Math.min(a, b) - s * Math.log(1 + Math.exp(-Math.abs(a - b) / s));
}

/** Density of a layer for the density of the light that it sees. */
// @ts-ignore: decorator
@inline
function answer(layer: usize, density: f64, middle: f64): f64 {
  const u = load<f64>(layer, 32) * (middle - density);
  const bright = softMin(u, load<f64>(layer, 56), load<f64>(layer, 72));
  const through = -softMin(-bright, load<f64>(layer, 64), load<f64>(layer, 80));
  return middle - (through - load<f64>(layer, 40)) * load<f64>(layer, 48);
}

/** Amount of a layer's dye of which a neutral of some density has as much. @param plane bytes of the layers before it */
function amountOf(stock: StockNumbers, density: f64, plane: usize): f64 {
  if (density <= 0) return density;
  const place = Math.min(density / stock.neutralStep, <f64>stock.neutralCount - 1.001);
  const low = Math.floor(place);
  const at = stock.neutrals + <usize>(<i32>low * 24) + plane;
  const from = load<f64>(at);
  return from + (place - low) * (load<f64>(at, 24) - from);
}

/** `v` up to a knee, and never quite at an edge however far it goes. */
function compressed(v: f64, knee: f64, edge: f64): f64 {
  if (v <= knee) return v;
  const room = edge - knee;
  const x = (v - knee) / room;
  return knee + (room * x) / Math.sqrt(1 + x * x);
}

/** Densities in red, green and blue of a display for `count` colours of linear light, three doubles each, in place. */
export function stockDensities(stock: StockNumbers, colours: usize, count: i32): void {
  for (const end = colours + <usize>count * 24; colours < end; colours += 24) {
    const lr = load<f64>(colours), lg = load<f64>(colours, 8), lb = load<f64>(colours, 16);
    let layer = stock.layers;
    const a0 = answer(layer, -log10(load<f64>(layer) * lr + load<f64>(layer, 8) * lg + load<f64>(layer, 16) * lb, stock.dark) - load<f64>(layer, 24), stock.middle);
    layer += LAYER;
    const a1 = answer(layer, -log10(load<f64>(layer) * lr + load<f64>(layer, 8) * lg + load<f64>(layer, 16) * lb, stock.dark) - load<f64>(layer, 24), stock.middle);
    layer += LAYER;
    const a2 = answer(layer, -log10(load<f64>(layer) * lr + load<f64>(layer, 8) * lg + load<f64>(layer, 16) * lb, stock.dark) - load<f64>(layer, 24), stock.middle);
    passDyes(colours, stock, dyed(stock, 0, a0, a0, a1, a2), dyed(stock, 1, a1, a0, a1, a2), dyed(stock, 2, a2, a0, a1, a2), stock.clear);
    const r = load<f64>(colours), g = load<f64>(colours, 8), b = load<f64>(colours, 16);
    const most = Math.max(r, Math.max(g, b));
    const far = 1 - Math.min(r, Math.min(g, b)) / most;
    const share = far > stock.gamutKnee ? compressed(far, stock.gamutKnee, stock.gamutEdge) / far : 1;
    const held = compressed(most, stock.whiteKnee, stock.whiteEdge);
    store<f64>(colours, -log10(held * (1 - share * (1 - r / most)), stock.dark));
    store<f64>(colours, -log10(held * (1 - share * (1 - g / most)), stock.dark), 8);
    store<f64>(colours, -log10(held * (1 - share * (1 - b / most)), stock.dark), 16);
  }
}

/** Amount of a layer's dye, which the others hold back. */
function dyed(stock: StockNumbers, i: i32, own: f64, a0: f64, a1: f64, a2: f64): f64 {
  const layer = stock.layers + <usize>i * LAYER;
  const held = load<f64>(layer, 88) * a0 + load<f64>(layer, 96) * a1 + load<f64>(layer, 104) * a2;
  // What holds a layer back leaves the less to be held back.
  const density = held < own && own > 0 ? own * Math.exp((held - own) / own) : held;
  return amountOf(stock, density, <usize>i << 3);
}
