import type { RequestHandler } from 'express';
import type Joi from 'joi';
import { pathText } from '@tin-ghost/core';
import { notFound, Refusal } from '../refusal';

/** What was sent, checked. Throws Refusal `invalid` with the path of every wrong place. */
export function checked<T>(rule: Joi.Schema<T>, value: unknown): T {
  const result = rule.validate(value ?? {}, { abortEarly: false, convert: false });
  if (!result.error) return result.value;
  const problems = result.error.details.slice(0, 20).map((d) => ({ path: pathText(d.path), message: d.message.replace(/^"[^"]*" /, '') }));
  throw new Refusal('invalid', problems.map((p) => (p.path ? `${p.path} ${p.message}` : p.message)).join('; '), problems);
}

/** What cannot stand in a text: the database takes no NUL, and half of a surrogate pair is no character. */
const UNSOUND = /[\u0000\p{Cs}]/u;

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

function refuseUnsound(value: unknown, name: string): void {
  const at = unsoundAt(value);
  if (at) throw new Refusal('invalid', `${pathText(at) || name} ${NOT_TEXT}`, [{ path: pathText(at), message: NOT_TEXT }]);
}

/** No text that the database could not keep comes past here in the address. */
export const soundAddress: RequestHandler = (request, _response, next) => {
  let address: string;
  try {
    address = decodeURIComponent(request.path);
  } catch {
    throw new Refusal('invalid', 'the address is not written as an address is');
  }
  if (UNSOUND.test(address)) throw new Refusal('not-found', `the address ${NOT_TEXT}`);
  refuseUnsound(request.query, 'the address');
  next();
};

/** As `soundAddress`, for what was sent. */
export const soundBody: RequestHandler = (request, _response, next) => {
  refuseUnsound(request.body, 'what was sent');
  next();
};

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

/** An id from an address. Throws Refusal `not-found` where it can be none. */
export function idOf(text: unknown, what: string): string {
  if (typeof text !== 'string' || !UUID.test(text)) throw notFound(what);
  return text;
}

/** A whole number in an address, written in digits alone. Undefined where it is none. */
export const digits = (text: unknown): number | undefined => (typeof text === 'string' && /^\d{1,9}$/.test(text) ? Number(text) : undefined);
