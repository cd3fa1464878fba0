import type { Problem } from '@tin-ghost/core';

/**
 * Every kind of refusal, with the HTTP status it comes with. A code is for programs and never changes its meaning; what a person reads is the
 * message beside it, which may.
 */
export const ERROR_STATUS = {
  /** What was sent breaks a rule; `problems` name the places. */
  invalid: 400,
  /** A look or a preparation breaks a rule; `problems` name the places. */
  'invalid-look': 400,
  /** A file that was given cannot be used. */
  'unusable-file': 400,
  /** The server is behind a password, which was not given or is another. */
  'password-needed': 401,
  /** The request comes from another place than the application's own pages. */
  forbidden: 403,
  'not-found': 404,
  /** Footage or a print that is not finished was asked for. */
  'not-ready': 409,
  /** What is asked for cannot be done in the state that the thing is in. */
  'wrong-state': 409,
  /** The shot has another revision by now: somebody else changed it. */
  'changed-elsewhere': 409,
  /** What this belongs to was removed or changed in the meantime. */
  'gone-meanwhile': 409,
  'too-large': 413,
  /** The same was asked for too often in a short time. */
  'too-many': 429,
  /** Nobody waits for the answer any more. */
  cancelled: 499,
  /** A program that was needed ended, or could not go on. */
  'work-failed': 500,
  /** What nobody reckoned with; the server's log has it. */
  internal: 500,
  /** The database cannot be reached at the moment. */
  'database-away': 503,
  /** The bucket that holds footage and prints cannot be reached at the moment. */
  'store-away': 503,
  'disk-full': 507,
  /** The upload's protocol (tus 1.0) refuses; its own status stands in the answer. */
  'upload-refused': 400,
} as const satisfies Record<string, number>;

export type ErrorCode = keyof typeof ERROR_STATUS;

/** Body of every answer that is no success. */
export interface ErrorAnswer {
  readonly error: { readonly code: ErrorCode; readonly message: string; readonly problems: Problem[] };
}
