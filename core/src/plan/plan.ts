import type { Engine, Store } from '../engine';
import { sameEncoding, type Encoding, type RawFrame } from '../frame/encoding';
import { centredWindow, Exporter, type Target } from '../frame/export';
import { Importer } from '../frame/import';
import type { Surface } from '../frame/surface';
import type { Look } from '../look/look';
import type { ResolvedUse } from '../look/resolve';
import { Canvases } from './canvases';
import type { ColourTable } from '../formats/cube';
import type { FontOutlines } from '../text/outlines';
import type { Kept } from './kept';
import { AS_SHOT, type Preparation } from '../shot/preparation';
import { narrowLives } from './narrow-lives';
import { Reader } from './reader';
import { Recollection, writeHalves } from './recollection';
import { RouteMaker, type Files, type Route } from './route';
import type { Work } from './work';
import { Score } from '../score/score';
import { prefixOf, type Live, type Memory, type Remembered, type Showing } from '../score/showing';
import { sizeKey, workingSize, type Size } from '../score/size';
import type { PlateInfo } from '../frame/plate';
import type { Beside, Domain, PlateAsked } from '../traits/trait';

export interface PlanOptions {
  /** The pictures that come in. */
  readonly source: { readonly width: number; readonly height: number; readonly encoding: Encoding };
  /** The pictures that go out. A different shape is filled and cropped about the middle, never barred. */
  readonly target: { readonly width: number; readonly height: number; readonly encoding: Target };
  /** Pictures a second of the file. */
  readonly rate: number;
  /** Rows of a band; changes speed alone, never a picture. */
  readonly bandRows?: number;
  /** What is done to the footage before its look. Trim and speed are the caller's: its pictures are those of the prepared shot. */
  readonly preparation?: Preparation;
  /** Tables of colours that the look or the preparation refers to, by identity. */
  readonly tables?: Readonly<Record<string, ColourTable>>;
  /** Fonts that the look refers to, by identity, with the characters its texts need (`fontsOf`). */
  readonly fonts?: Readonly<Record<string, FontOutlines>>;
  /** What is known of the plates that the look refers to, by identity; one that is not told of is not laid. */
  readonly plates?: Readonly<Record<string, PlateInfo>>;
  /** Names the footage, where all pictures that are given are of the same: what a screen remembers is then kept from one picture to the next. */
  readonly footage?: string;
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

/** Gives pictures of plates by the plate's identity and their numbers. */
export type PlatePictures = (plate: string, picture: number) => RawFrame;

const noPlates: PlatePictures = (plate) => {
  throw new Error(`the pictures of the plate ${plate} were not given`);
};

/** Gives pictures of the prepared shot by their numbers; a lone picture stands for a shot that shows nothing else. */
export type Pictures = RawFrame | ((picture: number) => RawFrame);

const givenBy = (pictures: Pictures): ((picture: number) => RawFrame) => (typeof pictures === 'function' ? pictures : () => pictures);

/**
 * Wears the pictures that a score tells of, at a size. `render(n)` depends on the look, the picture and n alone.
 *
 * Which uses act may differ from picture to picture (events, times, motions); each set of them has a route, made when it is
 * first met. Neighbouring point and line steps run together over bands of rows that stay in cache, from the integers of
 * the file to the integers of the target where nothing stands between that needs the whole picture.
 */
export class Plan {
  /** Milliseconds spent by step, in the order of the last route, where a clock was given. */
  readonly costs = new Map<string, number>();
  /** What happens at each picture. */
  readonly score: Score;
  private readonly importer: Importer;
  private exporter: Exporter | undefined;
  private readonly canvases: Canvases;
  private readonly reader: Reader;
  private readonly maker: RouteMaker;
  private readonly routes = new Map<string, Route>();
  /** Where pictures beside the one being worn are kept until they are read. */
  private readonly besides = new Map<string, Store>();
  private readonly recollection: Recollection;
  /** Gives pictures of plates while a picture is rendered. */
  private plates: PlatePictures = noPlates;
  /** The file's picture, which holds the picture with bars where it is of another shape. */
  private readonly target: Size;

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
    this.target = { width: target.width, height: target.height };
    this.score = new Score(engine, look, { rate: options.rate, size: this.target, plates: options.plates });
    const { out } = this.score;
    this.recollection = new Recollection(engine);
    this.importer = new Importer(engine, source.width, source.height, source.encoding);
    this.canvases = new Canvases(engine, options.bandRows);
    const files: Files = {
      table: (id) => options.tables?.[id],
      font: (id) => options.fonts?.[id],
      plate: (id) => options.plates?.[id],
      platePicture: (id, picture) => this.plates(id, picture),
    };
    this.reader = new Reader(engine, this.importer, out, options.preparation ?? AS_SHOT, files.table);
    this.maker = new RouteMaker(
      engine,
      this.canvases,
      this.reader,
      () => this.output(),
      out,
      (use) => this.score.rateOf(use),
      files,
      narrowLives(this.score.uses),
    );
  }

