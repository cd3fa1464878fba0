import { carriers } from '../carriers';
import { traits } from '../traits';
import type { Setting } from '../traits/settings';
import { ACTS, type AnyTrait } from '../traits/trait';
import { BLENDS, LOOK_LIMITS, LOOK_SCHEMA } from './look';

type Json = { [key: string]: unknown };

/** What is said once and referred to. */
const defs: Record<string, Json> = {};
function defined(name: string, of: () => Json): Json {
  defs[name] ??= of();
  return { $ref: `#/$defs/${name}` };
}

const seed: Json = { type: 'integer', minimum: 0, maximum: 0xffffffff };

function setting(s: Setting): Json {
  const described = { default: s.default, description: s.kind === 'number' && s.sign ? `${s.says} (${s.sign})` : s.says };
  switch (s.kind) {
    case 'number':
      return { type: 'number', minimum: s.min, maximum: s.max, ...described };
    case 'toggle':
      return { type: 'boolean', ...described };
    case 'choice':
      return { enum: Object.keys(s.options), ...described };
    case 'colour':
      return { ...colour, ...described };
    case 'curve':
      return { ...curve, ...described };
    case 'table':
      return { type: 'string', maxLength: 200, ...described };
  }
}

const number = (minimum: number, maximum: number): Json => ({ type: 'number', minimum, maximum });
const seconds = number(0, 360_000);
const shape = (required: string[], properties: Json): Json => ({ type: 'object', additionalProperties: false, required, properties });
const colour: Json = { type: 'array', minItems: 3, maxItems: 3, items: number(0, 1) };

const curve: Json = { type: 'array', minItems: 2, maxItems: LOOK_LIMITS.points, items: { type: 'array', minItems: 2, maxItems: 2, items: number(0, 1) } };

/** How a setting may move: one definition for all of a range. */
const motion = (s: Setting): Json => defined(s.kind === 'number' ? `motion-${s.min}-to-${s.max}` : 'motion-of-colour', () => motionOf(s));

function motionOf(s: Setting): Json {
  const amount = s.kind === 'number' ? number(s.min - s.max, s.max - s.min) : number(-1, 1);
  const value = s.kind === 'number' ? number(s.min, s.max) : colour;
  const rates = defined('rate', () => number(0, 60));
  const speed = shape(['amount', 'rate'], { amount, rate: rates });
  const key = shape(['at', 'value'], { at: defined('seconds', () => seconds), value, ease: defined('ease', () => ({ enum: ['hold', 'line', 'smooth'] })) });
  const trail = defined('trail', () => number(0, 10));
  return {
    oneOf: [
      shape(['motion', 'speeds'], { motion: { const: 'wander' }, speeds: { type: 'array', minItems: 1, maxItems: LOOK_LIMITS.speeds, items: speed } }),
      shape(['motion', 'amount'], { motion: { const: 'jump' }, amount, rate: number(0, 120), spread: { enum: ['even', 'bell'] } }),
      shape(['motion', 'keys'], { motion: { const: 'keys' }, keys: { type: 'array', minItems: 1, maxItems: LOOK_LIMITS.keys, items: key }, loop: number(0.01, 360_000) }),
      shape(['motion', 'of', 'gain'], { motion: { const: 'follow' }, of: { type: 'string', maxLength: 80 }, gain: amount, delay: trail, decay: trail }),
    ],
  };
}

const zone = shape(['kind'], {
  kind: { enum: ['all', 'edges', 'ellipse', 'quiet'] },
  x: number(-1, 2),
  y: number(-1, 2),
  across: number(0.01, 4),
  down: number(0.01, 4),
  soft: number(0, 1),
  tones: curve,
});
const span = shape(['from', 'to'], { from: seconds, to: seconds, in: seconds, out: seconds });
const id = { type: 'string', minLength: 1, maxLength: 60 };
const change = { at: seconds, x: number(-1, 2), y: number(-1, 2), scale: number(0, 10) };
const events = shape([], {
  muted: { type: 'array', maxItems: LOOK_LIMITS.changes, items: id },
  changed: { type: 'object', additionalProperties: shape([], change) },
  pinned: { type: 'array', maxItems: LOOK_LIMITS.changes, items: shape(['id', 'at'], { id, ...change, length: number(0, 60) }) },
});

/** What every use may say, whatever its trait. */
const anyUse = (): Json => ({
  type: 'object',
  required: ['trait'],
  properties: {
    trait: true,
    name: { type: 'string', minLength: 1, maxLength: LOOK_LIMITS.name },
    act: { enum: ACTS },
    on: { type: 'boolean', default: true },
    strength: { type: 'number', minimum: 0, maximum: 1, default: 1 },
    seed: defined('seed', () => seed),
    blend: { enum: BLENDS, default: 'normal' },
    zone,
    when: { type: 'array', maxItems: LOOK_LIMITS.spans, items: span },
  },
});

function use(trait: AnyTrait): Json {
  const settings = Object.entries(trait.settings as Record<string, Setting>);
  const moving = settings.filter(([, s]) => s.kind === 'number' || s.kind === 'colour');
  const named = (of: readonly [string, Json][]): Json => ({ type: 'object', additionalProperties: false, properties: Object.fromEntries(of) });
  return {
    title: trait.name,
    description: trait.says,
    type: 'object',
    ...defined('use', anyUse),
    unevaluatedProperties: false,
    properties: {
      trait: { const: trait.id },
      settings: named(settings.map(([key, s]) => [key, setting(s)])),
      motions: named(moving.map(([key, s]) => [key, motion(s)])),
      ...(trait.events ? { events: defined('events', () => events) } : {}),
    },
  };
}

/** A JSON Schema (2020-12) of look files, made from the declarations of traits and carriers. */
export function lookJsonSchema(): Json {
  const uses = traits.map((trait) => defined(`trait-${trait.id}`, () => use(trait)));
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Tin Ghost look',
    type: 'object',
    additionalProperties: false,
    required: ['schema', 'name', 'seed', 'lives'],
    properties: {
      schema: { const: LOOK_SCHEMA },
      name: { type: 'string', minLength: 1, maxLength: LOOK_LIMITS.name },
      seed: defined('seed', () => seed),
      shape: { enum: ['file', 'carrier'], default: 'file', description: 'Shape of the picture: the file’s, or the last carrier’s with bars where the file is of another' },
      lives: {
        type: 'array',
        maxItems: LOOK_LIMITS.lives,
        items: {
          type: 'object',
          additionalProperties: false,
          required: ['carrier', 'traits'],
          properties: {
            carrier: { enum: carriers.map((c) => c.id) },
            traits: { type: 'array', maxItems: LOOK_LIMITS.traits, items: { oneOf: uses } },
          },
        },
      },
    },
    $defs: defs,
  };
}
