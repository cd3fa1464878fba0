import type { NextFunction, Request, Response } from 'express';
import { LookError, type Problem } from '@tin-ghost/core';
import { InputError, WorkError } from '@tin-ghost/media';
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

function asHttp(error: unknown): HttpError {
  if (error instanceof HttpError) return error;
  if (error instanceof LookError) return new HttpError(400, 'the look cannot be taken', error.problems);
  if (error instanceof InputError) return new HttpError(400, error.message);
  if (error instanceof WorkError) return new HttpError(500, error.message);
  if (isDatabaseAway(error)) return new HttpError(503, 'The database cannot be reached. What was kept before is safe; this will be tried again.');
  const known = error as { type?: string; status?: number; code?: string; message?: string };
  if (known.type === 'entity.too.large') return new HttpError(413, 'more was sent than a look or a form can hold (1 MB)');
  if (known.type === 'entity.parse.failed') return new HttpError(400, 'what was sent is not JSON');
  if (known.code === 'ENOSPC') return new HttpError(507, 'the disk is full');
  return new HttpError(
    known.status && known.status < 500 ? known.status : 500,
    known.status && known.status < 500 ? (known.message ?? 'refused') : 'something unforeseen happened in the server',
  );
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