  /** The steps of a picture on which every use acts that can. */
  get steps(): Step[] {
    return this.route(this.score.possible()).works.map(({ name, domain, footprint, size }) => ({ name, domain, footprint, ...size }));
  }

  /** Gives the engine's memory back. The plan cannot be used again. */
  dispose(): void {
    this.importer.release();
    this.reader.release();
    this.exporter?.release();
    this.maker.release();
    this.canvases.release();
    for (const store of this.besides.values()) store.release();
    this.recollection.release();
  }

  /** The pictures of the prepared shot that `render(n)` asks for now: as the score tells, but what is remembered. */
  sourcePictures(n: number): number[] {
    return this.score.sourcePictures(n, (key) => this.options.footage !== undefined && this.recollection.has(key));
  }

  /** The pictures of plates that `render(n)` reads, each once. */
  platePictures(n: number): PlateAsked[] {
    return this.score.platePictures(n);
  }

  /**
   * Wears one picture.
   * @param n number of the picture, from 0 @param pictures gives those that `sourcePictures(n)` tells
   * @param plates gives those that `platePictures(n)` tells
   * @param kept where the picture before a use is kept, so that changing that use costs what comes after it
   * @param into planes that are no longer needed, those of the footage among them; where they are of the target's lengths the picture is written over them
   * @returns planes of the target's encoding (one plane for `rgba`)
   * @throws RangeError where a picture is not of the plan's source size
   */
  render(n: number, pictures: Pictures, kept?: Kept, into?: readonly Uint8Array[], plates: PlatePictures = noPlates): Uint8Array[] {
    return this.wearing(plates, () => {
      const showing = this.score.at(n);
      const given = givenBy(pictures);
      if (showing.live.length === 0 && this.unchanged()) return given(showing.source).planes.map((plane) => plane.slice());
      this.wear(n, showing, given, kept);
      return this.output().take(into);
    });
  }

  /** Does what needs the plates' pictures, and keeps in order what screens remember. */
  private wearing<T>(plates: PlatePictures, run: () => T): T {
    this.plates = plates;
    let done: T;
    try {
      done = run();
    } catch (error) {
      // A place that was taken for a picture may not have been written.
      this.recollection.clear();
      throw error;
    }
    if (this.options.footage === undefined) this.recollection.clear();
    else this.recollection.next();
    return done;
  }

  private wear(n: number, showing: Showing, given: (picture: number) => RawFrame, kept?: Kept): void {
    const { live } = showing;
    const split = kept ? live.findIndex(({ use }) => use.life === kept.life && use.index === kept.index) : -1;
    const route = this.route(live, split);
    if (split > 0) {
      const barrier = route.barrier!;
      const key = JSON.stringify([
        kept!.source,
        n,
        [this.options.source.width, this.options.source.height, this.score.out, this.options.rate, this.options.preparation, barrier],
        prefixOf(showing, split),
      ]);
      const after = this.withOthers(showing, given, split);
      const whole = this.canvases.whole(barrier);
      if (!kept!.restore(key, this.engine, whole)) {
        this.wearUpTo(showing, given, route, split);
        kept!.keep(key, this.engine, whole);
      }
      this.run(route.groups.slice(route.before), after);
    } else this.wearUpTo(showing, given, route);
  }

  /**
   * As `render`, for a target of `rgba`, with the shares of pixels that have a channel below black or above white: those a screen holds
   * at its ends, and the address at which the picture lies in the engine's memory until the next.
   */
  renderCounted(n: number, pictures: Pictures, kept?: Kept, plates?: PlatePictures): { planes: Uint8Array[]; at: number; below: number; above: number } {
    this.output().countBeyond();
    const planes = this.render(n, pictures, kept, undefined, plates);
    return { planes, at: this.output().place, ...this.output().beyond };
  }

  /**
   * One row of the picture, as `render` makes it for a target of `rgba`. Of a picture that nothing is done to, only the band that holds the row is gone through.
   * @param y from the top
   * @throws RangeError where the picture has no such row
   */
  renderRow(n: number, pictures: Pictures, y: number, plates: PlatePictures = noPlates): Uint8Array {
    const { height } = this.target;
    if (!Number.isInteger(y) || y < 0 || y >= height) throw new RangeError(`a picture of ${height} rows has no row ${y}`);
    return this.wearing(plates, () => {
      const showing = this.score.at(n);
      const given = givenBy(pictures);
      const { groups } = this.route(showing.live);
      if (showing.live.length === 0 && groups.length === 1) {
        this.read(showing, given);
        this.run(groups, showing.live, this.output().rowWithin(y));
      } else this.wear(n, showing, given);
      return this.output().takeRow(y);
    });
  }

