import type { Engine } from '../engine';
import { sameEncoding, type Encoding, type RawFrame } from '../frame/encoding';
import { Exporter, type Target } from '../frame/export';
import { Importer } from '../frame/import';
import { cubicTaps, Resampler } from '../frame/resample';
import { floatStride, type Surface } from '../frame/surface';
import type { Look } from '../look/look';
import { resolveLook, resolveValues, type ResolvedUse } from '../look/resolve';
import type { Domain, Footprint, Render } from '../traits/trait';
import { unitsFor } from '../traits/units';
import { changeDomain } from './domains';

export interface PlanOptions {
  /** The pictures that come in. */
  readonly source: { readonly width: number; readonly height: number; readonly encoding: Encoding };
  /** The pictures that go out. A different shape is filled and cropped about the middle, never barred. */
  readonly target: { readonly width: number; readonly height: number; readonly encoding: Target };
  /** Pictures a second. */
  readonly rate: number;
  /** Rows of a band; changes speed alone, never a picture. */
  readonly bandRows?: number;
}

/** One thing done to the picture, as `Plan.steps` lists it. */
export interface Step {
  readonly name: string;
  readonly domain: Domain;
  readonly footprint: Footprint;
}

interface Work extends Step {
  /** Works on the rows of a surface (point, line) or the whole of it (area). */
  readonly run: (surface: Surface, frame: number) => void;
}

/** Bytes of the three planes that a band may take, to stay in a processor's second-level cache. */
const BAND_BYTES = 512 * 1024;

/**
 * A look compiled for a size and a rate. `render(n)` depends on the look, the picture and n alone.
 *
 * Neighbouring point and line steps run together over bands of rows that stay in cache, from the integers of the file to
 * the integers of the target where no area step stands between; area steps get whole planes.
 */
export class Plan {
  readonly steps: readonly Step[];
  private readonly importer: Importer;
  private readonly exporter: Exporter | null;
  private readonly held: number[] = [];
  private readonly groups: Work[][];
  private readonly bandRows: number;
  /** Two sets of planes at the target's size where an area step needs them, else one band. */
  private readonly whole: Surface | null;
  private readonly spare: number[];
  private readonly band: Surface;
  private readonly under: number[];

  /**
   * @param look one that `checkLook` has passed
   * @throws RangeError for sizes below 1 or above 16384
   */
  constructor(
    private readonly engine: Engine,
    look: Look,
    readonly options: PlanOptions,
  ) {
    const { source, target } = options;
    for (const side of [source.width, source.height, target.width, target.height]) {
      if (!Number.isInteger(side) || side < 1 || side > 16384) throw new RangeError(`a picture's side must be a whole number from 1 to 16384, not ${side}`);
    }
    const { width, height } = target;
    const resized = source.width !== width || source.height !== height;
    const uses = resolveLook(look).filter((use) => !use.trait.idle?.(resolveValues(use, width, height)));
    this.importer = new Importer(engine, source.width, source.height, source.encoding);
    const untouched = uses.length === 0 && !resized && target.encoding !== 'rgba' && sameEncoding(source.encoding, target.encoding);
    this.exporter = untouched ? null : new Exporter(engine, width, height, target.encoding);

    const stride = floatStride(width);
    this.bandRows = options.bandRows ?? Math.max(2, Math.floor(BAND_BYTES / (stride * 3)) & ~1);
    this.under = [0, 1, 2].map(() => this.reserve(stride * this.bandRows));

    const works = this.works(uses, resized);
    this.steps = works;
    this.groups = grouped(works);
    const area = works.some((work) => work.footprint === 'area');
    const planes = (rows: number): [number, number, number] => [this.reserve(stride * rows), this.reserve(stride * rows), this.reserve(stride * rows)];
    this.whole = area ? { planes: planes(height), stride, width, height, top: 0, bottom: height } : null;
    this.spare = area ? planes(height) : [];
    this.band = { planes: area ? [0, 0, 0] : planes(this.bandRows), stride, width, height, top: 0, bottom: 0 };
  }

  /** Gives the engine's memory back. The plan cannot be used again. */
  dispose(): void {
    this.importer.release();
    this.exporter?.release();
    for (const at of this.held) this.engine.release(at);
    this.held.length = 0;
  }

  /**
   * Wears one picture.
   * @param n number of the picture, from 0
   * @returns planes of the target's encoding (one plane for `rgba`)
   * @throws RangeError where the picture is not of the plan's source size
   */
  render(n: number, frame: RawFrame): Uint8Array[] {
    if (!this.exporter) return frame.planes.map((plane) => plane.slice());
    this.importer.load(frame);
    for (const group of this.groups) {
      if (group[0]!.footprint === 'area') group[0]!.run(this.whole!, n);
      else this.runBands(group, n);
    }
    return this.exporter.take();
  }

