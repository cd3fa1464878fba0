import Joi from 'joi';
import { parseTree, type ParseError } from 'jsonc-parser';
import { carriers } from '../carriers';
import type { NumberSetting, Setting } from '../traits/settings';
import { ACTS, type AnyTrait } from '../traits/trait';
import { traitById, traits } from '../traits';
import { LOOK_LIMITS, LOOK_SCHEMA, type Look } from './look';

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

const settingRule = (setting: Setting): Joi.Schema => (setting.kind === 'toggle' ? Joi.boolean().strict().messages({ '*': 'must be true or false' }) : numberRule(setting));

function useRule(trait: AnyTrait): Joi.ObjectSchema {
  const settings = trait.settings as Record<string, Setting>;
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
  });
}

const seedRule = (): Joi.Schema => Joi.number().strict().integer().min(0).max(0xffffffff).messages({ '*': 'must be a whole number from 0 to 4294967295' });

const useRules = new Map(traits.map((trait) => [trait.id, useRule(trait)]));

/** A use is checked by the rule of its trait; that trait must be known first. */
const anyUse = Joi.any().custom((value: unknown, helpers) => {
  const id = (value as { trait?: unknown } | null)?.trait;
  if (typeof value !== 'object' || value === null || typeof id !== 'string') return helpers.error('use.shape');
  const rule = traitById(id) ? useRules.get(id) : undefined;
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
  lives: Joi.array()
    .max(LOOK_LIMITS.lives)
    .required()
    .items(
      Joi.object({
        carrier: Joi.string()
          .valid(...carriers.map((c) => c.id))
          .required()
          .messages({ 'any.only': `must be one of ${list(carriers.map((c) => c.id))}` }),
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
  const { error } = lookRule.validate(value, { abortEarly: false, convert: false });
  if (error) throw new LookError(problemsOf(error).slice(0, 20));
  return value as Look;
}

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
