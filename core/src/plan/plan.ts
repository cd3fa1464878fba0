import type { Engine } from '../engine';
import { sameEncoding, type Encoding, type RawFrame } from '../frame/encoding';
import { Exporter, type Target } from '../frame/export';
import { Importer } from '../frame/import';
import type { Surface } from '../frame/surface';
import type { Look } from '../look/look';
import { resolveLook, resolveValues, type ResolvedUse } from '../look/resolve';
import type { Value } from '../traits/settings';
import { unitsFor } from '../traits/units';
import { Canvases, sizeKey, type Size } from './canvases';
import type { ColourTable } from '../formats/cube';
import type { Kept } from './kept';
import { AS_SHOT, type Preparation } from '../shot/preparation';
import { Moments, type UseState } from './moment';
import { Reader } from './reader';
import { RouteMaker, type Route, type Work } from './route';
import type { TraitEvent } from '../events/events';

export interface PlanOptions {
  /** The pictures that come in. */
  readonly source: { readonly width: number; readonly height: number; readonly encoding: Encoding };
  /** The pictures that go out. A different shape is filled and cropped about the middle, never barred. */
  readonly target: { readonly width: number; readonly height: number; readonly encoding: Target };
  /** Pictures a second of the file. */
  readonly rate: number;
  /** Rows of a band; changes speed alone, never a picture. */
  readonly bandRows?: number;
  /** What is done to the footage before its look. Trim and speed are the caller's: `frame` is the prepared shot's picture. */
  readonly preparation?: Preparation;
  /** Tables of colours that the look or the preparation refers to, by identity. */
  readonly tables?: Readonly<Record<string, ColourTable>>;
  /** Tells milliseconds; where it is given, `costs` is kept. */
  readonly clock?: () => number;
}

/** One thing done to the picture, as `Plan.steps` lists it. */
export interface Step {
  readonly name: string;
  readonly domain: Work['domain'];
  readonly footprint: Work['footprint'];
  readonly width: number;
  readonly height: number;
}

/** What a use is at the picture being rendered. */
export interface Live extends UseState {
  readonly use: ResolvedUse;
  /** Settings as numbers for its picture. */
  readonly settings: Readonly<Record<string, Value>>;
}

/** An event of a look as the interface sees it. */
export interface ListedEvent extends TraitEvent {
  readonly life: number;
  readonly index: number;
  readonly trait: string;
}

/**
 * A look compiled for a size and a rate. `render(n)` depends on the look, the picture and n alone.
 *
 * Which uses act may differ from picture to picture (events, times, motions); each set of them has a route, made when it is
 * first met. Neighbouring point and line steps run together over bands of rows that stay in cache, from the integers of
 * the file to the integers of the target where nothing stands between that needs the whole picture.
 */
