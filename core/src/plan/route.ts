import type { Engine, Store } from '../engine';
import type { Exporter } from '../frame/export';
import { COARSE, cubicTaps, FLAT, flatTaps, NARROW, Resampler, whole as wholePlane, type SincWindow, type Taps } from '../frame/resample';
import type { Surface } from '../frame/surface';
import { RecorderPath } from '../frame/recorder';
import { resolveValues, type ResolvedUse } from '../look/resolve';
import { hash } from '../random/random';
import type { AnyTrait, Displacement, Domain, Footprint, Pass, Render, Setup } from '../traits/trait';
import { unitsFor } from '../traits/units';
import type { Live } from '../score/showing';
import { sizeKey, workingSize, type Size } from '../score/size';
import { composes } from '../look/composes';
import type { Canvases } from './canvases';
import { Composer } from './compose';
import { DomainChanger, domainPath } from './domains';
import { halvesRow, writeHalves } from './recollection';
import type { Reader } from './reader';
import type { Work } from './work';

/** How a set of uses is gone through. */
export interface Route {
  readonly works: readonly Work[];
  /** Works that run band by band together; an area work stands alone. */
  readonly groups: readonly Work[][];
  /** Groups before the use whose picture is kept, and the size and domain of the picture there. */
  readonly before: number;
  readonly barrier?: Barrier;
}

/** What of other files a look refers to. */
export type Files = Pick<Setup, 'table' | 'font' | 'plate' | 'platePicture'>;

/** Where a route is cut before a use: the picture as the use takes it. */
interface Barrier extends Size {
  readonly domain: Domain;
}

const IN_PLACE: Displacement = { x: 0, y: 0 };

const same = (a: Size, b: Size): boolean => a.width === b.width && a.height === b.height;

/** The domain a trait is given a picture in that is in `now`. */
function domainFor({ domain }: AnyTrait, now: Domain): Domain {
  // What is recorded is no picture before it is played.
  if (domain === 'any') return now === 'rf' ? 'video' : now;
  if (domain === 'rgb') return now === 'video' || now === 'rf' ? 'display' : now;
  return domain;
}

/** Makes routes; what traits prepare and what resizing needs is made once and shared by all of them. */
export class RouteMaker {
  private readonly held: number[] = [];
  private readonly owned: { release(): void }[] = [];
  private readonly prepared = new Map<string, Render<never>>();
  private readonly resizers = new Map<string, Resampler>();
  private readonly recorders = new Map<string, RecorderPath>();
  private readonly domains: DomainChanger;
  private composer: Composer | undefined;

  constructor(
    private readonly engine: Engine,
    private readonly canvases: Canvases,
    private readonly reader: Reader,
    private readonly output: () => Exporter,
    private readonly out: Size,
    private readonly rateOf: (use: ResolvedUse) => number,
    private readonly files: Files,
    private readonly narrow: ReadonlySet<number>,
  ) {
    this.domains = new DomainChanger(engine, (bytes) => this.reserve(bytes));
  }

  release(): void {
    for (const at of this.held) this.engine.release(at);
    for (const thing of this.owned) thing.release();
    this.held.length = 0;
    this.owned.length = 0;
  }

