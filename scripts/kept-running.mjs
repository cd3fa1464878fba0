// A process that is started again when it dies, after a pause that grows while it keeps dying.
import { setTimeout as pause } from 'node:timers/promises';

const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 30_000;
/** One that ran this long was sound; the pause begins small again. */
const SOUND_MS = 60_000;

export const ended = (child) => child.exitCode !== null || child.signalCode !== null;

/** How a child ended, in words. */
export const howItEnded = (child) => (child.signalCode ? `was ended by ${child.signalCode}` : `ended with code ${child.exitCode}`);

/**
 * Starts a process and starts it again each time it dies.
 * @param start () => child process, which is told the number of starts before
 * @param onDeath told the child and the pause in milliseconds; gives false to give up
 */
export class KeptRunning {
  constructor(start, onDeath) {
    this.start = start;
    this.onDeath = onDeath;
    this.ending = false;
    this.starts = 0;
    this.pause = FIRST_PAUSE_MS;
    this.launch();
  }

  launch() {
    const from = Date.now();
    this.child = this.start(this.starts++);
    // A program that cannot even be started tells so here, and then ends.
    this.child.once('error', () => {});
    this.child.once('exit', async () => {
      if (this.ending) return;
      if (Date.now() - from > SOUND_MS) this.pause = FIRST_PAUSE_MS;
      const wait = this.pause;
      this.pause = Math.min(LONGEST_PAUSE_MS, wait * 2);
      if (this.onDeath(this.child, wait) === false) return;
      await pause(wait);
      if (!this.ending) this.launch();
    });
  }

  /** Ends it for good, first by a request, then by force. @returns when it is gone */
  async end(signal, patienceMs) {
    this.ending = true;
    const { child } = this;
    if (ended(child)) return;
    const gone = new Promise((done) => child.once('exit', done));
    child.kill(signal);
    const late = setTimeout(() => child.kill('SIGKILL'), patienceMs);
    await gone;
    clearTimeout(late);
  }
}
