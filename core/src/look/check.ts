import Joi from 'joi';
import { parseTree, type ParseError } from 'jsonc-parser';
import { carrierById, carriers } from '../carriers';
import type { Motion } from '../motion/motion';
import type { ColourSetting, NumberSetting, Setting } from '../traits/settings';
import { ACTS, type AnyTrait } from '../traits/trait';
import { traitById, traits } from '../traits';
import { lacking } from '../traits/fits';
import { followProblems } from './follows';
import { BLENDS, LOOK_LIMITS, LOOK_SCHEMA, type Look } from './look';

/** One thing that is wrong with a look: where, as a path such as `lives[0].traits[2].settings.size`, and what. */
export interface Problem {
  readonly path: string;
  readonly message: string;
}

export class LookError extends Error {
  constructor(readonly problems: readonly Problem[]) {
    super(problems.map((p) => (p.path ? `${p.path}: ${p.message}` : p.message)).join('\n'));
    this.name = 'LookError';
  }
}

const list = (words: readonly string[]): string => words.join(', ');

function numberRule(setting: NumberSetting): Joi.Schema {
  const unit = setting.sign ? ` ${setting.sign}` : '';
  const range = `a number from ${setting.min} to ${setting.max}${unit}`;
  return Joi.number()
    .strict()
    .min(setting.min)
    .max(setting.max)
    .messages({ '*': `must be ${range}, without the unit` });
}

const COLOUR = Joi.array().length(3).items(Joi.number().strict().min(0).max(1)).messages({ '*': 'must be three numbers from 0 to 1: red, green, blue' });

/** A number within bounds, with a message that names them. */
export const finite = (min: number, max: number): Joi.NumberSchema =>
  Joi.number()
    .strict()
    .min(min)
    .max(max)
    .messages({ '*': `must be a number from ${min} to ${max}` });

const POINT = Joi.array().length(2).items(finite(0, 1));
const rising = (points: [number, number][], helpers: Joi.CustomHelpers) =>
  points.every((p, i) => i === 0 || p[0] > points[i - 1]![0]) ? points : helpers.message({ custom: 'must rise in the first number of each point' });
const CURVE = Joi.array().min(2).max(LOOK_LIMITS.points).items(POINT).custom(rising);

function settingRule(setting: Setting): Joi.Schema {
  switch (setting.kind) {
    case 'number':
      return numberRule(setting);
    case 'toggle':
      return Joi.boolean().strict().messages({ '*': 'must be true or false' });
    case 'choice':
      return Joi.string()
        .valid(...Object.keys(setting.options))
        .messages({ '*': `must be one of ${list(Object.keys(setting.options))}` });
    case 'colour':
      return COLOUR;
    case 'curve':
      return CURVE;
    case 'table':
      return Joi.string().allow('').max(200).messages({ '*': 'must be the identity of a table, or empty' });
  }
}

const SECONDS = finite(0, 360_000);

/** Rule of the motions of a setting, made when it first has one. */
function motionRule(setting: NumberSetting | ColourSetting): Joi.Schema {
  let rules: Record<Motion['motion'], Joi.ObjectSchema> | undefined;
  return Joi.any().custom((motion: unknown, helpers) => {
    rules ??= motionRules(setting);
    const kind = (motion as { motion?: unknown } | null)?.motion;
    const rule = typeof kind === 'string' && Object.hasOwn(rules, kind) ? rules[kind as Motion['motion']] : undefined;
    if (!rule) return helpers.message({ custom: `must be an object with a "motion": one of ${list(Object.keys(rules))}` });
    const { error } = rule.validate(motion, { abortEarly: false, convert: false });
    return error ? helpers.error('use.inner', { inner: error }) : motion;
  });
}

/** Rules of each motion of a setting; amounts are bounded by the span of the setting. */
function motionRules(setting: NumberSetting | ColourSetting): Record<Motion['motion'], Joi.ObjectSchema> {
  const span = setting.kind === 'number' ? setting.max - setting.min : 1;
  const value = setting.kind === 'number' ? numberRule(setting) : COLOUR;
  const amount = finite(-span, span).required();
  return {
    wander: Joi.object({
      motion: Joi.any(),
      speeds: Joi.array()
        .min(1)
        .max(LOOK_LIMITS.speeds)
        .items(Joi.object({ amount, rate: finite(0, 60).required() }))
        .required(),
    }),
    jump: Joi.object({ motion: Joi.any(), amount, rate: finite(0, 120), spread: Joi.string().valid('even', 'bell') }),
    keys: Joi.object({
      motion: Joi.any(),
      keys: Joi.array()
        .min(1)
        .max(LOOK_LIMITS.keys)
        .items(Joi.object({ at: SECONDS.required(), value: value.required(), ease: Joi.string().valid('hold', 'line', 'smooth') }))
        .custom((keys: { at: number }[], helpers) =>
          keys.every((key, i) => i === 0 || key.at > keys[i - 1]!.at) ? keys : helpers.message({ custom: 'must stand in order of time, no two at one moment' }),
        )
        .required(),
      loop: finite(0.01, 360_000),
    }),
    follow: Joi.object({ motion: Joi.any(), of: Joi.string().max(80).required(), gain: amount, delay: finite(0, 10), decay: finite(0, 10) }),
  };
}

