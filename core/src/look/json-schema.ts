import { carriers } from '../carriers';
import { traits } from '../traits';
import type { Setting } from '../traits/settings';
import { ACTS, type AnyTrait } from '../traits/trait';
import { LOOK_LIMITS, LOOK_SCHEMA } from './look';

type Json = { [key: string]: unknown };

const seed: Json = { type: 'integer', minimum: 0, maximum: 0xffffffff };

const setting = (s: Setting): Json =>
  s.kind === 'toggle'
    ? { type: 'boolean', default: s.default, description: s.says }
    : { type: 'number', minimum: s.min, maximum: s.max, default: s.default, description: s.sign ? `${s.says} (${s.sign})` : s.says };

const use = (trait: AnyTrait): Json => ({
  type: 'object',
  title: trait.name,
  description: trait.says,
  additionalProperties: false,
  required: ['trait'],
  properties: {
    trait: { const: trait.id },
    name: { type: 'string', minLength: 1, maxLength: LOOK_LIMITS.name },
    act: { enum: ACTS, default: trait.act },
    on: { type: 'boolean', default: true },
    strength: { type: 'number', minimum: 0, maximum: 1, default: 1 },
    seed,
    settings: {
      type: 'object',
      additionalProperties: false,
      properties: Object.fromEntries(Object.entries(trait.settings as Record<string, Setting>).map(([key, s]) => [key, setting(s)])),
    },
  },
});

/** A JSON Schema (2020-12) of look files, made from the declarations of traits and carriers. */
export function lookJsonSchema(): Json {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Tin Ghost look',
    type: 'object',
    additionalProperties: false,
    required: ['schema', 'name', 'seed', 'lives'],
    properties: {
      schema: { const: LOOK_SCHEMA },
      name: { type: 'string', minLength: 1, maxLength: LOOK_LIMITS.name },
      seed,
      lives: {
        type: 'array',
        maxItems: LOOK_LIMITS.lives,
        items: {
          type: 'object',
          additionalProperties: false,
          required: ['carrier', 'traits'],
          properties: {
            carrier: { enum: carriers.map((c) => c.id) },
            traits: { type: 'array', maxItems: LOOK_LIMITS.traits, items: { oneOf: traits.map(use) } },
          },
        },
      },
    },
  };
}
