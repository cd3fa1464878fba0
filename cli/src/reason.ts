import { CancelledError, InputError, systemReason, WorkError } from '@tin-ghost/media';

/** What a person is told. A stack is shown only where the fault is ours. */
export function reasonOf(error: unknown): string {
  if (error instanceof InputError || error instanceof WorkError || error instanceof CancelledError || error instanceof RangeError) return error.message;
  const reason = systemReason(error);
  if (reason) return `${(error as NodeJS.ErrnoException).path ?? ''}: ${reason}`.replace(/^: /, '');
  return error instanceof Error ? (error.stack ?? error.message) : String(error);
}
