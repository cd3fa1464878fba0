import type { RequestHandler } from 'express';
import Joi from 'joi';
import { pathText } from '@tin-ghost/core';
import { HttpError } from './errors';

/** What was sent, checked. Throws HttpError 400 with the path of every wrong place. */
export function checked<T>(rule: Joi.Schema<T>, value: unknown): T {
  const result = rule.validate(value ?? {}, { abortEarly: false, convert: false });
  if (!result.error) return result.value as T;
  const problems = result.error.details.slice(0, 20).map((d) => ({ path: pathText(d.path), message: d.message.replace(/^"[^"]*" /, '') }));
  throw new HttpError(400, problems.map((p) => (p.path ? `${p.path} ${p.message}` : p.message)).join('; '), problems);
}

/** The database's whole numbers end here. */
const LARGEST_INTEGER = 2_147_483_647;

/** A whole number that the database can hold. */
export const count = (least = 0): Joi.NumberSchema => Joi.number().integer().min(least).max(LARGEST_INTEGER);

/** What cannot stand in a text: the database takes no NUL, and half of a surrogate pair is no character. */
const UNSOUND = /[\u0000\p{Cs}]/u;
const UNPRINTED = /[\u0000-\u001f\u007f-\u009f\u2028\u2029\p{Cs}]+/gu;

/** A text in one line, in one spelling (NFC), without what is no character. @param most characters */
export function oneLine(text: string, most: number): string {
  return [...text.normalize('NFC').replace(UNPRINTED, ' ').replace(/\s+/g, ' ').trim()].slice(0, most).join('').trim();
}

/** A name that a person gives: one line, not empty. */
export const nameText = (most = 160): Joi.StringSchema =>
  Joi.string()
    .max(most)
    .custom((value: string, helpers) => oneLine(value, most) || helpers.error('string.empty'));

/** Where in a value of JSON a text stands that cannot be kept, or undefined. */
function unsoundAt(value: unknown): (string | number)[] | undefined {
  const open: { at: (string | number)[]; value: unknown }[] = [{ at: [], value }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { at } = next;
    if (typeof next.value === 'string' && UNSOUND.test(next.value)) return at;
    if (typeof next.value !== 'object' || next.value === null) continue;
    for (const [key, inner] of Object.entries(next.value)) {
      if (UNSOUND.test(key)) return [...at, '(a key)'];
      if (typeof inner === 'string' || typeof inner === 'object') open.push({ at: [...at, Array.isArray(next.value) ? Number(key) : key], value: inner });
    }
  }
  return undefined;
}

const NOT_TEXT = 'holds a character that no text can have';

/** No text that the database could not keep comes past here: neither in the address nor in what was sent. */
export const soundText: RequestHandler = (request, _response, next) => {
  let address: string;
  try {
    address = decodeURIComponent(request.path);
  } catch {
    throw new HttpError(400, 'the address is not written as an address is');
  }
  if (UNSOUND.test(address)) throw new HttpError(404, `the address ${NOT_TEXT}`);
  for (const [name, value] of [['the address', request.query] as const, ['what was sent', request.body] as const]) {
    const at = unsoundAt(value);
    if (at) throw new HttpError(400, `${pathText(at) || name} ${NOT_TEXT}`, [{ path: pathText(at), message: NOT_TEXT }]);
  }
  next();
};

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

/** An id from an address. Throws HttpError 404 where it can be none. */
export function idOf(text: unknown, what: string): string {
  if (typeof text !== 'string' || !UUID.test(text)) throw new HttpError(404, `there is no such ${what}`);
  return text;
}

/** A whole number in an address, written in digits alone. Undefined where it is none. */
export const digits = (text: unknown): number | undefined => (typeof text === 'string' && /^\d{1,9}$/.test(text) ? Number(text) : undefined);