  /** @param live uses that act, in order @param split index of the use before which the picture is kept, or -1 */
  make(live: readonly Live[], split: number): Route {
    const works: Work[] = [];
    let domain: Domain = 'display';
    let size = live.length ? workingSize(live[0]!.use, this.out) : this.out;
    let barrier: { works: number; at: Barrier } | undefined;
    /** The use with which a tape is begun, and the picture as it comes to it. */
    let tape: { first: number; works: number; at: Barrier } | undefined;
    const change = (to: Domain, i = 0): void => {
      for (const [a, b] of domainPath(domain, to)) {
        if (b === 'rf') tape = { first: i, works: works.length, at: { ...size, domain: a } };
        works.push(
          a === 'rf' || b === 'rf'
            ? this.tape(live, tape!.first, size, b)
            : { name: `${a} to ${b}`, domain: b, footprint: 'point', size, run: (surface) => this.domains.run(surface, a, b) },
        );
      }
      domain = to;
    };
    /** The filter into a life's raster, and out of it: what was added to its luma after its limit must have been recorded. */
    const windowInto = (life: number): SincWindow => (this.narrow.has(life) ? NARROW : FLAT);
    const windowOutOf = (life: number): SincWindow => (domain === 'rf' ? windowInto(life) : FLAT);
    let life = live[0]?.use.life ?? -1;
    const resize = (to: Size, entered: number): void => {
      if (same(size, to)) return;
      const window = same(to, this.out) ? windowOutOf(life) : windowInto(entered);
      // What was played stays luma and colour differences till then: these have no fine detail.
      const played = domain === 'video' || domain === 'rf';
      change(played ? 'video' : 'display');
      works.push(this.resize(size, to, domain, window));
      size = to;
      change('display');
    };
    works.push(this.reader.work(size, windowInto(life)));
    live.forEach(({ use, strength }, i) => {
      resize(workingSize(use, this.out), use.life);
      life = use.life;
      // On a tape there is nothing to lay a picture over.
      const outer = (use.use.blend ?? 'normal') !== 'normal' && use.trait.domain !== 'rf' ? 'display' : domainFor(use.trait, domain);
      // Another life has a tape of its own.
      if (domain === 'rf' && live[tape!.first]!.use.life !== use.life) change('video');
      change(outer, i);
      // Nor can it be kept half-way: what happened to the channel is not in the picture.
      if (i === split) barrier = domain === 'rf' ? tape : { works: works.length, at: { ...size, domain } };
      const composed = composes(use.use, strength);
      works.push(this.wear(use, i, size, outer, composed));
      // What is laid back over what was under it is in the domain of that.
      if (!composed && use.trait.leaves) domain = use.trait.leaves;
    });
    const played = (domain as Domain) === 'video' || (domain as Domain) === 'rf';
    const written = played && this.output().takesVideo ? 'video' : 'display';
    const window = windowOutOf(life);
    if (written === 'video') change(written);
    if (written === 'video' && !same(size, this.out)) works.push(...this.resizeToFile(size, window));
    else {
      resize(this.out, life);
      change(written);
      works.push({ name: 'write', domain, footprint: 'point', size, run: (surface) => this.output().run(surface, written) });
    }
    const { groups, before } = grouped(works, barrier?.works);
    // Where any step needs a whole picture, bands are parts of it.
    for (const work of works) if (work.footprint === 'area') this.canvases.whole(work.size);
    if (barrier) this.canvases.whole(barrier.at);
    // Two groups of one size pass the picture on in whole planes.
    for (const [i, group] of groups.entries()) if (i > 0 && !group[0]!.fresh) this.canvases.whole(group[0]!.size);
    return { works, groups, before, barrier: barrier?.at };
  }

  /** Lays a picture on tape, or plays it. @param first the use with which that tape begins */
  private tape(live: readonly Live[], first: number, size: Size, to: Domain): Work {
    const { use } = live[first]!;
    const path = this.recorder(use, size);
    const seed = hash(use.seed, 0x7a9e);
    if (to === 'rf') return { name: 'record', domain: 'rf', footprint: 'line', size, run: (surface) => path.record(surface) };
    return { name: 'play', domain: 'video', footprint: 'line', size, run: (surface, now) => path.play(surface, seed, now[first]!.picture) };
  }

  private recorder(use: ResolvedUse, size: Size): RecorderPath {
    const key = `${use.life},${sizeKey(size)}`;
    let path = this.recorders.get(key);
    if (!path) this.recorders.set(key, (path = this.own(new RecorderPath(this.engine, use.carrier, size.width))));
    return path;
  }

  private reserve(bytes: number): number {
    const at = this.engine.allocate(bytes);
    this.held.push(at);
    return at;
  }

  private own<T extends { release(): void }>(thing: T): T {
    this.owned.push(thing);
    return thing;
  }

  private store(): Store {
    return this.own(this.engine.store());
  }

  private resize(from: Size, to: Size, domain: Domain, window: SincWindow): Work {
    const resamplers = [0, 1, 2].map((plane) => this.resampler(plane, from, to, domain === 'video' && plane > 0 ? COARSE : window));
    this.canvases.whole(from);
    return {
      name: 'resize',
      domain,
      footprint: 'point',
      fresh: true,
      size: to,
      run: (surface) => {
        const before = this.canvases.whole(from);
        resamplers.forEach((resampler, i) =>
          resampler.runFrom(surface.planes[i]!, surface.stride, wholePlane(before.planes[i]!, before.stride, before.height), surface.top, surface.bottom),
        );
      },
    };
  }

