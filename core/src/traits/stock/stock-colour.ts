import { MID_GREY_DENSITY } from '../grey';
import { neutral, SAME, type Matrix } from './dye-rows';
import { curveOf } from './film-curve';
import { bell, blackBody, primaries, projected, spectrum, sumOver, type Maths, type Spectrum, type Triple } from './spectra';
import type { Dye, Lobe, Stock } from './stocks';

/** Least light that is told from none. */
const DARK = 2 ** -29;
/** Neutral densities whose amounts of dye are looked up. */
const [NEUTRAL_MOST, NEUTRAL_STEP] = [5, 0.05];

/** What a layer sees of red, green and blue light, together 1. */
const seen = (k: Maths, { peak, below, above }: Lobe, of: readonly Spectrum[]): Triple => {
  const layer = spectrum((l) => bell(k, l, peak, below, above));
  const whole = layer.reduce((a, b) => a + b, 0);
  return of.map((primary) => sumOver(layer, primary) / whole) as unknown as Triple;
};

const absorption = (k: Maths, { peak, below, above, tail, second }: Dye): Spectrum =>
  spectrum((l) => {
    const main = bell(k, l, peak, below, above);
    const side = second ? second.share * bell(k, l, second.peak, second.below, second.above) : 0;
    // What it takes where it should not: a tail toward short waves.
    return main + side + (l < peak ? tail * (1 - main) : 0);
  });

/** Silver takes all wavelengths alike, blue a little more. */
const SILVER: Spectrum = spectrum((l) => 1 / 3 + (l < 500 ? ((500 - l) / 120) * 0.004 : 0));

/** Of BT.709. */
const LUMA: Triple = [0.2126, 0.7152, 0.0722];
/** A print's purest reds and greens lie outside BT.709: all colours come nearer to grey by this share, and couplers part them again where there is room. */
const NEARER = 0.1;

/** Distances from grey, in shares of the strongest channel: up to the first colours stay as they are, all beyond comes near to the second. */
const [GAMUT_KNEE, GAMUT_EDGE] = [0.86, 0.996];
/** As light of the strongest channel. */
const [WHITE_KNEE, WHITE_EDGE] = [0.92, 0.962];

/** `v` up to a knee, and never quite at an edge however far it goes. */
function compressed(v: number, knee: number, edge: number): number {
  if (v <= knee) return v;
  const room = edge - knee;
  const x = (v - knee) / room;
  return knee + (room * x) / Math.sqrt(1 + x * x);
}

/** Colours that a display cannot show come within what it can, softly, so that none of them becomes flat: all channels toward the strongest by one share, which keeps their hue. */
function withinGamut(light: Triple): Triple {
  const most = Math.max(...light);
  const far = 1 - Math.min(...light) / most;
  const share = far > GAMUT_KNEE ? compressed(far, GAMUT_KNEE, GAMUT_EDGE) / far : 1;
  const held = compressed(most, WHITE_KNEE, WHITE_EDGE);
  return light.map((v) => held * (1 - share * (1 - v / most))) as unknown as Triple;
}

/**
 * A stock's answer to linear light, as densities in red, green and blue of a display: what its layers see, by wavelength; their curves; what
 * holds them back; what of the lamp's light passes the dyes; what an eye sees of it.
 */
