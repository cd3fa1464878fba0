import express, { type Request, type Response, type Router } from 'express';
import type Joi from 'joi';
import type { Route } from '@tin-ghost/contract/routes';
import { checked, soundBody } from './validate';

/** JSON that is sent at once. */
const JSON_LIMIT = '1mb';
/** A font of all of Chinese takes about 16 MB. */
const BYTES_LIMIT = '32mb';
/** A cube of 65 points a side in text takes about 8 MB; the largest the format allows would not fit a picture's time. */
const TEXT_LIMIT = '32mb';

type BodyOf<R extends Route> = R extends { body: Joi.ObjectSchema<infer T> } ? T : R extends { text: string } ? string : R extends { bytes: string } ? Buffer : unknown;
type AnswerOf<R extends Route> = R['answer'] extends { json: Joi.ObjectSchema<infer T> } ? T : R['answer'] extends { json: Joi.ArraySchema<infer T> } ? T : void;

/** What a handler is given: `body` has passed the route's rule. */
export interface Call<R extends Route> {
  readonly params: Readonly<Record<string, string>>;
  readonly query: Readonly<Record<string, unknown>>;
  readonly body: BodyOf<R>;
  readonly request: Request;
  /** For routes that answer with a file. */
  readonly response: Response;
}

/**
 * Mounts a route of the contract: what is sent is checked by its rule, what the handler returns is answered as JSON with its status. A route
 * that answers with a file sends it itself.
 */
export function serve<const R extends Route>(router: Router, route: R, handler: (call: Call<R>) => Promise<AnswerOf<R>> | AnswerOf<R>): void {
  const { method, path, body, long, text, bytes, answer }: Route = route;
  const readers = body
    ? [express.json({ limit: long ? TEXT_LIMIT : JSON_LIMIT }), soundBody]
    : text
      ? [express.text({ limit: TEXT_LIMIT, type: '*/*' })]
      : bytes
        ? [express.raw({ limit: BYTES_LIMIT, type: '*/*' })]
        : [];
  const way = method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
  router[way](path, ...readers, async (request: Request, response: Response) => {
    const sent = body
      ? checked(body, request.body)
      : bytes
        ? Buffer.isBuffer(request.body)
          ? request.body
          : Buffer.alloc(0)
        : typeof request.body === 'string'
          ? request.body
          : '';
    const value = await handler({ params: request.params as Record<string, string>, query: request.query, body: sent as BodyOf<R>, request, response });
    if ('json' in answer) response.status(answer.status).json(value);
    else if (answer.status === 204) response.status(204).end();
  });
}
