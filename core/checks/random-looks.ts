/**
 * Thousands of looks put together at random from the declarations: whatever they are, pictures stay finite, a picture is the
 * same the second time, strength 0 leaves it bit for bit, and all memory is given back. Run by `npm test`, outside Jest,
 * in whose contexts arithmetic is several times slower.
 *
 * Arguments: the file of the kernels, how many looks, the seed. Ends with 1 and the look that failed.
 */
import { readFile } from 'node:fs/promises';
import { argv, exit } from 'node:process';
import { carriers } from '../src/carriers';
import { Engine } from '../src/engine';
import type { Encoding, RawFrame } from '../src/frame/encoding';
import { checkLook } from '../src/look/check';
import { BLENDS, LOOK_SCHEMA, type Look, type TraitUse, type Zone } from '../src/look/look';
import type { Motion } from '../src/motion/motion';
import { even, hash } from '../src/random/random';
import { signalPicture, toCodes } from '../src/signals/signals';
import { traits } from '../src/traits';
import { lacking } from '../src/traits/fits';
import type { Setting, Value } from '../src/traits/settings';
import { ACTS, type AnyTrait } from '../src/traits/trait';
import { Plan, type PlatePictures } from '../src/plan/plan';
import type { PlateInfo } from '../src/frame/plate';
import type { FontOutlines, Glyph } from '../src/text/outlines';

const [, , wasm, count = '3000', seedText = '20261124'] = argv;
const LOOKS = Number(count);
const SEED = Number(seedText);
const RGB8: Encoding = { layout: 'rgb', bits: 8, subX: 0, subY: 0, matrix: 'bt709', range: 'full' };
const [WIDTH, HEIGHT] = [36, 28];

/** Draws from one stream of numbers. */
function dice(seed: number) {
  let n = 0;
  const next = (): number => even(seed, n++);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(next() * from.length)]!;
  return { next, pick, chance: (p: number) => next() < p, between: (a: number, b: number) => a + (b - a) * next() };
}

type Dice = ReturnType<typeof dice>;

function valueOf(s: Setting, d: Dice): Value {
  if (s.kind === 'number') return d.pick([s.min, s.max, s.default, d.between(s.min, s.max)]);
  if (s.kind === 'toggle') return d.chance(0.5);
  if (s.kind === 'choice') return d.pick(Object.keys(s.options));
  if (s.kind === 'curve') {
    const last = Math.floor(d.between(1, 8));
    return Array.from({ length: last + 1 }, (_, i) => [i / last, d.next()] as const);
  }
  if (s.kind === 'table') return d.pick(['', 'there is none']);
  if (s.kind === 'font') return d.pick(['squares', 'there is none']);
  if (s.kind === 'plate') return d.pick(['', 'one', 'with alpha', 'there is none']);
  if (s.kind === 'text') return s.pattern ? s.default : d.pick(['', 'Last', 'a\n{clock} {rec}', '😀 \u05d0b {none}', s.default]);
  return [d.next(), d.next(), d.next()];
}

function motionOf(s: Setting & { kind: 'number' }, d: Dice): Motion {
  const amount = d.between(0, (s.max - s.min) / 2);
  return d.pick<Motion>([
    { motion: 'wander', speeds: [{ amount, rate: d.between(0.1, 10) }] },
    { motion: 'jump', amount, spread: d.pick(['even', 'bell'] as const) },
    {
      motion: 'keys',
      keys: [
        { at: 0, value: s.min },
        { at: 0.5, value: s.max, ease: 'line' },
      ],
    },
  ]);
}

function useOf(trait: AnyTrait, d: Dice): TraitUse {
  const settings = Object.entries(trait.settings as Record<string, Setting>);
  const numbers = settings.filter((e): e is [string, Setting & { kind: 'number' }] => e[1].kind === 'number');
  const zone: Zone = {
    kind: d.pick(['all', 'edges', 'ellipse', 'quiet'] as const),
    ...(d.chance(0.5)
      ? {
          tones: [
            [0, d.next()],
            [1, d.next()],
          ] as const,
        }
      : {}),
  };
  return {
    trait: trait.id,
    strength: d.pick([1, 1, d.next(), 0]),
    settings: Object.fromEntries(settings.filter(() => d.chance(0.7)).map(([key, s]) => [key, valueOf(s, d)])),
    ...(d.chance(0.4) && numbers.length ? { motions: Object.fromEntries([d.pick(numbers)].map(([key, s]) => [key, motionOf(s, d)])) } : {}),
    ...(d.chance(0.3) ? { zone } : {}),
    ...(d.chance(0.2) ? { blend: d.pick(BLENDS) } : {}),
    ...(d.chance(0.2) ? { act: d.pick(ACTS) } : {}),
    ...(d.chance(0.2) ? { when: [{ from: 0, to: 1, in: 0.2, out: 0.2 }] } : {}),
    ...(trait.events && d.chance(0.5) ? { events: { pinned: [{ id: 'p', at: 0.05 }] } } : {}),
  };
}

