import { texts } from '../messages/render';

/**
 * A worker whose death is noticed. A worker that runs out of memory or is ended by the browser tells nobody; but while it lives it holds a lock,
 * which the browser frees when it is gone, and the page waits for that lock.
 */
export const lockName = (id: string): string => `tin-ghost/worker/${id}`;

/** What a worker posts when it holds its lock. */
export const ALIVE = 'alive';

/** What the page posts first. */
export const HOLD = 'hold';

/**
 * In the worker: takes the lock for life when the page asks for it. Not before: Chromium has ended the page's process where a worker was given its lock
 * while it was stopped within its first script, as a debugger may stop it.
 * @returns whether the message was meant for the watch
 */
export function heldWhenAsked(message: unknown): message is typeof HOLD {
  if (message !== HOLD) return false;
  void navigator.locks.request(lockName(self.name), () => {
    self.postMessage(ALIVE);
    return new Promise(() => undefined);
  });
  return true;
}

/**
 * On the page: watches a worker that holds its lock.
 * @param id the name that the worker was made with
 * @param onDeath called once, when it is gone or has failed as a whole
 * @returns takes a message of the worker; true where it was meant for the watch
 */
export function watch(worker: Worker, id: string, onDeath: (why: string) => void): (message: unknown) => boolean {
  let told = false;
  const tell = (why: string): void => {
    if (told) return;
    told = true;
    worker.terminate();
    onDeath(why);
  };
  worker.addEventListener('error', (event) => tell(event.message || texts.itCouldNotBeStarted));
  worker.postMessage(HOLD);
  return (message) => {
    if (message !== ALIVE) return false;
    void navigator.locks.request(lockName(id), () => tell(texts.itWasEndedByBrowser));
    return true;
  };
}
