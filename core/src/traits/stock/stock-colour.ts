import { MID_GREY_DENSITY } from '../grey';
import { inverse, LUMINANCE, times, type Matrix, type Row } from '../../frame/colorimetry';
import { neutral, SAME } from './dye-rows';
import { curveOf } from './film-curve';
import { bell, blackBody, primaries, projected, spectrum, sumOver, type Maths, type Spectrum } from './spectra';
import type { Dye, Lobe, Stock } from './stocks';

/** Least light that is told from none. */
const DARK = 2 ** -29;
/** Neutral densities whose amounts of dye are looked up. */
const [NEUTRAL_MOST, NEUTRAL_STEP] = [5, 0.05];

/** Amounts of a dye for which what passes is worked out, and how many of them to an amount of 1: between them it is straight, within a ten-thousandth of density. */
const [MOST_DYE, DYE_STEPS] = [8, 64];

/** What a layer sees of red, green and blue light, together 1. */
const seen = (k: Maths, { peak, below, above }: Lobe, of: readonly Spectrum[]): Row => {
  const layer = spectrum((l) => bell(k, l, peak, below, above));
  const whole = layer.reduce((a, b) => a + b, 0);
  return of.map((primary) => sumOver(layer, primary) / whole) as unknown as Row;
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
function withinGamut(light: Row): Row {
  const most = Math.max(...light);
  const far = 1 - Math.min(...light) / most;
  const share = far > GAMUT_KNEE ? compressed(far, GAMUT_KNEE, GAMUT_EDGE) / far : 1;
  const held = compressed(most, WHITE_KNEE, WHITE_EDGE);
  return light.map((v) => held * (1 - share * (1 - v / most))) as unknown as Row;
}

/**
 * A stock's answer to linear light, as densities in red, green and blue of a display: what its layers see, by wavelength; their curves; what
 * holds them back; what of the lamp's light passes the dyes; what an eye sees of it.
 */
export function stockColour(k: Maths, stock: Stock): (light: Row) => Row {
  const log10 = (v: number): number => k.log(Math.max(DARK, v)) / Math.LN10;
  const sees = stock.layers.map((layer) => seen(k, layer, primaries(k)));
  const curves = stock.responses.map((response) => curveOf(k, response));
  const [r709, g709, b709] = projected(k, blackBody(k, stock.lamp));
  const luminance = r709.map((v, i) => LUMINANCE[0] * v + LUMINANCE[1] * g709[i]! + LUMINANCE[2] * b709[i]!);
  const [toRed, toGreen, toBlue] = [r709, g709, b709].map((plane) => Float64Array.from(plane, (v, i) => v + NEARER * (luminance[i]! - v))) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const [red, green, blue] = primaries(k);
  const base = red.map((v, i) => stock.base[0] * v + stock.base[1] * green[i]! + stock.base[2] * blue[i]!);
  const shapes = stock.dyes ? stock.dyes.map((dye) => absorption(k, dye)) : [SILVER, SILVER, SILVER];

  // What passes each dye, wavelength by wavelength, by its amount: a cube asks for it some million times.
  const passes = shapes.map((shape) => {
    const table = new Float32Array((MOST_DYE * DYE_STEPS + 2) * shape.length);
    for (let step = 0; step <= MOST_DYE * DYE_STEPS + 1; step++)
      shape.forEach((v, i) => {
        table[step * shape.length + i] = k.exp((-Math.LN10 * step * v) / DYE_STEPS);
      });
    return table;
  }) as unknown as readonly [Float32Array, Float32Array, Float32Array];
  const [cyans, magentas, yellows] = passes;
  const clear = Float64Array.from(base, (v) => k.exp(-Math.LN10 * v));
  const bare = new Float64Array(base.length).fill(1);
  const placeOf = (amount: number): number => Math.max(0, Math.min(MOST_DYE, amount)) * DYE_STEPS;

  /** Linear light that passes dyes of some amounts, and a base (what of each wavelength passes it). */
  const passing = (cyan: number, magenta: number, yellow: number, under: Float64Array): Row => {
    const count = under.length;
    const c = placeOf(cyan);
    const m = placeOf(magenta);
    const y = placeOf(yellow);
    let cp = Math.floor(c) * count;
    let mp = Math.floor(m) * count;
    let yp = Math.floor(y) * count;
    const cf = c % 1;
    const mf = m % 1;
    const yf = y % 1;
    let r = 0;
    let g = 0;
    let b = 0;
    // Plain numbers: this runs some million times.
    for (let i = 0; i < count; i++, cp++, mp++, yp++) {
      const cn = cyans[cp]!;
      const mn = magentas[mp]!;
      const yn = yellows[yp]!;
      const t = under[i]! * (cn + cf * (cyans[cp + count]! - cn)) * (mn + mf * (magentas[mp + count]! - mn)) * (yn + yf * (yellows[yp + count]! - yn));
      r += t * toRed[i]!;
      g += t * toGreen[i]!;
      b += t * toBlue[i]!;
    }
    return [r, g, b];
  };
  const densities = ([c, m, y]: Row): Row => passing(c, m, y, bare).map((v) => -log10(v)) as unknown as Row;
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
      return amountOf(density, i);
    }) as unknown as Row;
    return withinGamut(passing(dyed[0], dyed[1], dyed[2], clear)).map((v) => -log10(v)) as unknown as Row;
  };
}

/** Amounts of the three dyes that together are a neutral of each density, as a stock is balanced from white to black. */
function neutrals(densities: (amounts: Row) => Row): Row[] {
  const found: Row[] = [[0, 0, 0]];
  for (let i = 1; i <= NEUTRAL_MOST / NEUTRAL_STEP; i++) {
    let now = found[i - 1]!.map((v) => v + NEUTRAL_STEP) as unknown as Row;
    // Each dye stands mostly in one channel: what lacks there is added to it.
    for (let round = 0; round < 12; round++) {
      const at = densities(now);
      now = now.map((v, plane) => v + i * NEUTRAL_STEP - at[plane]!) as unknown as Row;
    }
    found.push(now);
  }
  return found;
}

/**
 * How layers act on each other's dyes, as couplers that inhibit their neighbours do: so that about mid-grey what stands in the wrong place is made
 * up for, and colours part as far as the stock parts them. Where all layers answer alike they leave them alone.
 */
function couplersOf({ by, leak }: Stock['parts'], densities: (amounts: Row) => Row, amounts: readonly Row[]): Matrix {
  const wanted = neutral([
    [1 + by, -by * 0.6 + leak, -by * 0.4],
    [-by * 0.5 + leak, 1 + by, -by * 0.5 + leak],
    [-by * 0.4, -by * 0.6 + leak, 1 + by],
  ]);
  // By densities of the layers, which dyes are balanced for.
  const place = Math.round(MID_GREY_DENSITY / NEUTRAL_STEP);
  const [at, after] = [amounts[place]!, amounts[place + 1]!];
  const before = densities(at);
  const columns = [0, 1, 2].map((j) => densities(at.map((v, i) => (i === j ? after[j]! : v)) as unknown as Row).map((v, i) => (v - before[i]!) / NEUTRAL_STEP));
  const standing = [0, 1, 2].map((i) => columns.map((column) => column[i]!)) as unknown as Matrix;
  return neutral(times(inverse(standing), wanted));
}
