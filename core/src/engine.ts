/**
 * One WebAssembly instance of the kernels and the memory it works in. An engine belongs to one thread.
 */

import { ownKernels } from './own-kernels';

/** The functions of `core/kernels`; addresses and counts are numbers, rows are float32. Documented where they are written. */
export interface Kernels {
  readonly memory: WebAssembly.Memory;
  heapBase(): number;
  sin(x: number): number;
  cos(x: number): number;
  exp(x: number): number;
  log(x: number): number;
  pow(x: number, y: number): number;
  codesToFloat(dst: number, src: number, count: number, bytes: number, scale: number, offset: number): void;
  floatToCodes(dst: number, src: number, count: number, bytes: number, scale: number, offset: number, max: number): void;
  floatsToHalves(dst: number, src: number, count: number): void;
  addHalvesRow(dst: number, src: number, count: number, share: number): void;
  /** @param row address of a `YuvRow` (`core/kernels/convert.ts`) */
  yuvToRgbRow(row: number): void;
  yuvHalfToRgbRow(row: number): void;
  rgbToYuvRow(
    luma: number,
    cb: number,
    cr: number,
    r: number,
    g: number,
    b: number,
    count: number,
    bytes: number,
    scale: number,
    offset: number,
    max: number,
    kr: number,
    kb: number,
    weight: number,
    first: number,
  ): void;
  videoToYuvRow(
    luma: number,
    cb: number,
    cr: number,
    y: number,
    u: number,
    v: number,
    count: number,
    bytes: number,
    scale: number,
    offset: number,
    max: number,
    mix: number,
    weight: number,
    first: number,
  ): void;
  chromaNarrow(dst: number, src: number, width: number): void;
  rgbToRgba(dst: number, r: number, g: number, b: number, count: number): void;
  powRow(p: number, count: number, power: number, floor: number): void;
  logRow(p: number, count: number, scale: number, floor: number): void;
  expRow(p: number, count: number, scale: number): void;
  mix(dst: number, under: number, count: number, share: number): void;
  combRow(dst: number, own: number, above: number, near: number, far: number, count: number, level: number): void;
  mixWeighted(dst: number, under: number, weights: number, count: number, share: number): void;
  mixToward(dst: number, top: number, weights: number, count: number, scale: number, offset: number): void;
  layRow(dst: number, cover: number, count: number, value: number, share: number): void;
  blobsRow(dst: number, count: number, left: number, y: number, blobs: number, blobCount: number, level: number, edge: number): number;
  outlineLines(rows: number, width: number, height: number, stride: number, lines: number, count: number): void;
  coverageRow(row: number, count: number): void;
  dividedRow(dst: number, cover: number, count: number): void;
  overRow(dst: number, colour: number, cover: number, count: number, share: number): void;
  strokesRow(dst: number, count: number, left: number, wide: number, y: number, lines: number, lineCount: number, half: number): void;
  strokeRow(dst: number, count: number, left: number, y: number, points: number, pieces: number, half: number, border: number, reach: number, taper: number, share: number): number;
  layLightRow(dst: number, cover: number, count: number, signal: number, share: number, perLog: number): void;
  layBlendedRow(dst: number, top: number, cover: number, count: number, share: number, mode: number): void;
  blendRow(dst: number, under: number, count: number, mode: number): void;
  fillRow(dst: number, count: number, value: number): void;
  displayToLinearRow(p: number, count: number, floor: number): void;
  holdDyesRow(r: number, g: number, b: number, count: number, low: number, share: number): void;
  matrixRow(a: number, b: number, c: number, count: number, m: number): void;
  affineRow(p: number, count: number, scale: number, offset: number): void;
  clampRow(p: number, count: number, low: number, high: number): void;
  addRow(dst: number, src: number, count: number, scale: number): void;
  timesRow(dst: number, src: number, count: number): void;
  kneeRow(p: number, count: number, from: number, knee: number): void;
  halveOverRow(dst: number, a: number, b: number, count: number, from: number, knee: number): void;
  lumaRow(dst: number, r: number, g: number, b: number, count: number, kr: number, kb: number): void;
  ellipseRow(dst: number, count: number, start: number, step: number, across: number, soft: number): void;
  tableRow(p: number, count: number, table: number, size: number, low: number, scale: number): void;
  lightRow(p: number, count: number, table: number): void;
  cubeRow(r: number, g: number, b: number, count: number, cube: number, size: number): void;
  addBlocks(sums: number, row: number, count: number, columns: number): void;
  fillBlocks(row: number, sums: number, count: number, columns: number, rows: number): void;
  stockPairs(dst: number, densities: number, side: number, most: number): void;
  stockRow(r: number, g: number, b: number, count: number, cube: number, greys: number): void;
  stockPartRow(r: number, g: number, b: number, count: number, cube: number, greys: number, share: number): void;
  dyeTable(dst: number, shape: number, wavelengths: number, steps: number, perAmount: number): void;
  /** @param stock address of a `StockNumbers` (`core/kernels/stock-colour.ts`) */
  passDyes(dst: number, stock: number, cyan: number, magenta: number, yellow: number, under: number): void;
  stockDensities(stock: number, colours: number, count: number): void;
  byLumaRow(r: number, g: number, b: number, count: number, table: number, size: number, kr: number, kb: number): void;
  saturateRow(r: number, g: number, b: number, count: number, s: number, kr: number, kb: number): void;
  byHueRow(r: number, g: number, b: number, count: number, table: number, kr: number, kb: number): void;
  countRow(rgba: number, count: number, step: number, columns: number, waves: number, wave: number, vector: number, bins: number): void;
  beyondRow(r: number, g: number, b: number, count: number, low: number, high: number, out: number): void;
  clearBytes(p: number, bytes: number): void;
  narrowCounts(dst: number, src: number, count: number): void;
  bellRow(dst: number, src: number, count: number, weights: number, reach: number): void;
  bellRows(dst: number, rows: number, count: number, weights: number, reach: number): void;
  halveRows(dst: number, r0: number, r1: number, r2: number, r3: number, r4: number, r5: number, count: number): void;
  doubleRows(dst: number, side: number, near: number, far: number, count: number): void;
  /** @param to address of a `Laying` (`core/kernels/planes.ts`) */
  bellPlane(to: number, src: number, stride: number, width: number, height: number, weights: number, reach: number, room: number): void;
  bellAndHalvePlane(
    to: number,
    half: number,
    halfStride: number,
    src: number,
    stride: number,
    width: number,
    height: number,
    weights: number,
    reach: number,
    room: number,
    halfRoom: number,
  ): void;
  halvePlane(dst: number, dstStride: number, src: number, stride: number, width: number, height: number, room: number): void;
  doublePlane(to: number, src: number, stride: number, width: number, height: number, room: number): void;
  halveRow(dst: number, src: number, count: number): void;
  doubleRow(dst: number, src: number, count: number): void;
  boxRow(dst: number, src: number, count: number, radius: number): void;
  addWindowRow(dst: number, src: number, count: number, radius: number, share: number): void;
  rotateRow(b: number, c: number, count: number, cosine: number, sine: number): void;
  rampRow(dst: number, count: number, start: number, step: number): void;
  warpCubicThree(
    d0: number,
    d1: number,
    d2: number,
    count: number,
    xs: number,
    ys: number,
    s0: number,
    s1: number,
    s2: number,
    stride: number,
    width: number,
    height: number,
  ): void;
  warpCubic(dst: number, count: number, xs: number, ys: number, src: number, stride: number, width: number, height: number): void;
  warpLinear(dst: number, count: number, xs: number, ys: number, src: number, stride: number, width: number, height: number): void;
  copy(dst: number, src: number, bytes: number): void;
  shelfRow(p: number, count: number, b0: number, b1: number, a1: number): void;
  shelfFour(p: number, count: number, b0: number, b1: number, a1: number): void;
  phaseFour(p: number, count: number): void;
  splitRow(dst: number, stride: number, src: number, count: number): void;
  joinRow(dst: number, src: number, stride: number, count: number): void;
  phaseRow(dst: number, src: number, count: number): void;
  carrierRow(i: number, q: number, phase: number, strength: number, count: number): void;
  addTimesRow(dst: number, a: number, b: number, count: number): void;
  discriminateRow(dst: number, i: number, q: number, count: number): void;
  concealRow(dst: number, above: number, strength: number, count: number, least: number): void;
  displaceRow(dst: number, src: number, count: number, shifts: number): void;
  padRow(dst: number, src: number, count: number, pad: number): void;
  extendRow(row: number, count: number, pad: number): void;
  gatherRow(dst: number, src: number, count: number, starts: number, weights: number, taps: number): void;
  gatherRows(dst: number, dstStride: number, src: number, srcStride: number, count: number, starts: number, weights: number, taps: number): void;
  twiceRow(dst: number, src: number, count: number, weights: number, reach: number): void;
  firRow(dst: number, src: number, count: number, weights: number, taps: number): void;
  mixRows(dst: number, rows: number, weights: number, taps: number, count: number): void;
  whiteRow(dst: number, count: number, seed: number, from: number): void;
  addHeldRow(dst: number, src: number, count: number): void;
  bellNoise(
    dst: number,
    stride: number,
    y: number,
    rows: number,
    count: number,
    ring: number,
    ringStride: number,
    made: number,
    seeds: number,
    weights: number,
    reach: number,
  ): void;
  grainRow(
    r: number,
    g: number,
    b: number,
    a0: number,
    b0: number,
    a1: number,
    b1: number,
    a2: number,
    b2: number,
    count: number,
    own: number,
    shared: number,
    c0: number,
    c1: number,
    c2: number,
  ): void;
  grainRowGrey(r: number, g: number, b: number, a0: number, b0: number, count: number, c0: number, c1: number, c2: number): void;
  floatToShorts(dst: number, src: number, count: number, scale: number): void;
  scanlineRow(p: number, count: number, width: number, widening: number, c1: number, c2: number, c3: number): void;
}