export class Plan {
  /** Milliseconds spent by step, in the order of the last route, where a clock was given. */
  readonly costs = new Map<string, number>();
  private readonly moments: Moments;
  private readonly importer: Importer;
  private exporter: Exporter | undefined;
  private readonly canvases: Canvases;
  private readonly reader: Reader;
  private readonly maker: RouteMaker;
  private readonly routes = new Map<string, Route>();
  /** Settings that do not move, worked out once. */
  private readonly resting = new Map<string, Readonly<Record<string, Value>>>();
  private readonly out: Size;

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
    this.moments = new Moments(engine, look, resolveLook(look), options.rate);
    this.out = { width: target.width, height: target.height };
    this.importer = new Importer(engine, source.width, source.height, source.encoding);
    this.canvases = new Canvases(engine, options.bandRows);
    const table = (id: string): ColourTable | undefined => options.tables?.[id];
    this.reader = new Reader(engine, this.importer, this.out, options.preparation ?? AS_SHOT, table);
    this.maker = new RouteMaker(
      engine,
      this.canvases,
      this.reader,
      () => this.output(),
      this.out,
      (use) => this.moments.rateOf(use),
      table,
    );
  }

  /** The steps of a picture on which every use acts that can. */
  get steps(): Step[] {
    const uses = this.moments.uses.filter((use) => use.strength > 0 && !use.trait.cadence && !use.trait.idle?.(this.settle(use, use.values) as never));
    return this.route(uses.map((use) => this.lively(use, this.moments.state(use, this.moments.counts(0))))).works.map(({ name, domain, footprint, size }) => ({
      name,
      domain,
      footprint,
      ...size,
    }));
  }

  /** Gives the engine's memory back. The plan cannot be used again. */
  dispose(): void {
    this.importer.release();
    this.reader.release();
    this.exporter?.release();
    this.maker.release();
    this.canvases.release();
  }

  /** The picture of the prepared shot that `render(n)` must be given. */
  sourcePicture(n: number): number {
    return this.moments.counts(n).source;
  }

  /** Events of all uses that begin in a stretch of time (seconds), also those muted (scale 0). */
  events(from: number, to: number): ListedEvent[] {
    return this.moments.uses
      .filter((use) => use.trait.events)
      .flatMap((use) => this.moments.events(use, from, to).map((event) => ({ ...event, life: use.life, index: use.index, trait: use.trait.id })));
  }

  /**
   * Wears one picture.
   * @param n number of the picture, from 0 @param frame picture `sourcePicture(n)` of the footage
   * @param kept where the picture before a use is kept, so that changing that use costs what comes after it
   * @param into planes that are no longer needed, those of `frame` among them; where they are of the target's lengths the picture is written over them
   * @returns planes of the target's encoding (one plane for `rgba`)
   * @throws RangeError where the picture is not of the plan's source size
   */
  render(n: number, frame: RawFrame, kept?: Kept, into?: readonly Uint8Array[]): Uint8Array[] {
    const counts = this.moments.counts(n);
    // A held picture holds its framing.
    this.reader.at(counts.source / this.options.rate);
    const live = this.moments.uses
      .filter((use) => use.strength > 0 && !use.trait.cadence)
      .map((use) => this.lively(use, this.moments.state(use, counts)))
      .filter(({ use, strength, settings, events }) => strength > 0 && !(use.trait.events && events.length === 0) && !use.trait.idle?.(settings as never));
    if (live.length === 0 && this.unchanged()) return frame.planes.map((plane) => plane.slice());
    const split = kept ? live.findIndex(({ use }) => use.life === kept.life && use.index === kept.index) : -1;
    const route = this.route(live, split);
    if (split > 0) {
      const key = JSON.stringify([
        kept!.source,
        n,
        [this.options.source.width, this.options.source.height, this.out, this.options.rate, this.options.preparation],
        live.slice(0, split).map(({ use, strength, values, events }) => [use.trait.id, use.carrier.id, use.seed, use.use.blend, use.use.zone, strength, values, events]),
      ]);
      const barrier = route.barrier!;
      const whole = this.canvases.whole(barrier);
      if (!kept!.restore(key, this.engine, whole)) {
        this.importer.load(frame);
        this.run(route.groups.slice(0, route.before), live);
        kept!.keep(key, this.engine, whole);
      }
      this.run(route.groups.slice(route.before), live);
    } else {
      this.importer.load(frame);
      this.run(route.groups, live);
    }
    return this.output().take(into);
  }

  /**
   * As `render`, for a target of `rgba`, with the shares of pixels that have a channel below black or above white: those a screen holds
   * at its ends, and the address at which the picture lies in the engine's memory until the next.
   */
  renderCounted(n: number, frame: RawFrame, kept?: Kept): { planes: Uint8Array[]; at: number; below: number; above: number } {
    this.output().countBeyond();
    const planes = this.render(n, frame, kept);
    return { planes, at: this.output().place, ...this.output().beyond };
  }

  private output(): Exporter {
    this.exporter ??= new Exporter(this.engine, this.out.width, this.out.height, this.options.target.encoding);
    return this.exporter;
  }

  private unchanged(): boolean {
    const { source, target } = this.options;
    return (
      this.reader.untouched &&
      source.width === target.width &&
      source.height === target.height &&
      typeof target.encoding === 'object' &&
      sameEncoding(source.encoding, target.encoding)
    );
  }

  private settle(use: ResolvedUse, values: Readonly<Record<string, Value>>): Readonly<Record<string, Value>> {
    const { width, height } = this.maker.sizeOf(use);
    const work = () => resolveValues(use.trait, values, unitsFor(use.carrier, width, height));
    if (values !== use.values) return work();
    const key = `${use.life}.${use.index}`;
    const known = this.resting.get(key) ?? work();
    this.resting.set(key, known);
    return known;
  }

  private lively(use: ResolvedUse, state: UseState): Live {
    return { ...state, use, settings: this.settle(use, state.values) };
  }

  private route(live: readonly Live[], split = -1): Route {
    const key = `${live.map(({ use, strength }) => `${use.life}.${use.index}${strength < 1 ? '~' : ''}`).join()}|${split}`;
    let route = this.routes.get(key);
    if (!route) {
      route = this.maker.make(live, split);
      this.routes.set(key, route);
    }
    return route;
  }

  private run(groups: readonly Work[][], live: readonly Live[]): void {
    const { clock } = this.options;
    for (const group of groups) {
      const { size } = group[0]!;
      if (group[0]!.footprint === 'area') this.timed(group[0]!, this.canvases.whole(size), live, clock);
      else for (const band of this.canvases.bands(size)) for (const work of group) this.timed(work, band, live, clock);
    }
  }

  private timed(work: Work, surface: Surface, live: readonly Live[], clock?: () => number): void {
    if (!clock) return work.run(surface, live);
    const from = clock();
    work.run(surface, live);
    const name = `${work.name} ${sizeKey(work.size)}`;
    this.costs.set(name, (this.costs.get(name) ?? 0) + clock() - from);
  }
}
