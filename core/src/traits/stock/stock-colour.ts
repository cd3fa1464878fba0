import type { Engine, Store } from '../../engine';
import { MID_GREY_DENSITY } from '../grey';
import { inverse, LUMINANCE, times, type Matrix, type Row } from '../../frame/colorimetry';
import { neutral, SAME } from './dye-rows';
import { curveNumbers } from './film-curve';
import { bell, blackBody, primaries, projected, spectrum, sumOver, WAVELENGTHS, type Maths, type Spectrum } from './spectra';
import type { Dye, Lobe, Stock } from './stocks';

/** Bytes of a `StockNumbers` (`core/kernels/stock-colour.ts`), and numbers of each of its layers. */
const [NUMBERS_BYTES, LAYER_NUMBERS] = [120, 14];
/** Bytes of a point of a cube beside its neighbour in one direction. */
const PAIR_BYTES = 16;
/** Least light that is told from none. */
const DARK = 2 ** -29;
/** Neutral densities whose amounts of dye are looked up. */
const [NEUTRALS, NEUTRAL_STEP] = [101, 0.05];

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

/**
 * A stock's answer to linear light, as densities in red, green and blue of a display: what its layers see, by wavelength; their curves; what
 * holds them back; what of the lamp's light passes the dyes; what an eye sees of it. Colours that a display cannot show come within what it can, softly, so that none of them
 * becomes flat: all channels toward the strongest by one share, which keeps their hue. The kernels work it out (`core/kernels/stock-colour.ts`).
 */
export class StockColour {
  private readonly tables: Store;
  private readonly room: Store;
  private readonly pairs: Store;
  /** Address of a `StockNumbers`. */
  private readonly numbers: number;

  constructor(
    private readonly engine: Engine,
    stock: Stock,
  ) {
    [this.tables, this.room, this.pairs] = [engine.store(), engine.store(), engine.store()];
    const k = engine.kernels;
    const count = WAVELENGTHS.length;
    const dyeBytes = (MOST_DYE * DYE_STEPS + 2) * count * 4;
    const at = this.tables.at(NUMBERS_BYTES + 3 * dyeBytes + (4 * count + 3 * LAYER_NUMBERS + 3 * NEUTRALS) * 8);
    this.numbers = at;
    // Numbers of eight bytes first.
    let next = at + NUMBERS_BYTES;
    const doubles = (values: ArrayLike<number>): number => {
      const place = next;
      new Float64Array(k.memory.buffer, place, values.length).set(values);
      next += values.length * 8;
      return place;
    };
    const [r709, g709, b709] = projected(k, blackBody(k, stock.lamp));
    const luminance = r709.map((v, i) => LUMINANCE[0] * v + LUMINANCE[1] * g709[i]! + LUMINANCE[2] * b709[i]!);
    const toDisplay = [r709, g709, b709].map((plane) => doubles(plane.map((v, i) => v + NEARER * (luminance[i]! - v))));
    const [red, green, blue] = primaries(k);
    const base = red.map((v, i) => stock.base[0] * v + stock.base[1] * green[i]! + stock.base[2] * blue[i]!);
    const clear = doubles(base.map((v) => k.exp(-Math.LN10 * v)));
    const neutralAt = doubles(new Float64Array(3 * NEUTRALS));
    const layersAt = doubles(new Float64Array(3 * LAYER_NUMBERS));
    const dyes = (stock.dyes ? stock.dyes.map((dye) => absorption(k, dye)) : [SILVER, SILVER, SILVER]).map((shape, i) => {
      const table = next + i * dyeBytes;
      const from = this.room.at(count * 8);
      new Float64Array(k.memory.buffer, from, count).set(shape);
      k.dyeTable(table, from, count, MOST_DYE * DYE_STEPS + 1, DYE_STEPS);
      return table;
    });
    engine.ints(at, 10).set([...dyes, ...toDisplay, clear, neutralAt, NEUTRALS, count]);
    new Float64Array(k.memory.buffer, at + 40, 9).set([MOST_DYE, DYE_STEPS, NEUTRAL_STEP, DARK, MID_GREY_DENSITY, GAMUT_KNEE, GAMUT_EDGE, WHITE_KNEE, WHITE_EDGE]);
    engine.ints(at + 112, 1)[0] = layersAt;

    const densities = ([cyan, magenta, yellow]: Row): Row => {
      const to = this.room.at(24);
      k.passDyes(to, at, cyan, magenta, yellow, 0);
      return Array.from(new Float64Array(k.memory.buffer, to, 3), (v) => -k.log(Math.max(DARK, v)) / Math.LN10) as unknown as Row;
    };
    const amounts = neutrals(densities);
    new Float64Array(k.memory.buffer, neutralAt, 3 * NEUTRALS).set(amounts.flat());
    const couplers = stock.dyes ? couplersOf(stock.parts, densities, amounts) : SAME;
    const of = primaries(k);
    const layers = stock.layers.flatMap((layer, i) => {
      const { gain, rest, back, toWhite, toBlack, high, low } = curveNumbers(k, stock.responses[i]!);
      return [...seen(k, layer, of), stock.speed[i]!, gain, rest, back, toWhite, toBlack, high, low, ...couplers[i]!];
    });
    new Float64Array(k.memory.buffer, layersAt, layers.length).set(layers);
  }

  release(): void {
    for (const store of [this.tables, this.room, this.pairs]) store.release();
  }

  /** Densities for colours of linear light, three numbers each. */
  densities(colours: Float64Array): Float64Array {
    const at = this.answered(colours);
    return new Float64Array(this.engine.kernels.memory.buffer, at, colours.length).slice();
  }

  /** Densities as the cube that `stockRow` takes, in its units. @param colours points of a cube of `side` a side, red fastest @param most the densest that is told */
  cube(colours: Float64Array, side: number, most: number): Int16Array {
    const { engine } = this;
    const bytes = 3 * side ** 3 * PAIR_BYTES;
    const pairs = this.pairs.at(bytes);
    engine.kernels.stockPairs(pairs, this.answered(colours), side, most);
    return new Int16Array(engine.bytes(pairs, bytes).slice().buffer);
  }

  /** @returns where the densities stand */
  private answered(colours: Float64Array): number {
    const at = this.room.at(colours.byteLength);
    new Float64Array(this.engine.kernels.memory.buffer, at, colours.length).set(colours);
    this.engine.kernels.stockDensities(this.numbers, at, colours.length / 3);
    return at;
  }
}

/** Amounts of the three dyes that together are a neutral of each density, as a stock is balanced from white to black. */
function neutrals(densities: (amounts: Row) => Row): Row[] {
  const found: Row[] = [[0, 0, 0]];
  for (let i = 1; i < NEUTRALS; i++) {
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
