/** Something given from outside that cannot be used. The message names the file, the place and the reason. */
export class InputError extends Error {
  constructor(
    readonly file: string,
    readonly reason: string,
    /** Where in the file, where that is known. */
    readonly place?: string,
  ) {
    super(`${file}${place ? ` (${place})` : ''}: ${reason}`);
    this.name = 'InputError';
  }
}

/** Work that could not go on: a program that ended, a disk that filled. What existed before is untouched. */
export class WorkError extends Error {
  constructor(
    message: string,
    /** What the program said, for a log. */
    readonly detail = '',
  ) {
    super(message);
    this.name = 'WorkError';
  }
}

/** Stopped because it was asked to. */
export class CancelledError extends Error {
  constructor() {
    super('stopped');
    this.name = 'CancelledError';
  }
}
