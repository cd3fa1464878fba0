/** Why a program failed, for programs: words are for people alone. */
export type WorkCode =
  /** It is not on this machine. */
  | 'not-installed'
  /** It stopped moving, or took too long, and was ended. */
  | 'stalled'
  /** Somebody else ended it. */
  | 'ended'
  /** What it read has no index, as a file that is cut short. */
  | 'no-index'
  | 'failed';

/** Something given from outside that cannot be used. The message names the file, the place and the reason. */
export class InputError extends Error {
  constructor(
    readonly file: string,
    readonly reason: string,
    /** Where in the file, where that is known. */
    readonly place?: string,
    /** The picture that cannot be read, where it is one. */
    readonly picture?: number,
    /** What the program that read it failed by. */
    readonly code: WorkCode = 'failed',
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
    readonly code: WorkCode = 'failed',
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

const SYSTEM: Record<string, string> = {
  ENOSPC: 'the disk is full',
  EDQUOT: 'the disk is full',
  EROFS: 'the disk cannot be written to',
  EACCES: 'permission was denied',
  EPERM: 'permission was denied',
  EISDIR: 'it is a folder, not a file',
  ENOTDIR: 'a part of its path is no folder',
  ENOENT: 'there is no such file or folder',
  ENAMETOOLONG: 'its name is too long',
  EMFILE: 'too many files are open',
  EIO: 'the disk gave an error',
};

/** What an error of the system means to a person, or undefined where it is none. */
export const systemReason = (error: unknown): string | undefined => SYSTEM[(error as NodeJS.ErrnoException | null)?.code ?? ''];
