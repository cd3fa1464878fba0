import pLimit from 'p-limit';

/** Work of which one runs at a time, in the order in which it was asked for. */
export class Turns {
  private readonly inTurn = pLimit(1);

  /** Does something when its turn comes. @param signal gives the turn up while it waits @throws the signal's reason, and what the work throws */
  take<T>(work: () => Promise<T>, signal: AbortSignal): Promise<T> {
    return new Promise((resolve, reject) => {
      const giveUp = (): void => reject(signal.reason as Error);
      signal.addEventListener('abort', giveUp);
      this.inTurn(() => {
        signal.removeEventListener('abort', giveUp);
        signal.throwIfAborted();
        return work();
      }).then(resolve, reject);
    });
  }
}
