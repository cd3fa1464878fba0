import type Joi from 'joi';
import { pathText } from '@tin-ghost/core';
import { HttpError } from './errors';

/** What was sent, checked. Throws HttpError 400 with the path of every wrong place. */
export function checked<T>(rule: Joi.Schema<T>, value: unknown): T {
  const result = rule.validate(value ?? {}, { abortEarly: false, convert: false });
  if (!result.error) return result.value as T;
  const problems = result.error.details.slice(0, 20).map((d) => ({ path: pathText(d.path), message: d.message.replace(/^"[^"]*" /, '') }));
  throw new HttpError(400, problems.map((p) => (p.path ? `${p.path} ${p.message}` : p.message)).join('; '), problems);
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

/** An id from an address. Throws HttpError 404 where it can be none. */
export function idOf(text: unknown, what: string): string {
  if (typeof text !== 'string' || !UUID.test(text)) throw new HttpError(404, `there is no such ${what}`);
  return text;
}
