import { carriers } from '../carriers';
import type { Motion } from '../motion/motion';
import { traits } from '../traits/known';
import type { ColourSetting, NumberSetting, Setting } from '../traits/settings';
import { ACTS, type AnyTrait } from '../traits/trait';
import { BLENDS, LOOK_LIMITS, LOOK_SCHEMA } from './look';
import type { Json } from './schema-check';

// The one place that says what a look may be: files are described by it, and `check.ts` holds looks against it.

/** What may move. */
export type MovingSetting = NumberSetting | ColourSetting;
export const mayMove = (s: Setting): s is MovingSetting => s.kind === 'number' || s.kind === 'colour';

const number = (minimum: number, maximum: number): Json => ({ type: 'number', minimum, maximum });
/** An object in which nothing else may stand. */
export const shape = (required: string[], properties: Json): Json => ({ type: 'object', additionalProperties: false, required, properties });
const seconds = number(0, 360_000);
const seed: Json = { type: 'integer', minimum: 0, maximum: 0xffffffff };
const colour: Json = { type: 'array', minItems: 3, maxItems: 3, items: number(0, 1) };
const curve: Json = { type: 'array', minItems: 2, maxItems: LOOK_LIMITS.points, items: { type: 'array', minItems: 2, maxItems: 2, items: number(0, 1) } };
const ellipse = { x: number(-1, 2), y: number(-1, 2), across: number(0.01, 4), down: number(0.01, 4) };
const zone = shape(['kind'], {
  kind: { enum: ['all', 'edges', 'ellipse', 'quiet'] },
  ...ellipse,
  soft: number(0, 1),
  keys: { type: 'array', maxItems: LOOK_LIMITS.keys, items: shape(['at', 'x', 'y', 'across', 'down'], { at: seconds, ...ellipse }) },
  tones: curve,
});
const span = shape(['from', 'to'], { from: seconds, to: seconds, in: seconds, out: seconds });
const id = { type: 'string', minLength: 1, maxLength: 60 };
const change = { at: seconds, x: number(-1, 2), y: number(-1, 2), scale: number(0, 10) };
const events = shape([], {
  muted: { type: 'array', maxItems: LOOK_LIMITS.changes, items: id },
  changed: { type: 'object', propertyNames: id, maxProperties: LOOK_LIMITS.changes, additionalProperties: shape([], change) },
  pinned: { type: 'array', maxItems: LOOK_LIMITS.changes, items: shape(['id', 'at'], { id, ...change, length: number(0, 60) }) },
});

function setting(s: Setting): Json {
  const described = { default: s.default, description: s.kind === 'number' && s.sign ? `${s.says} (${s.sign})` : s.says };
  switch (s.kind) {
    case 'number':
      return { ...number(s.min, s.max), ...described };
    case 'toggle':
      return { type: 'boolean', ...described };
    case 'choice':
      return { enum: Object.keys(s.options), ...described };
    case 'colour':
      return { ...colour, ...described };
    case 'curve':
      return { ...curve, ...described };
    case 'table':
    case 'font':
    case 'plate':
      return { type: 'string', maxLength: 200, ...described };
    case 'text':
      return { type: 'string', maxLength: s.most, ...(s.pattern ? { pattern: s.pattern, $comment: s.form } : {}), ...described };
  }
}

/** Definitions of one document: what is said once is referred to. */
class Definitions {
  readonly all: Record<string, Json> = {};

  ref(name: string, of: () => Json): Json {
    this.all[name] ??= of();
    return { $ref: `#/$defs/${name}` };
  }

  /** Amounts are bounded by the span of the setting. */
  motions(s: MovingSetting): Record<Motion['motion'], Json> {
    const amount = s.kind === 'number' ? number(s.min - s.max, s.max - s.min) : number(-1, 1);
    const value = s.kind === 'number' ? number(s.min, s.max) : colour;
    const speed = shape(['amount', 'rate'], { amount, rate: this.ref('rate', () => number(0, 60)) });
    const key = shape(['at', 'value'], { at: this.ref('seconds', () => seconds), value, ease: this.ref('ease', () => ({ enum: ['hold', 'line', 'smooth'] })) });
    const trail = this.ref('trail', () => number(0, 10));
    return {
      wander: shape(['motion', 'speeds'], { motion: { const: 'wander' }, speeds: { type: 'array', minItems: 1, maxItems: LOOK_LIMITS.speeds, items: speed } }),
      jump: shape(['motion', 'amount'], { motion: { const: 'jump' }, amount, rate: number(0, 120), spread: { enum: ['even', 'bell'] } }),
      keys: shape(['motion', 'keys'], {
        motion: { const: 'keys' },
        keys: { type: 'array', minItems: 1, maxItems: LOOK_LIMITS.keys, items: key },
        loop: number(0.01, 360_000),
      }),
      follow: shape(['motion', 'of', 'gain'], { motion: { const: 'follow' }, of: { type: 'string', maxLength: 80 }, gain: amount, delay: trail, decay: trail }),
    };
  }

