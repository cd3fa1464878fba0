import type { RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { Refusal } from '../refusal';

/**
 * Takes so many requests a minute from one address. @param words what the others are told
 * @param failuresOnly whether only those count that were refused
 */
export const limited = (limit: number, words: string, failuresOnly = false): RequestHandler =>
  rateLimit({
    windowMs: 60_000,
    limit,
    standardHeaders: false,
    legacyHeaders: false,
    skipSuccessfulRequests: failuresOnly,
    handler: () => {
      throw new Refusal('too-many', words);
    },
  });