  private output(): Exporter {
    const { width, height } = this.target;
    const { encoding } = this.options.target;
    this.exporter ??= new Exporter(this.engine, width, height, encoding, centredWindow(this.score.out, this.target, encoding));
    return this.exporter;
  }

  private unchanged(): boolean {
    const { source, target } = this.options;
    const { out } = this.score;
    return (
      this.reader.untouched &&
      out.width === target.width &&
      out.height === target.height &&
      source.width === target.width &&
      source.height === target.height &&
      typeof target.encoding === 'object' &&
      sameEncoding(source.encoding, target.encoding)
    );
  }

  /** Reads the footage and wears what acts on it: all, or the first `count` uses, up to the route's barrier. */
  private wearUpTo(showing: Showing, given: (picture: number) => RawFrame, route: Route, count?: number, path = ''): void {
    const live = this.withOthers(showing, given, 0, count, path);
    this.read(showing, given);
    this.run(count === undefined ? route.groups : route.groups.slice(0, route.before), live);
  }

  private read({ source }: Showing, given: (picture: number) => RawFrame): void {
    // A held picture holds its framing.
    this.reader.at(source / this.options.rate);
    this.importer.load(given(source));
  }

  /**
   * Uses with the other pictures that those of them from `from` up to `to` read, each worn up to the use that reads it.
   * @param path names the picture among those that are kept at once
   */
  private withOthers({ live, beside, earlier }: Showing, given: (picture: number) => RawFrame, from = 0, to = live.length, path = ''): readonly Live[] {
    if (beside.size === 0 && earlier.size === 0) return live;
    return live.map((reader, i) => {
      if (i < from || i >= to) return reader;
      const others = [...(beside.get(i) ?? [])].map(([offset, showing]): [Beside, Surface] => [offset, this.besideOf(showing, given, `${path}/${i}.${offset}`)]);
      const remembered = earlier.get(i);
      return {
        ...reader,
        ...(others.length ? { beside: new Map(others) } : {}),
        ...(remembered ? { memory: this.memoryOf(remembered, reader.use, given, `${path}/${i}`) } : {}),
      };
    });
  }

  private besideOf(showing: Showing, given: (picture: number) => RawFrame, path: string): Surface {
    const { worn } = this.wornBefore(showing, given, path);
    const bytes = worn.stride * worn.height;
    let store = this.besides.get(path);
    if (!store) this.besides.set(path, (store = this.engine.store()));
    const at = store.at(3 * bytes);
    worn.planes.forEach((plane, i) => this.engine.kernels.copy(at + i * bytes, plane, bytes));
    return { ...worn, planes: [at, at + bytes, at + 2 * bytes] };
  }

  /** Finds what a screen showed, or wears it now. */
  private memoryOf({ key, before }: Remembered, use: ResolvedUse, given: (picture: number) => RawFrame, path: string): Memory {
    const places = before.map((one) => {
      const known = this.recollection.use(one.key);
      if (known !== undefined) return known;
      const { worn, domain } = this.wornBefore(one.showing, given, path);
      // What remembers names its domain.
      this.maker.turn(worn, domain, use.trait.domain as Domain);
      const at = this.recollection.add(one.key, worn);
      writeHalves(this.engine, worn, at);
      return at;
    });
    const own = this.recollection.use(key) ?? this.recollection.add(key, this.canvases.whole(workingSize(use, this.score.out)));
    return { own, before: places };
  }

  /** A picture as it is before the last use of its showing. */
  private wornBefore(showing: Showing, given: (picture: number) => RawFrame, path: string): { worn: Surface; domain: Domain } {
    const count = showing.live.length - 1;
    const route = this.route(showing.live, count);
    this.wearUpTo(showing, given, route, count, path);
    return { worn: this.canvases.whole(route.barrier!), domain: route.barrier!.domain };
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

  /** @param row where it is given, only the band that holds it is gone through */
  private run(groups: readonly Work[][], live: readonly Live[], row?: number): void {
    const { clock } = this.options;
    for (const group of groups) {
      const { size } = group[0]!;
      if (group[0]!.footprint === 'area') this.timed(group[0]!, this.canvases.whole(size), live, clock);
      else
        for (const band of this.canvases.bands(size)) {
          if (row === undefined || (row >= band.top && row < band.bottom)) for (const work of group) this.timed(work, band, live, clock);
        }
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
