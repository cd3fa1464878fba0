import { randomUUID } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import { log } from '../log';

/** The pattern of the route that answers a request: no name and no number of anything is in it. */
export const patternOf = ({ route }: Request): string => (route as { path?: string } | undefined)?.path ?? 'other';

/** Gives every request a number, which its answer bears, and notes how it was answered: by the pattern of its route, not by what was asked for. */
export const noted: RequestHandler = (request, response, next) => {
  const id = randomUUID();
  const began = performance.now();
  response.setHeader('x-request-id', id);
  response.on('close', () => {
    log.info({ id, method: request.method, route: patternOf(request), status: response.statusCode, ms: Math.round(performance.now() - began) });
  });
  next();
};