export function stockColour(k: Maths, stock: Stock): (light: Triple) => Triple {
  const log10 = (v: number): number => k.log(Math.max(DARK, v)) / Math.LN10;
  const sees = stock.layers.map((layer) => seen(k, layer, primaries(k)));
  const curves = stock.responses.map((response) => curveOf(k, response));
  const [r709, g709, b709] = projected(k, blackBody(k, stock.lamp));
  const luminance = r709.map((v, i) => LUMA[0] * v + LUMA[1] * g709[i]! + LUMA[2] * b709[i]!);
  const lamp = [r709, g709, b709].map((plane) => plane.map((v, i) => v + NEARER * (luminance[i]! - v)));
  const [red, green, blue] = primaries(k);
  const base = red.map((v, i) => stock.base[0] * v + stock.base[1] * green[i]! + stock.base[2] * blue[i]!);
  const shapes = stock.dyes ? stock.dyes.map((dye) => absorption(k, dye)) : [SILVER, SILVER, SILVER];

  /** Linear light that passes dyes of some amounts over a base. */
  const passing = ([c, m, y]: Triple, under?: Spectrum): Triple => {
    const sum: [number, number, number] = [0, 0, 0];
    for (let i = 0; i < shapes[0]!.length; i++) {
      const t = k.exp(-Math.LN10 * (c * shapes[0]![i]! + m * shapes[1]![i]! + y * shapes[2]![i]! + (under ? under[i]! : 0)));
      for (let plane = 0; plane < 3; plane++) sum[plane]! += t * lamp[plane]![i]!;
    }
    return sum;
  };
  const densities = (amounts: Triple): Triple => passing(amounts).map((v) => -log10(v)) as unknown as Triple;
  const amounts = neutrals(densities);
  const amountOf = (density: number, plane: number): number => {
    if (density <= 0) return density;
    const place = Math.min(density / NEUTRAL_STEP, amounts.length - 1.001);
    const low = Math.floor(place);
    return amounts[low]![plane]! + (place - low) * (amounts[low + 1]![plane]! - amounts[low]![plane]!);
  };
  const couplers = stock.dyes ? couplersOf(stock.parts, densities, amounts) : SAME;

  return (light) => {
    const layers = sees.map((row, i) => curves[i]!(-log10(row[0] * light[0] + row[1] * light[1] + row[2] * light[2]) - stock.speed[i]!));
    const dyed = layers.map((own, i) => {
      const held = couplers[i]![0] * layers[0]! + couplers[i]![1] * layers[1]! + couplers[i]![2] * layers[2]!;
      // What holds a layer back leaves the less to be held back.
      const density = held < own && own > 0 ? own * k.exp((held - own) / own) : held;
      return Math.max(0, amountOf(density, i));
    }) as unknown as Triple;
    return withinGamut(passing(dyed, base)).map((v) => -log10(v)) as unknown as Triple;
  };
}

/** Amounts of the three dyes that together are a neutral of each density, as a stock is balanced from white to black. */
function neutrals(densities: (amounts: Triple) => Triple): Triple[] {
  const found: Triple[] = [[0, 0, 0]];
  for (let i = 1; i <= NEUTRAL_MOST / NEUTRAL_STEP; i++) {
    let now = found[i - 1]!.map((v) => v + NEUTRAL_STEP) as unknown as Triple;
    // Each dye stands mostly in one channel: what lacks there is added to it.
    for (let round = 0; round < 12; round++) {
      const at = densities(now);
      now = now.map((v, plane) => v + i * NEUTRAL_STEP - at[plane]!) as unknown as Triple;
    }
    found.push(now);
  }
  return found;
}

/**
 * How layers act on each other's dyes, as couplers that inhibit their neighbours do: so that about mid-grey what stands in the wrong place is made
 * up for, and colours part as far as the stock parts them. Where all layers answer alike they leave them alone.
 */
function couplersOf({ by, leak }: Stock['parts'], densities: (amounts: Triple) => Triple, amounts: readonly Triple[]): Matrix {
  const wanted = neutral([
    [1 + by, -by * 0.6 + leak, -by * 0.4],
    [-by * 0.5 + leak, 1 + by, -by * 0.5 + leak],
    [-by * 0.4, -by * 0.6 + leak, 1 + by],
  ]);
  // By densities of the layers, which dyes are balanced for.
  const place = Math.round(MID_GREY_DENSITY / NEUTRAL_STEP);
  const [at, after] = [amounts[place]!, amounts[place + 1]!];
  const before = densities(at);
  const columns = [0, 1, 2].map((j) => densities(at.map((v, i) => (i === j ? after[j]! : v)) as unknown as Triple).map((v, i) => (v - before[i]!) / NEUTRAL_STEP));
  const standing = [0, 1, 2].map((i) => columns.map((column) => column[i]!)) as unknown as Matrix;
  return neutral(product(inverse(standing), wanted));
}

const product = (a: Matrix, b: Matrix): Matrix => a.map((row) => [0, 1, 2].map((j) => row[0] * b[0][j]! + row[1] * b[1][j]! + row[2] * b[2][j]!)) as unknown as Matrix;

/** Of a matrix whose diagonal is the strongest. */
function inverse([[a, b, c], [d, e, f], [g, h, i]]: Matrix): Matrix {
  const [x, y, z] = [e * i - f * h, f * g - d * i, d * h - e * g];
  const size = a * x + b * y + c * z;
  return [
    [x, c * h - b * i, b * f - c * e],
    [y, a * i - c * g, c * d - a * f],
    [z, b * g - a * h, a * e - b * d],
  ].map((row) => row.map((v) => v / size)) as unknown as Matrix;
}
