import { randomUUID } from 'node:crypto';
import type { RequestHandler } from 'express';
import { log } from '../log';

/** Gives every request a number, which its answer bears, and notes how it was answered: by the pattern of its route, not by what was asked for. */
export const noted: RequestHandler = (request, response, next) => {
  const id = randomUUID();
  const began = performance.now();
  response.setHeader('x-request-id', id);
  response.on('close', () => {
    const route = (request.route as { path?: string } | undefined)?.path ?? 'other';
    log.info({ id, method: request.method, route, status: response.statusCode, ms: Math.round(performance.now() - began) });
  });
  next();
};