const ZONE = Joi.object({
  kind: Joi.string().valid('all', 'edges', 'ellipse', 'quiet').required(),
  x: finite(-1, 2),
  y: finite(-1, 2),
  across: finite(0.01, 4),
  down: finite(0.01, 4),
  soft: finite(0, 1),
  tones: CURVE,
});

const SPAN = Joi.object({ from: SECONDS.required(), to: SECONDS.greater(Joi.ref('from')).required(), in: SECONDS, out: SECONDS });

const ID = Joi.string().min(1).max(60);
const EVENTS = Joi.object({
  muted: Joi.array().max(LOOK_LIMITS.changes).items(ID),
  changed: Joi.object()
    .pattern(ID, Joi.object({ at: SECONDS, x: finite(-1, 2), y: finite(-1, 2), scale: finite(0, 10) }))
    .max(LOOK_LIMITS.changes),
  pinned: Joi.array()
    .max(LOOK_LIMITS.changes)
    .items(Joi.object({ id: ID.required(), at: SECONDS.required(), x: finite(-1, 2), y: finite(-1, 2), scale: finite(0, 10), length: finite(0, 60) })),
});

function useRule(trait: AnyTrait): Joi.ObjectSchema {
  const settings = trait.settings as Record<string, Setting>;
  const moving = Object.entries(settings).filter((entry): entry is [string, NumberSetting | ColourSetting] => entry[1].kind === 'number' || entry[1].kind === 'colour');
  return Joi.object({
    trait: Joi.string().required(),
    name: Joi.string().max(LOOK_LIMITS.name),
    act: Joi.string()
      .valid(...ACTS)
      .messages({ 'any.only': `must be one of ${list(ACTS)}` }),
    on: Joi.boolean().strict(),
    strength: Joi.number().strict().min(0).max(1).messages({ '*': 'must be a number from 0 to 1' }),
    seed: seedRule(),
    settings: Joi.object(Object.fromEntries(Object.entries(settings).map(([key, s]) => [key, settingRule(s)]))).messages({
      'object.unknown': `is no setting of ${trait.id}; there are ${list(Object.keys(settings))}`,
    }),
    motions: Joi.object(Object.fromEntries(moving.map(([key, s]) => [key, motionRule(s)]))).messages({
      'object.unknown': `is no setting of ${trait.id} that can move; there are ${list(moving.map(([key]) => key))}`,
    }),
    blend: Joi.string()
      .valid(...BLENDS)
      .messages({ 'any.only': `must be one of ${list(BLENDS)}` }),
    zone: ZONE,
    when: Joi.array().max(LOOK_LIMITS.spans).items(SPAN),
    ...(trait.events ? { events: EVENTS } : {}),
  });
}

const seedRule = (): Joi.Schema => Joi.number().strict().integer().min(0).max(0xffffffff).messages({ '*': 'must be a whole number from 0 to 4294967295' });

/** Rules are made when they are first needed: all of them take a third of a second. */
const useRules = new Map<string, Joi.ObjectSchema>();
function ruleOf(id: string): Joi.ObjectSchema | undefined {
  const trait = traitById(id);
  if (trait && !useRules.has(id)) useRules.set(id, useRule(trait));
  return useRules.get(id);
}

/** A use is checked by the rule of its trait; that trait must be known first. */
const anyUse = Joi.any().custom((value: unknown, helpers) => {
  const id = (value as { trait?: unknown } | null)?.trait;
  if (typeof value !== 'object' || value === null || typeof id !== 'string') return helpers.error('use.shape');
  const rule = ruleOf(id);
  if (!rule) return helpers.error('use.unknown', { id, path: 'trait' });
  const { error } = rule.validate(value, { abortEarly: false, convert: false });
  if (error) return helpers.error('use.inner', { inner: error });
  return value;
});

