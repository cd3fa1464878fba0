import type { Problem } from '@tin-ghost/core';
import { ERROR_STATUS, type ErrorCode } from '@tin-ghost/contract';

/** Why something that was asked for is not done: a code for programs, words for people, and the places in what was sent. */
export class Refusal extends Error {
  constructor(
    readonly code: ErrorCode,
    message: string,
    readonly problems: readonly Problem[] = [],
    /** HTTP status; that of the code unless a protocol has its own. */
    readonly status: number = ERROR_STATUS[code],
  ) {
    super(message);
    this.name = 'Refusal';
  }
}

export const notFound = (what: string): Refusal => new Refusal('not-found', `there is no such ${what}`);

/** Why a server or a worker cannot start, for the person who starts it. */
export class StartError extends Error {}
