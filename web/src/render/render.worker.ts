/** Renders previews with the engine that strikes the prints, and measures them. */
import {
  AS_SHOT,
  bakeCube,
  cubeText,
  differenceAt,
  EMPTY_LOOK,
  Engine,
  eventUnder,
  Kept,
  laidPlace,
  lineRow,
  makeAhead,
  match,
  Measure,
  Plan,
  pointwise,
  preparedSize,
  Scope,
  Score,
  shotPictures,
  withoutEvents,
  type Figures,
  type Look,
  type PlatePictures,
  type RawFrame,
} from '@tin-ghost/core';
import kernels from '@tin-ghost/core/kernels.wasm?url';
import { footageName, footageOf, plateFrame, scoredShot } from './frames';
import { filesFor, platesFor } from './look-files';
import { sharesOf } from './costs';
import type { Envelope, Order, Reply, Results, Source, Want, WantCosts, WantUnder, Worn } from './protocol';
import { scopeBuffers, scopeData } from './scope-data';
import { heldWhenAsked, type HOLD } from './watched-worker';

const KEPT_PLANS = 4;
/** Figures are taken of pictures this wide, and of so many over a shot's time. */
const MEASURED_WIDTH = 200;
const MEASURED_PICTURES = 5;
const RGB16 = { layout: 'rgb', bits: 16, subX: 0, subY: 0, matrix: 'bt709', range: 'full' } as const;

const ready = fetch(kernels)
  .then((response) => response.arrayBuffer())
  .then((bytes) => Engine.create(bytes));
const plans = new Map<string, Plan>();
const scores = new Map<string, Score>();
let scope: Scope | undefined;
let kept: Kept | undefined;

/** Where the picture before the use that is being changed is kept; one at a time. */
function keptFor({ editing, source, original }: Want): Kept | undefined {
  if (!editing) return undefined;
  const name = footageName(source, original);
  if (kept?.life !== editing.life || kept.index !== editing.index || kept.source !== name) {
    kept?.release();
    kept = new Kept(editing.life, editing.index, name);
  }
  return kept;
}

async function scoreFor(name: string, look: Look, rate: number): Promise<Score> {
  const made = scores.get(name) ?? (await scoreOf(look, rate));
  return recent(scores, name, () => made);
}

/** What happens in a look, to which the brightness of its plates belongs. */
async function scoreOf(look: Look, rate: number): Promise<Score> {
  const plates = Object.fromEntries(Object.entries(await platesFor(look)).map(([id, plate]) => [id, plate.original]));
  return new Score(await ready, look, { rate, plates });
}

/** Of a map in the order of use, the entry of a key, made where there is none; the oldest is given up. */
function recent<T>(map: Map<string, T>, key: string, make: () => T, giveUp?: (old: T) => void): T {
  let found = map.get(key);
  if (found !== undefined) map.delete(key);
  else {
    found = make();
    if (map.size >= KEPT_PLANS) {
      const [oldest, old] = map.entries().next().value!;
      map.delete(oldest);
      giveUp?.(old);
    }
  }
  map.set(key, found);
  return found;
}

interface Planned {
  readonly name: string;
  readonly look: Look;
  readonly source: Source;
  readonly original: boolean;
}

interface PictureSize {
  readonly width: number;
  readonly height: number;
}

/** Makes a plan. @returns also what tells it from others of the same look on the same source */
async function plansOf({ look, source, original }: Planned, frame: RawFrame, target: PictureSize, clock?: () => number): Promise<{ key: string; make: () => Plan }> {
  const { preparation, rate } = source;
  const { width, height, encoding } = frame;
  const [files, plates] = await Promise.all([filesFor(look, preparation), platesFor(look)]);
  const known = Object.fromEntries(Object.entries(plates).map(([id, plate]) => [id, original ? plate.original : plate.info]));
  const engine = await ready;
  return {
    key: `${width}x${height} ${JSON.stringify(encoding)} ${target.width}x${target.height} ${original} ${clock !== undefined} ${Object.keys(known).join()}`,
    make: () =>
      new Plan(engine, look, {
        source: { width, height, encoding },
        target: { width: target.width, height: target.height, encoding: 'rgba' },
        rate,
        preparation,
        ...files,
        plates: known,
        footage: `${footageName(source, original)}:${width}`,
        clock,
      }),
  };
}

async function planFor(planned: Planned, frame: RawFrame, target: PictureSize, clock?: () => number): Promise<Plan> {
  const { key, make } = await plansOf(planned, frame, target, clock);
  return recent(plans, `${planned.name} ${key}`, make, (old) => old.dispose());
}