  /** What was played, to a file of luma and colour differences: each plane goes from the raster to its own size there. */
  private resizeToFile(from: Size, window: SincWindow): Work[] {
    const to = this.out;
    const { x, y } = this.output().colourHalved;
    const luma = this.resampler(0, from, to, window);
    const colour = [1, 2].map((plane) => this.resampler(plane, from, to, COARSE, { x, y }));
    this.canvases.whole(from);
    return [
      { name: 'video to file', domain: 'video', footprint: 'point', size: from, run: (surface) => this.output().toFile(surface) },
      {
        name: 'resize and write',
        domain: 'video',
        footprint: 'point',
        fresh: true,
        size: to,
        run: (surface) => {
          const before = this.canvases.whole(from);
          const source = (plane: number) => wholePlane(before.planes[plane]!, before.stride, before.height);
          luma.runFrom(surface.planes[0], surface.stride, source(0), surface.top, surface.bottom);
          colour.forEach((resampler, i) => resampler.runFrom(surface.planes[i + 1]!, surface.stride, source(i + 1), surface.top >> y, (surface.bottom + y) >> y));
          this.output().runSized(surface);
        },
      },
    ];
  }

  /**
   * @param plane each has its own @param window of the filter across
   * @param halved how often the result is halved, across and down: every second sample across, as a file's colour stands, and the middle of two rows
   */
  private resampler(plane: number, from: Size, to: Size, window: SincWindow, halved = { x: 0, y: 0 }): Resampler {
    const key = `${plane},${sizeKey(from)}>${sizeKey(to)},${window.reach},${halved.x},${halved.y}`;
    let made = this.resizers.get(key);
    if (!made) {
      // One of the two is a line raster.
      const [across, down] = this.taps(from, to, window, halved);
      made = this.own(new Resampler(this.engine, from.width, from.height));
      made.aim(across, down);
      this.resizers.set(key, made);
    }
    return made;
  }

  private taps(from: Size, to: Size, window: SincWindow, { x, y }: { readonly x: number; readonly y: number }): [Taps, Taps] {
    const [wide, high] = [from.width / to.width, from.height / to.height];
    return [
      // A halved sample stands on the first of its two, so half a sample of luma before their middle.
      flatTaps((to.width + x) >> x, x ? -wide / 2 : 0, wide * 2 ** x, this.engine.kernels.sin, window),
      cubicTaps((to.height + y) >> y, 0, high * 2 ** y),
    ];
  }

  /** A use of the domain `rf`: it changes the channel, all of it or, by its strength and zone, in part. */
  private onTape(use: ResolvedUse, i: number, size: Size, wearing: Render<never>, composed: boolean): Work['run'] {
    const k = this.engine.kernels;
    const { channel } = this.recorder(use, size);
    const under = this.store();
    const given: Given = { ...ALONE, channel };
    if (composed) this.composer ??= new Composer(this.engine, this.domains, (bytes) => this.reserve(bytes), 16384);
    return (surface, live) => {
      const now = live[i]!;
      const { strength, seconds } = now;
      const rows = channel.surface;
      const bytes = (rows.bottom - rows.top) * rows.stride;
      const before = [0, 1, 2].map((plane) => under.at(3 * bytes) + plane * bytes);
      if (composed) rows.planes.forEach((at, plane) => k.copy(before[plane]!, at, bytes));
      wearing(passOf(surface, now, given));
      if (composed && (use.use.zone?.kind ?? 'all') !== 'all') channel.bent = true;
      if (composed) this.composer!.run(rows, before, { ...use.use, blend: 'normal', zone: use.use.zone && { ...use.use.zone, tones: undefined } }, strength, seconds, 'video');
    };
  }

  private footprintOf(use: ResolvedUse, settings: Live['settings']): Footprint {
    const { footprint } = use.trait;
    if (typeof footprint !== 'function') return footprint;
    // What moves may need more at another moment.
    const moves = Object.keys(use.use.motions ?? {}).length > 0;
    return moves ? 'area' : footprint(settings as never);
  }

  /** Brings a picture from one domain to another. */
  turn(surface: Surface, from: Domain, to: Domain): void {
    for (const [a, b] of domainPath(from, to)) this.domains.run(surface, a, b);
  }

