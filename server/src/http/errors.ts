import type { NextFunction, Request, Response } from 'express';
import type { ErrorAnswer } from '@tin-ghost/contract';
import { LookError } from '@tin-ghost/core';
import { CancelledError, InputError, systemReason, WorkError } from '@tin-ghost/media';
import { isDatabaseAway } from '../db/client';
import { log } from '../log';
import { Refusal } from '../refusal';
import { StoreAwayError } from '../store/away';

/** What the database refuses, told apart by the class of its code (SQLSTATE): a value it cannot hold, a rule of its tables. */
function refusedByDatabase(error: unknown): Refusal | undefined {
  for (let e = error as { code?: unknown; cause?: unknown } | null | undefined; typeof e === 'object' && e; e = e.cause as typeof e) {
    const state = typeof e.code === 'string' && /^[0-9A-Z]{5}$/.test(e.code) ? e.code : '';
    if (state === '53100') return new Refusal('disk-full', 'the disk is full');
    if (state.startsWith('22')) return new Refusal('invalid', 'a value that was sent cannot be kept');
    if (state.startsWith('23')) return new Refusal('gone-meanwhile', 'what this belongs to was removed or changed in the meantime');
  }
  return undefined;
}

/** Any error as a refusal: the only place that turns one into the other. */
export function asRefusal(error: unknown): Refusal {
  if (error instanceof Refusal) return error;
  if (error instanceof LookError) return new Refusal('invalid-look', 'the look cannot be taken', error.problems);
  if (error instanceof InputError) return new Refusal('unusable-file', error.place ? `${error.reason} (${error.place})` : error.reason);
  if (error instanceof WorkError) return new Refusal('work-failed', error.message);
  if (error instanceof CancelledError) return new Refusal('cancelled', 'nobody waits for the answer');
  if (isDatabaseAway(error)) return new Refusal('database-away', 'The database cannot be reached. What was saved before is safe; this will be tried again.');
  if (error instanceof StoreAwayError) return new Refusal('store-away', 'The store of footage and prints cannot be reached; try again in a moment');
  const refused = refusedByDatabase(error);
  if (refused) return refused;
  const known = error as { type?: string; status?: number; code?: string; message?: string };
  if (known.type === 'entity.too.large') return new Refusal('too-large', 'more was sent than can be taken at once');
  if (known.type === 'entity.parse.failed') return new Refusal('invalid', 'what was sent is not JSON');
  if (systemReason(error) === 'the disk is full') return new Refusal('disk-full', 'the disk is full');
  if (known.code === 'ENOENT') return new Refusal('not-found', 'the file is gone');
  if (known.status && known.status >= 400 && known.status < 500) return new Refusal(known.status === 404 ? 'not-found' : 'invalid', known.message ?? 'refused', [], known.status);
  return new Refusal('internal', 'something unforeseen happened in the server');
}

/** The body of an answer that is no success. */
export const answerOf = ({ code, message, problems }: Refusal): ErrorAnswer => ({ error: { code, message, problems: [...problems] } });

/** Answers with whatever a route throws. */
export function answerErrors(error: unknown, _request: Request, response: Response, _next: NextFunction): void {
  const refusal = asRefusal(error);
  if (refusal.code === 'internal' || refusal.code === 'work-failed') log.error({ err: error, id: response.getHeader('x-request-id') }, refusal.code);
  if (response.headersSent) {
    response.destroy();
    return;
  }
  response.status(refusal.status).json(answerOf(refusal));
}