const PAGE = 65536;
/** Kernels may read and write up to this many bytes past a buffer; see convert.ts. */
const SLACK = 64;

interface Block {
  at: number;
  size: number;
}

export class Engine {
  private free: Block[] = [];
  private readonly taken = new Map<number, number>();
  private top: number;
  private floatView = new Float32Array(0);
  private view = new Int32Array(0);

  private constructor(readonly kernels: Kernels) {
    this.top = (kernels.heapBase() + 63) & ~63;
  }

  /**
   * @param wasm the bytes of `kernels.wasm` or a module compiled from them
   * @throws WebAssembly.CompileError where the processor or the runtime has no WebAssembly SIMD
   */
  static async create(wasm: BufferSource | WebAssembly.Module): Promise<Engine> {
    const imports = {
      env: {
        abort: () => {
          throw new Error('kernel aborted');
        },
      },
    };
    const module = wasm instanceof WebAssembly.Module ? wasm : await WebAssembly.compile(wasm);
    const instance = await WebAssembly.instantiate(module, imports);
    return new Engine(instance.exports as unknown as Kernels);
  }

  /** With the kernels that lie beside this package. Throws Error where they cannot be read. */
  static async load(): Promise<Engine> {
    return Engine.create(await ownKernels());
  }

  /** Bytes of memory held by the instance. */
  get memoryBytes(): number {
    return this.kernels.memory.buffer.byteLength;
  }