/** Rasters are large beside the small pictures here, so they come up seldom. */
const carrierFrom = (d: Dice) => d.pick(d.chance(0.06) ? carriers.filter((c) => c.raster) : carriers.filter((c) => !c.raster));

const lookFrom = (d: Dice): Look => ({
  schema: LOOK_SCHEMA,
  shape: 'file',
  name: 'random',
  seed: Math.floor(d.next() * 1e6),
  lives: Array.from({ length: d.pick([1, 1, 2]) }, () => {
    const carrier = carrierFrom(d);
    const fit = traits.filter((t) => !lacking(t, carrier));
    return { carrier: carrier.id, traits: Array.from({ length: Math.floor(d.between(0, 5)) }, () => useOf(d.pick(fit), d)) };
  }),
});

const frames = (['sweep', 'bars', 'ramp'] as const).map((signal): RawFrame => ({
  width: WIDTH,
  height: HEIGHT,
  encoding: RGB8,
  planes: toCodes(signalPicture(signal, { width: WIDTH, height: HEIGHT, level: 0.8 }), 8),
}));
const frame = frames[0]!;
const { width, height, encoding } = frame;
const plate: PlateInfo = { width, height, encoding, lines: height, frames: 7, rate: 12, stacked: false, light: [0, 0.1, 0.6, 0.2, 0, 0.9, 0.1] };
const plates = { one: plate, 'with alpha': { ...plate, lines: height / 2, stacked: true } };
const square = (size: number): Glyph => ({ advance: size, steps: [['move', 0, 0], ['line', 0, size], ['quadratic', size, size, size, 0], ['close']] });
const letters = Object.fromEntries([...'abLast0123456789: '].map((c, i) => [c.codePointAt(0)!, square(20 + 4 * i)]));
const fonts: Record<string, FontOutlines> = { squares: { unitsPerEm: 100, capHeight: 70, glyphs: letters, lacking: square(50), kerning: { La: -5 } } };
const engine = await Engine.create(await readFile(wasm!));
const same = (a: readonly Uint8Array[], b: readonly Uint8Array[]): boolean => a.every((plane, i) => Buffer.compare(plane, b[i]!) === 0);

/** What is wrong with a look, if anything. */
function fault(look: Look, i: number): string | undefined {
  checkLook(look);
  const plan = new Plan(engine, look, { source: frame, target: { width: WIDTH, height: HEIGHT, encoding: 'float' }, rate: 24, fonts, plates });
  try {
    const n = i % 5;
    const told = plan.sourcePictures(n);
    const given = (picture: number): RawFrame => {
      if (!told.includes(picture)) throw new Error(`picture ${picture} is asked for, which was not told`);
      return frames[Math.floor(picture) % frames.length]!;
    };
    const laid = plan.platePictures(n).map((asked) => `${asked.plate}:${asked.picture}`);
    const givenPlate: PlatePictures = (id, picture) => {
      if (!laid.includes(`${id}:${picture}`)) throw new Error(`picture ${picture} of the plate ${id} is asked for, which was not told`);
      return frames[(picture + 1) % frames.length]!;
    };
    const planes = plan.render(n, given, undefined, undefined, givenPlate);
    for (const plane of planes) {
      const values = new Float32Array(plane.buffer, plane.byteOffset, plane.length / 4);
      if (!values.every(Number.isFinite)) return 'a value is not finite';
    }
    if (i % 8 === 0) {
      plan.render(n + 3, frame, undefined, undefined, (_, picture) => frames[picture % frames.length]!);
      if (!same(plan.render(n, given, undefined, undefined, givenPlate), planes)) return 'a picture is another one the second time';
    }
  } finally {
    plan.dispose();
  }
  const still: Look = { ...look, lives: look.lives.map((life) => ({ ...life, traits: life.traits.filter((u) => u.trait !== 'cadence').map((u) => ({ ...u, strength: 0 })) })) };
  const quiet = new Plan(engine, still, { source: frame, target: { width: WIDTH, height: HEIGHT, encoding: RGB8 }, rate: 24, fonts, plates });
  const left = quiet.render(i, frame);
  quiet.dispose();
  return same(left, frame.planes) ? undefined : 'strength 0 changes the picture';
}

const before = engine.reservedBytes;
for (let i = 0; i < LOOKS; i++) {
  const look = lookFrom(dice(hash(SEED, i)));
  const wrong = fault(look, i) ?? (engine.reservedBytes === before ? undefined : 'memory is not given back');
  if (!wrong) continue;
  console.error(`look ${i} of seed ${SEED}: ${wrong}\n${JSON.stringify(look)}`);
  exit(1);
}
console.log(`${LOOKS} looks of seed ${SEED}`);
