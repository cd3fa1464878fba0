import type { NextFunction, Request, Response } from 'express';
import { LookError, type Problem } from '@tin-ghost/core';
import { CancelledError, InputError, systemReason, WorkError } from '@tin-ghost/media';
import { isDatabaseAway } from '../db/client';

/** An answer that is no success; `problems` name the places in what was sent. */
export class HttpError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly problems: readonly Problem[] = [],
  ) {
    super(message);
  }
}

export const notFound = (what: string): HttpError => new HttpError(404, `there is no such ${what}`);

/** What the database refuses, told apart by the class of its code (SQLSTATE): a value it cannot hold, a rule of its tables. */
function refusedByDatabase(error: unknown): HttpError | undefined {
  for (let e = error as { code?: unknown; cause?: unknown } | null | undefined; typeof e === 'object' && e; e = e.cause as typeof e) {
    const state = typeof e.code === 'string' && /^[0-9A-Z]{5}$/.test(e.code) ? e.code : '';
    if (state === '53100') return new HttpError(507, 'the disk is full');
    if (state.startsWith('22')) return new HttpError(400, 'a value that was sent cannot be kept');
    if (state.startsWith('23')) return new HttpError(409, 'what this belongs to was removed or changed in the meantime');
  }
  return undefined;
}

/** Any error as an answer. The only place that decides on a status. */
export function asHttp(error: unknown): HttpError {
  if (error instanceof HttpError) return error;
  if (error instanceof LookError) return new HttpError(400, 'the look cannot be taken', error.problems);
  if (error instanceof InputError) return new HttpError(400, error.place ? `${error.reason} (${error.place})` : error.reason);
  if (error instanceof WorkError) return new HttpError(500, error.message);
  if (error instanceof CancelledError) return new HttpError(499, 'nobody waits for the answer');
  if (isDatabaseAway(error)) return new HttpError(503, 'The database cannot be reached. What was saved before is safe; this will be tried again.');
  const refused = refusedByDatabase(error);
  if (refused) return refused;
  const known = error as { type?: string; status?: number; code?: string; message?: string };
  if (known.type === 'entity.too.large') return new HttpError(413, 'more was sent than can be taken at once');
  if (known.type === 'entity.parse.failed') return new HttpError(400, 'what was sent is not JSON');
  if (systemReason(error) === 'the disk is full') return new HttpError(507, 'the disk is full');
  if (known.code === 'ENOENT') return new HttpError(404, 'the file is gone');
  if (known.status && known.status >= 400 && known.status < 500) return new HttpError(known.status, known.message ?? 'refused');
  return new HttpError(500, 'something unforeseen happened in the server');
}

/** Turns whatever a route throws into `{ error: { message, problems } }`. */
export function answerErrors(error: unknown, _request: Request, response: Response, _next: NextFunction): void {
  const http = asHttp(error);
  if (http.status === 500) console.error(error);
  if (response.headersSent) {
    response.destroy();
    return;
  }
  response.status(http.status).json({ error: { message: http.message, problems: http.problems } });
}