  /** Reserves `bytes` (contents undefined), aligned to 64, with slack after them. Throws RangeError when memory is used up. */
  allocate(bytes: number): number {
    const size = (bytes + SLACK + 63) & ~63;
    const fit = this.free.findIndex((block) => block.size >= size);
    let at: number;
    if (fit >= 0) {
      const block = this.free[fit]!;
      at = block.at;
      if (block.size === size) this.free.splice(fit, 1);
      else this.free[fit] = { at: block.at + size, size: block.size - size };
    } else {
      // A little room before the first block lets a kernel reach one sample to the left of a row.
      at = this.top;
      this.top += size;
      const missing = this.top - this.memoryBytes;
      if (missing > 0 && this.kernels.memory.grow(Math.ceil(missing / PAGE)) < 0) throw new RangeError('the picture is too large for the memory of the engine');
    }
    this.taken.set(at, size);
    return at;
  }

  /** Gives a reservation back; neighbours are joined. */
  release(at: number): void {
    const size = this.taken.get(at);
    if (size === undefined) throw new Error(`nothing is reserved at ${at}`);
    this.taken.delete(at);
    this.free.push({ at, size });
    this.free.sort((a, b) => a.at - b.at);
    const joined: Block[] = [];
    for (const block of this.free) {
      const last = joined.at(-1);
      if (last && last.at + last.size === block.at) last.size += block.size;
      else joined.push(block);
    }
    this.free = joined;
  }

  /** Bytes reserved and not released. */
  get reservedBytes(): number {
    let sum = 0;
    for (const size of this.taken.values()) sum += size;
    return sum;
  }

  // Views of a memory that has grown are empty. (To ask it for its buffer every time takes a tenth of a microsecond.)

  /** The whole memory as 32-bit numbers, for lists that are written row by row; good until the next reservation. */
  get words(): Int32Array {
    if (this.view.length === 0) this.view = new Int32Array(this.kernels.memory.buffer);
    return this.view;
  }

  /** The whole memory as floats, for single samples; good until the next reservation. */
  get samples(): Float32Array {
    if (this.floatView.length === 0) this.floatView = new Float32Array(this.kernels.memory.buffer);
    return this.floatView;
  }

  /** Memory that grows with what is asked of it. */
  store(): Store {
    return new Store(this);
  }

  bytes(at: number, length: number): Uint8Array {
    return new Uint8Array(this.kernels.memory.buffer, at, length);
  }

  floats(at: number, length: number): Float32Array {
    return new Float32Array(this.kernels.memory.buffer, at, length);
  }

  ints(at: number, length: number): Int32Array {
    return new Int32Array(this.kernels.memory.buffer, at, length);
  }
}

/** A reservation that is made larger when more is asked for; its contents are lost then. */
export class Store {
  private place = 0;
  private size = -1;

  constructor(private readonly engine: Engine) {}

  /** The address of at least `bytes`. */
  at(bytes: number): number {
    if (bytes > this.size) {
      this.release();
      this.place = this.engine.allocate(bytes);
      this.size = bytes;
    }
    return this.place;
  }

  /** The address of `values` as floats. */
  floats(values: ArrayLike<number>): number {
    const at = this.at(values.length * 4);
    this.engine.floats(at, values.length).set(values);
    return at;
  }

  /** The address of `values` as they are. */
  numbers(values: Int16Array | Int32Array): number {
    const at = this.at(values.byteLength);
    this.engine.bytes(at, values.byteLength).set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength));
    return at;
  }

  release(): void {
    if (this.size >= 0) this.engine.release(this.place);
    this.size = -1;
  }
}