  private wear(use: ResolvedUse, i: number, size: Size, outer: Domain, composed: boolean): Work {
    const inner = domainFor(use.trait, outer);
    const units = unitsFor(use.carrier, size.width, size.height);
    const footprint = this.footprintOf(use, resolveValues(use.trait, use.values, units));
    const key = [use.life, use.index, sizeKey(size), inner].join();
    let render = this.prepared.get(key);
    if (!render) {
      render = use.trait.prepare({
        engine: this.engine,
        units,
        carrier: use.carrier,
        seed: use.seed,
        rate: this.rateOf(use),
        domain: inner,
        footprint,
        shape: this.out.width / this.out.height,
        ...this.files,
        recorder: inner === 'rf' ? this.recorder(use, size) : undefined,
        reserve: (bytes) => this.reserve(bytes),
        store: () => this.store(),
        own: (thing) => this.own(thing),
      }) as Render<never>;
      this.prepared.set(key, render);
    }
    const wearing = render;
    const k = this.engine.kernels;
    if (inner === 'rf') return { name: use.trait.id, domain: inner, footprint, size, run: this.onTape(use, i, size, wearing, composed) };
    const area = footprint === 'area';
    const given: Given = area ? { ...ALONE, spare: this.canvases.spare(size) } : ALONE;
    if (composed) this.composer ??= new Composer(this.engine, this.domains, (bytes) => this.reserve(bytes), 16384);
    const run = (surface: Surface, live: readonly Live[]): void => {
      const now = live[i]!;
      const { strength, seconds, beside, memory } = now;
      const under = composed ? this.canvases.under(size, area) : [];
      const bytes = (surface.bottom - surface.top) * surface.stride;
      if (composed) surface.planes.forEach((at, plane) => k.copy(under[plane]!, at, bytes));
      this.turn(surface, outer, inner);
      if (memory) writeHalves(this.engine, surface, memory.own);
      beside?.forEach((other) => this.turn(other, outer, inner));
      wearing(passOf(surface, now, given));
      const left = use.trait.leaves ?? inner;
      if (composed || !use.trait.leaves) this.turn(surface, left, outer);
      if (composed) this.composer!.run(surface, under, use.use, strength, seconds, outer);
    };
    return { name: use.trait.id, domain: inner, footprint, size, run };
  }
}

function noEarlier(): never {
  throw new Error('only what remembers has earlier pictures');
}

function noSwap(): never {
  throw new Error('only area traits have spare planes');
}

/** What a pass has beside its moment. What is laid on a tape is seen only where it is played. */
type Given = Pick<Pass, 'channel'> & { readonly spare: number[] };
const ALONE: Given = { spare: [], channel: undefined as never };

/**
 * What a trait is given for a band or a picture. Written out, every time of the same fields in the same order: it is made hundreds of times a picture, and put together
 * from parts it takes microseconds each.
 */
function passOf(surface: Surface, { settings, picture, seconds, events, beside, memory, displaced = IN_PLACE }: Live, { spare, channel }: Given): Pass<never> {
  return {
    surface,
    picture,
    seconds,
    settings: settings as never,
    events,
    spare,
    swap: spare.length ? (plane) => swap(surface, spare, plane) : noSwap,
    beside: (offset) => (beside?.get(offset) ?? surface).planes,
    earlier: memory ? (pictures, plane, y) => halvesRow(surface, memory.before[pictures - 1]!, plane, y) : noEarlier,
    remembered: memory ? 1 + memory.before.length : 1,
    displaced,
    channel,
  };
}

function swap(surface: Surface, spare: number[], plane: number): void {
  const before = surface.planes[plane]!;
  surface.planes[plane] = spare[plane]!;
  spare[plane] = before;
}

/** Area works stand alone; runs of others of one size stay together, but for a barrier. */
function grouped(works: readonly Work[], barrier?: number): { groups: Work[][]; before: number } {
  const groups: Work[][] = [];
  let before = 0;
  works.forEach((work, i) => {
    if (i === barrier) before = groups.length;
    const last = groups.at(-1);
    if (last && i !== barrier && last[0]!.footprint !== 'area' && work.footprint !== 'area' && same(last[0]!.size, work.size)) last.push(work);
    else groups.push([work]);
  });
  return { groups, before };
}