const lookRule = Joi.object({
  schema: Joi.string()
    .valid(LOOK_SCHEMA)
    .required()
    .messages({ '*': `must be "${LOOK_SCHEMA}"` }),
  name: Joi.string().min(1).max(LOOK_LIMITS.name).required(),
  seed: seedRule().required(),
  shape: Joi.string().valid('file', 'carrier').messages({ '*': 'must be one of file, carrier' }),
  lives: Joi.array()
    .max(LOOK_LIMITS.lives)
    .required()
    .items(
      Joi.object({
        // More carriers may come, so they are asked for when a look is checked.
        carrier: Joi.any()
          .custom((id: unknown, helpers) => (typeof id === 'string' && carrierById(id) ? id : helpers.message({ custom: `must be one of ${list(carriers.map((c) => c.id))}` })))
          .required(),
        traits: Joi.array().max(LOOK_LIMITS.traits).items(anyUse).required(),
      }),
    ),
});

/** Joi's path as it is written in JavaScript. */
export const pathText = (path: readonly (string | number)[]): string => path.map((part, i) => (typeof part === 'number' ? `[${part}]` : i === 0 ? part : `.${part}`)).join('');

/** Joi's own wordings begin with the label in quotes; the path already says it. */
const plain = (message: string): string => message.replace(/^"[^"]*" /, '');

function problemsOf(error: Joi.ValidationError, before: readonly (string | number)[] = []): Problem[] {
  return error.details.flatMap((detail) => {
    const path = [...before, ...detail.path];
    const context = detail.context as { inner?: Joi.ValidationError; id?: string } | undefined;
    if (detail.type === 'use.inner' && context?.inner) return problemsOf(context.inner, path);
    if (detail.type === 'use.unknown')
      return [{ path: pathText([...path, 'trait']), message: `there is no trait "${String(context?.id).slice(0, 60)}"; there are ${list(traits.map((t) => t.id))}` }];
    if (detail.type === 'use.shape') return [{ path: pathText(path), message: 'must be an object with a "trait"' }];
    return [{ path: pathText(path), message: plain(detail.message) }];
  });
}

/**
 * Checks a parsed look.
 * @returns the same look, typed
 * @throws LookError that names every wrong place (the first 20)
 */
export function checkLook(value: unknown): Look {
  const tooMany = counted(value);
  if (tooMany) throw new LookError([tooMany]);
  const { error } = lookRule.required().validate(value, { abortEarly: false, convert: false });
  if (error) throw new LookError(problemsOf(error).slice(0, 20));
  const look = value as Look;
  const unfit = unfitProblems(look);
  if (unfit.length) throw new LookError(unfit.slice(0, 20));
  const follows = followProblems(look);
  if (follows.length) throw new LookError(follows.map((p) => ({ path: pathText(['lives', p.life, 'traits', p.index, 'motions', p.key]), message: p.message })));
  return look;
}

/** Uses that are on and whose carrier has not what they need. */
const unfitProblems = (look: Look): Problem[] =>
  look.lives.flatMap((life, l) =>
    life.traits.flatMap((use, index) => {
      const carrier = carrierById(life.carrier)!;
      const lack = use.on === false ? undefined : lacking(traitById(use.trait)!, carrier);
      return lack ? [{ path: pathText(['lives', l, 'traits', index, 'trait']), message: `"${use.trait}" needs ${lack}; ${carrier.id} has none` }] : [];
    }),
  );

/** Counts before looking closer, so that a look of a million traits is refused at once. */
function counted(value: unknown): Problem | undefined {
  const lives = (value as { lives?: unknown } | null)?.lives;
  if (!Array.isArray(lives)) return undefined;
  if (lives.length > LOOK_LIMITS.lives) return { path: 'lives', message: `holds ${lives.length}; a look has at most ${LOOK_LIMITS.lives} lives` };
  for (const [i, life] of lives.entries()) {
    const uses = (life as { traits?: unknown } | null)?.traits;
    if (Array.isArray(uses) && uses.length > LOOK_LIMITS.traits) {
      return { path: `lives[${i}].traits`, message: `holds ${uses.length}; a life has at most ${LOOK_LIMITS.traits} traits` };
    }
  }
  return undefined;
}

/**
 * Reads a look from the text of a file.
 * @throws LookError also where the text is no JSON, with line and column
 */
export function parseLook(text: string): Look {
  if (text.length > LOOK_LIMITS.bytes) throw new LookError([{ path: '', message: `the file holds ${text.length} characters; a look has at most ${LOOK_LIMITS.bytes}` }]);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new LookError([{ path: '', message: `not JSON${placeOf(text)}` }]);
  }
  return checkLook(value);
}

/** Line and column of the first fault; JSON.parse itself does not always say. */
function placeOf(text: string): string {
  if (text.trim() === '') return ': the file is empty';
  const faults: ParseError[] = [];
  parseTree(text, faults, { disallowComments: true });
  const before = text.slice(0, faults[0]?.offset ?? text.length).split('\n');
  return ` at line ${before.length}, column ${before.at(-1)!.length + 1}`;
}