/** What is wanted of the picture without its wear, in the shape of the look. */
async function cleanOf({ source, look, name, original }: Want, clean: 'all' | number, frame: RawFrame, size: PictureSize, n: number): Promise<Worn['clean']> {
  const unworn: Look = { ...look, lives: look.lives.map((life) => ({ ...life, traits: [] })) };
  const plan = await planFor({ name: `${name}, clean`, look: unworn, source, original }, frame, size);
  if (clean === 'all') return { pixels: plan.render(n, frame)[0]!.buffer as ArrayBuffer };
  const row = lineRow(look, size, clean);
  return { pixels: plan.renderRow(n, frame, row).buffer as ArrayBuffer, row };
}

/** Makes pictures of a prepared shot that a score asks for. */
const shotOf =
  (score: Score, source: Source, original: boolean) =>
  (pictures: readonly number[]): Promise<Map<number, RawFrame>> => {
    const needs = pictures.map((picture) => score.need(picture, scoredShot(source)));
    return shotPictures(needs, source.preparation, footageOf(source, original));
  };

/** The pictures of plates that a picture is made with. */
async function plateFrames(plan: Plan, { n, look, original }: Pick<Want, 'n' | 'look' | 'original'>): Promise<PlatePictures> {
  const plates = await platesFor(look);
  const frames = new Map<string, RawFrame>();
  await Promise.all(plan.platePictures(n).map(async ({ plate, picture }) => frames.set(`${plate}:${picture}`, await plateFrame(plates[plate]!, picture, original))));
  return (plate, picture) => frames.get(`${plate}:${picture}`)!;
}

interface Readied {
  readonly plan: Plan;
  readonly width: number;
  readonly height: number;
  /** The picture that is shown first. */
  readonly frame: RawFrame;
  readonly shown: number;
  readonly pictures: (picture: number) => RawFrame;
  readonly laid: PlatePictures;
}

type Asked = Planned & Pick<Want, 'n' | 'width' | 'height'>;

/** The plan for a picture, and all that it reads. @param planOf makes the plan, or finds it */
async function readied(want: Asked, planOf: (frame: RawFrame, size: PictureSize) => Promise<Plan> = (frame, size) => planFor(want, frame, size)): Promise<Readied> {
  const { source, look, name, original } = want;
  const score = await scoreFor(name, look, source.rate);
  const make = shotOf(score, source, original);
  // The picture that is shown first tells the size, which the plan goes by.
  const [shown] = score.sourcePictures(want.n) as [number];
  const [shot] = await Promise.all([make([shown]), plans.size === 0 && ready.then((engine) => makeAhead(engine, look))]);
  const frame = shot.get(shown)!;
  const { width, height } = original ? preparedSize(frame, source.preparation) : want;
  // Others may have been made while pictures were fetched, the oldest given up, and with it what it remembered.
  const lacking = (plan: Plan): number[] => plan.sourcePictures(want.n).filter((picture) => !shot.has(picture));
  let plan = await planOf(frame, { width, height });
  const laid = await plateFrames(plan, want);
  plan = await planOf(frame, { width, height });
  for (let missing = lacking(plan); missing.length > 0; missing = lacking(plan)) {
    for (const [picture, made] of await make(missing)) shot.set(picture, made);
    plan = await planOf(frame, { width, height });
  }
  return { plan, width, height, frame, shown, pictures: (picture) => shot.get(picture)!, laid };
}

async function wear(want: Want): Promise<Results['wear']> {
  const first = await readied(want);
  const { width, height } = first;
  const begun = performance.now();
  const clean = want.clean === null ? undefined : await cleanOf(want, want.clean, first.frame, { width, height }, Math.floor(first.shown));
  const cleaning = performance.now() - begun;
  // The clean picture's plan may have taken its place.
  const { plan, pictures, laid } = clean ? await readied(want) : first;
  const from = performance.now();
  if (!want.scope) {
    const [pixels] = plan.render(want.n, pictures, keptFor(want), undefined, laid);
    return { width, height, pixels: pixels!.buffer as ArrayBuffer, milliseconds: performance.now() - from, counting: cleaning, clean };
  }
  const { planes, at, below, above } = plan.renderCounted(want.n, pictures, keptFor(want), laid);
  const milliseconds = performance.now() - from;
  scope ??= new Scope(await ready);
  const data = scopeData(scope.count(at, width, height), { below, above });
  return { width, height, pixels: planes[0]!.buffer as ArrayBuffer, milliseconds, counting: cleaning + performance.now() - from - milliseconds, scope: data, clean };
}

/** Pictures that are timed, after one that makes what is kept. */
const TIMED_PICTURES = 3;

async function costs(want: WantCosts): Promise<Results['costs']> {
  const { plan, pictures, laid } = await readied(want, (frame, size) => planFor(want, frame, size, () => performance.now()));
  const once = (): number => {
    const from = performance.now();
    plan.render(want.n, pictures, undefined, undefined, laid);
    return performance.now() - from;
  };
  once();
  plan.costs.clear();
  let whole = 0;
  for (let i = 0; i < TIMED_PICTURES; i++) whole += once();
  return { milliseconds: whole / TIMED_PICTURES, traits: sharesOf(plan.costs, whole) };
}