  private runBands(group: Work[], n: number): void {
    const { height } = this.options.target;
    for (let top = 0; top < height; top += this.bandRows) {
      const bottom = Math.min(height, top + this.bandRows);
      const base = this.whole ?? this.band;
      const planes = this.whole ? base.planes.map((p) => p + top * base.stride) : base.planes;
      const surface: Surface = { ...base, planes: [planes[0]!, planes[1]!, planes[2]!], top, bottom };
      for (const work of group) work.run(surface, n);
    }
  }

  private reserve(bytes: number): number {
    const at = this.engine.allocate(bytes);
    this.held.push(at);
    return at;
  }

  /** Everything from the file's integers to the target's, in order. */
  private works(uses: ResolvedUse[], resized: boolean): Work[] {
    const works: Work[] = [];
    let domain: Domain = 'display';
    const change = (to: Domain): void => {
      if (to === domain) return;
      const from = domain;
      works.push({ name: `${from} to ${to}`, domain: to, footprint: 'point', run: (surface) => changeDomain(this.engine.kernels, surface, from, to) });
      domain = to;
    };
    if (resized) works.push(this.resize());
    else works.push({ name: 'read', domain, footprint: 'point', run: (surface) => this.importer.run(surface) });
    for (const use of uses) {
      if (use.trait.domain !== 'any') change(use.trait.domain);
      works.push(this.wear(use, domain));
    }
    change('display');
    if (this.exporter) works.push({ name: 'write', domain, footprint: 'point', run: (surface) => this.exporter!.run(surface) });
    return works;
  }

  /** Reads at the source's size and brings the middle of it to the target's size and shape. */
  private resize(): Work {
    const { source, target } = this.options;
    const stride = floatStride(source.width);
    const read: Surface = {
      planes: [this.reserve(stride * source.height), this.reserve(stride * source.height), this.reserve(stride * source.height)],
      stride,
      width: source.width,
      height: source.height,
      top: 0,
      bottom: source.height,
    };
    const step = Math.min(source.width / target.width, source.height / target.height);
    const across = cubicTaps(target.width, (source.width - target.width * step) / 2, step);
    const down = cubicTaps(target.height, (source.height - target.height * step) / 2, step);
    const resampler = new Resampler(this.engine, (bytes) => this.reserve(bytes), source.width, source.height, across, down);
    return {
      name: 'read and resize',
      domain: 'display',
      footprint: 'area',
      run: (surface) => {
        this.importer.run(read);
        for (let plane = 0; plane < 3; plane++) resampler.run(surface.planes[plane]!, surface.stride, read.planes[plane]!, read.stride);
      },
    };
  }

  private wear(use: ResolvedUse, domain: Domain): Work {
    const { width, height } = this.options.target;
    const settings = resolveValues(use, width, height);
    const footprint = use.trait.footprint(settings);
    const render = use.trait.prepare({
      engine: this.engine,
      units: unitsFor(use.carrier, width, height),
      settings,
      seed: use.seed,
      rate: this.options.rate,
      reserve: (bytes) => this.reserve(bytes),
    });
    const run = footprint === 'area' ? this.wearWhole(render, use.strength) : this.wearBand(render, use.strength);
    return { name: use.trait.id, domain, footprint, run };
  }

  private wearBand(render: Render, strength: number): Work['run'] {
    const k = this.engine.kernels;
    return (surface, picture) => {
      const bytes = (surface.bottom - surface.top) * surface.stride;
      if (strength < 1) surface.planes.forEach((at, plane) => k.copy(this.under[plane]!, at, bytes));
      render({ surface, picture, spare: [], swap: noSwap });
      if (strength < 1) surface.planes.forEach((at, plane) => k.mix(at, this.under[plane]!, bytes / 4, strength));
    };
  }

  private wearWhole(render: Render, strength: number): Work['run'] {
    const k = this.engine.kernels;
    return (surface, picture) => {
      const swap = (plane: number): void => {
        const before = surface.planes[plane]!;
        surface.planes[plane] = this.spare[plane]!;
        this.spare[plane] = before;
        if (strength < 1) k.mix(surface.planes[plane]!, before, (surface.height * surface.stride) / 4, strength);
      };
      render({ surface, picture, spare: this.spare, swap });
    };
  }
}

function noSwap(): never {
  throw new Error('only area traits have spare planes');
}

/** Area steps stand alone; runs of others stay together. */
function grouped(works: Work[]): Work[][] {
  const groups: Work[][] = [];
  for (const work of works) {
    const last = groups.at(-1);
    if (last && last[0]!.footprint !== 'area' && work.footprint !== 'area') last.push(work);
    else groups.push([work]);
  }
  return groups;
}
