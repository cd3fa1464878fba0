/** What an editor begins with: slight does less to a picture than usual, ruined does more, of every trait that has them. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import { carriers } from '../carriers';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import type { Look, TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import { lookOf, newEngine, painted } from '../testing';
import { traits } from '.';
import { lacking } from './fits';
import type { AnyTrait } from './trait';

const { sin, sqrt, floor } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const withReady = traits.filter(({ presets }) => presets && 'ruined' in presets);
interface Stage {
  readonly width: number;
  readonly height: number;
  readonly scenes: readonly RawFrame[];
  readonly moments: readonly number[];
}

/** Ramps, fine stripes, patches of colour and a lamp, moving, so that every kind of trait has something to act on. */
function stage(width: number, height: number, moments: readonly number[]): Stage {
  const unit = height / 108;
  const scenes = Array.from({ length: 4 }, (_, n) =>
    painted(width, height, (px, py) => {
      const [x, y] = [px / unit, py / unit];
      if ((x - 30 - 20 * n) ** 2 + (y - 26) ** 2 < 40) return 1;
      if (y > 70) return [[0.8, 0.2, 0.2] as const, [0.2, 0.7, 0.3] as const, [0.2, 0.3, 0.8] as const][floor((x + 9 * n) / 16) % 3]!;
      return 0.15 + (0.6 * px) / width + 0.1 * sin((px + 5 * n) * (0.4 + y / 60));
    }),
  );
  return { width, height, scenes, moments };
}

/** What is drawn on the glass of a tube is finer than a small picture shows. */
const large = stage(1440, 1080, [5]);
/** What is always there is seen at some size, a few times; what happens now and then, over two minutes. */
const always = stage(480, 360, [3, 40, 77]);
const nowAndThen = stage(
  144,
  108,
  Array.from({ length: 40 }, (_, i) => 71 * i),
);

function seen(look: Look, { width, height, scenes, moments }: Stage): Float32Array[][] {
  const plan = new Plan(engine, look, { source: scenes[0]!, target: { width, height, encoding: 'float' }, rate: 24 });
  const pictures = (n: number): RawFrame => scenes[(n + 4_000) % scenes.length]!;
  try {
    return moments.map((n) => plan.render(n, pictures).map((plane) => new Float32Array(plane.buffer.slice(plane.byteOffset, plane.byteOffset + plane.byteLength))));
  } finally {
    plan.dispose();
  }
}

/** RMS of what a use changes, over all moments, on the first carrier that it is meant for. */
function changed(trait: AnyTrait, settings: TraitUse['settings'], bare: Float32Array[][], carrier: string, on: Stage): number {
  const worn = seen(lookOf([{ trait: trait.id, settings }], carrier), on);
  let sum = 0;
  let count = 0;
  worn.forEach((planes, i) =>
    planes.forEach((plane, c) => {
      const under = bare[i]![c]!;
      for (let k = 0; k < plane.length; k++) {
        const by = plane[k]! - under[k]!;
        sum += by * by;
      }
      count += plane.length;
    }),
  );
  return sqrt(sum / count);
}

const carrierOf = (trait: AnyTrait): string =>
  carriers.find((carrier) => !lacking(trait, carrier) && (!trait.media || trait.media.includes(carrier.medium)) && carrier.id !== 'none')!.id;

describe('ready settings', () => {
  test('most traits have them', () => expect(withReady.length).toBeGreaterThanOrEqual(55));

  test.each(withReady.map((trait) => [trait.id, trait] as const))('%s: slight, usual and ruined, in this order', (_, trait) => {
    const { slight, usual, ruined } = trait.presets as Record<'slight' | 'usual' | 'ruined', Record<string, number | boolean>>;
    for (const preset of [slight, usual, ruined]) {
      for (const [key, value] of Object.entries(preset)) {
        const setting = (trait.settings as Record<string, { kind: string; min?: number; max?: number }>)[key];
        expect(setting).toBeDefined();
        if (setting!.kind === 'number') {
          expect(value).toBeGreaterThanOrEqual(setting!.min!);
          expect(value).toBeLessThanOrEqual(setting!.max!);
        } else expect(typeof value).toBe(setting!.kind === 'toggle' ? 'boolean' : 'string');
      }
    }
    const carrier = carrierOf(trait);
    const on = trait.events ? nowAndThen : trait.id === 'mask' ? large : always;
    const bare = seen(lookOf([], carrier), on);
    const [little, middle, much] = [slight, usual, ruined].map((settings) => changed(trait, settings, bare, carrier, on)) as [number, number, number];
    // What happens a few times a minute may not fall on any of the moments.
    if (!trait.events) expect(little).toBeGreaterThan(0);
    expect(little).toBeLessThan(middle || 1e-9);
    expect(much).toBeGreaterThan(1.3 * middle);
  });
});