/** Which event shows at a point. The plans are made for it alone, so that those of the pictures that are seen stay. */
async function under(want: WantUnder): Promise<Results['under']> {
  const { look, name, n, source, x, y } = want;
  const events = (await scoreFor(name, look, source.rate)).shown(n);
  if (events.length === 0) return null;
  const first = events.reduce((a, b) => (b.life < a.life || (b.life === a.life && b.index < a.index) ? b : a));
  const before = new Kept(first.life, first.index, footageName(source, false));
  const pixelsOf = async (worn: Look, called: string): Promise<Uint8Array> => {
    const asked = { ...want, look: worn, name: called };
    let plan: Plan | undefined;
    try {
      const { pictures, laid } = await readied(asked, async (frame, size) => (plan ??= (await plansOf(asked, frame, size)).make()));
      return plan!.render(n, pictures, before, undefined, laid)[0]!;
    } finally {
      plan?.dispose();
    }
  };
  try {
    const whole = await pixelsOf(look, name);
    return await eventUnder(events, async (some) => {
      const without = await pixelsOf(withoutEvents(look, some), `${name}, without ${some.map(({ life, index, id }) => `${life}.${index}.${id}`).join()}`);
      return differenceAt(whole, without, want.width, want.height, x, y);
    });
  } finally {
    before.release();
  }
}

/** Pictures of a shot at even distances, as their prepared values, small. */
async function samples(source: Source, look: Look): Promise<RawFrame[]> {
  const engine = await ready;
  const count = Math.min(MEASURED_PICTURES, source.frames);
  const width = Math.min(MEASURED_WIDTH, source.width);
  const height = Math.max(1, Math.round((source.height * width) / source.width));
  const encoding = RGB16;
  const files = await filesFor(look, source.preparation);
  const frames: RawFrame[] = [];
  const make = shotOf(new Score(engine, EMPTY_LOOK, { rate: source.rate }), source, false);
  for (let i = 0; i < count; i++) {
    const n = Math.floor(((i + 0.5) * source.frames) / count);
    const frame = (await make([n])).get(n)!;
    const plan = new Plan(engine, look, {
      source: { width: frame.width, height: frame.height, encoding: frame.encoding },
      target: { width, height, encoding },
      rate: source.rate,
      preparation: source.preparation,
      ...files,
    });
    frames.push({ width, height, encoding, planes: plan.render(n, frame) });
    plan.dispose();
  }
  return frames;
}

async function figures(source: Source): Promise<Figures> {
  const measure = new Measure();
  for (const frame of await samples(source, EMPTY_LOOK)) {
    const [r, g, b] = frame.planes.map((p) => new Uint16Array(p.buffer, p.byteOffset, p.length / 2));
    measure.add(r!, g!, b!, 1, 1 / 65535);
  }
  return measure.figures();
}

async function run(order: Order): Promise<Results[keyof Results]> {
  switch (order.kind) {
    case 'wear':
      return wear(order);
    case 'under':
      return under(order);
    case 'costs':
      return costs(order);
    case 'figures':
      return figures(order.source);
    case 'match': {
      // What is measured is the shot with its look's own colour, without its wear.
      const colour: Look = { ...order.look, lives: order.look.lives.map((life) => ({ carrier: 'none', traits: life.traits.filter(pointwise) })) };
      const reference = await figures(order.reference);
      return match(await ready, await samples(order.source, colour), reference, EMPTY_LOOK);
    }
    case 'events':
      return (await scoreOf(order.look, order.rate)).events(0, order.frames / order.rate);
    case 'trace':
      return (await scoreOf(order.look, order.rate)).trace(order.life, order.index, order.key, order.pictures);
    case 'laid': {
      const [{ fonts }, plates] = await Promise.all([filesFor(order.look, AS_SHOT), platesFor(order.look)]);
      return laidPlace(await ready, order.look, order, { fonts, plates: Object.fromEntries(Object.entries(plates).map(([id, plate]) => [id, plate.original])) });
    }
    case 'cube': {
      const { table, left } = bakeCube(await ready, order.look, order.points, (await filesFor(order.look, AS_SHOT)).tables);
      return { text: cubeText(table), left };
    }
  }
}

/** Memory of a picture that is handed over with it. */
const buffersOf = ({ pixels, scope, clean }: Worn): ArrayBuffer[] => [pixels, ...(scope ? scopeBuffers(scope) : []), ...(clean ? [clean.pixels] : [])];

self.onmessage = ({ data }: MessageEvent<Envelope | typeof HOLD>) => {
  if (heldWhenAsked(data)) return;
  const { id, order } = data;
  void run(order)
    .then((result): [Reply, ArrayBuffer[]] => [{ id, result }, result !== null && 'pixels' in result ? buffersOf(result) : []])
    .catch((error: unknown): [Reply, ArrayBuffer[]] => [{ id, error: error instanceof Error ? error.message : String(error) }, []])
    .then(([reply, transfer]) => self.postMessage(reply, { transfer }));
};