  /** How a setting may move: one definition for all of a range. */
  private motion(s: MovingSetting): Json {
    return this.ref(s.kind === 'number' ? `motion-${s.min}-to-${s.max}` : 'motion-of-colour', () => ({ oneOf: Object.values(this.motions(s)) }));
  }

  /** What every use may say, whatever its trait. */
  private anyUse(): Json {
    return {
      type: 'object',
      required: ['trait'],
      properties: {
        trait: true,
        name: { type: 'string', minLength: 1, maxLength: LOOK_LIMITS.name },
        act: { enum: ACTS },
        on: { type: 'boolean', default: true },
        strength: { ...number(0, 1), default: 1 },
        seed: this.ref('seed', () => seed),
        blend: { enum: BLENDS, default: 'normal' },
        zone,
        when: { type: 'array', maxItems: LOOK_LIMITS.spans, items: span },
      },
    };
  }

  /** @param motions false leaves open how its settings move */
  use(trait: AnyTrait, motions = true): Json {
    const settings = Object.entries(trait.settings as Record<string, Setting>);
    const named = (of: readonly (readonly [string, Json | true])[]): Json => ({ type: 'object', additionalProperties: false, properties: Object.fromEntries(of) });
    return {
      title: trait.name,
      description: trait.says,
      type: 'object',
      ...this.ref('use', () => this.anyUse()),
      unevaluatedProperties: false,
      properties: {
        trait: { const: trait.id },
        settings: named(settings.map(([key, s]) => [key, setting(s)] as const)),
        motions: named(settings.flatMap(([key, s]) => (mayMove(s) ? [[key, motions ? this.motion(s) : true] as const] : []))),
        ...(trait.events ? { events: this.ref('events', () => events) } : {}),
      },
    };
  }

  look(carrier: Json, use: Json | true): Json {
    const life = shape(['carrier', 'traits'], { carrier, traits: { type: 'array', maxItems: LOOK_LIMITS.traits, items: use } });
    return shape(['schema', 'name', 'seed', 'shape', 'lives'], {
      schema: { const: LOOK_SCHEMA },
      name: { type: 'string', minLength: 1, maxLength: LOOK_LIMITS.name },
      seed: this.ref('seed', () => seed),
      shape: { enum: ['file', 'carrier'], description: 'Shape of the picture: the file’s, or the last carrier’s with bars where the file is of another' },
      lives: { type: 'array', maxItems: LOOK_LIMITS.lives, items: life },
    });
  }
}

const whole = (make: (defs: Definitions) => Json): Json => {
  const defs = new Definitions();
  return { ...make(defs), $defs: defs.all };
};

/** A use of one trait; how its settings move is said by `motionSchema`. */
export const useSchema = (trait: AnyTrait): Json => whole((defs) => defs.use(trait, false));

/** One kind of motion of a setting. */
export const motionSchema = (s: MovingSetting, kind: Motion['motion']): Json => whole((defs) => defs.motions(s)[kind]);

/** A look whose carriers and uses are looked into by themselves. */
export const frameSchema = (): Json => whole((defs) => defs.look({ type: 'string' }, true));

/** A JSON Schema (2020-12) of look files, made from the declarations of traits and carriers. */
export const lookJsonSchema = (): Json => {
  const defs = new Definitions();
  const uses = traits.map((trait) => defs.ref(`trait-${trait.id}`, () => defs.use(trait)));
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Tin Ghost look',
    ...defs.look({ enum: carriers.map((c) => c.id) }, { oneOf: uses }),
    $defs: defs.all,
  };
};
