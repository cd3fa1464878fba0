// A lock on a folder that the system frees whatever way its holder dies: `flock` on a file in it, held by a helper that
// lives as long as the pipe to this process.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';

const TAKEN = 75;
const BETWEEN_TRIES_MS = 200;

/**
 * Locks a folder for this process.
 * @param patienceMs how long to wait for one who is just ending
 * @returns what frees it, or undefined where another holds it
 */
export async function lockFolder(folder, patienceMs = 0) {
  for (const from = Date.now(); ; await pause(BETWEEN_TRIES_MS)) {
    const release = await attempt(join(folder, 'lock'));
    if (release || Date.now() - from >= patienceMs) return release;
  }
}

function attempt(file) {
  return new Promise((resolve, reject) => {
    // A group of its own: Ctrl-C in the terminal must not free it before all else has ended.
    const helper = spawn('flock', ['-F', '-n', '-E', String(TAKEN), file, 'sh', '-c', 'echo locked; exec cat'], { stdio: ['pipe', 'pipe', 'pipe'], detached: true });
    let said = '';
    helper.stderr.setEncoding('utf8').on('data', (text) => (said += text));
    helper.stdin.on('error', () => {});
    helper.once('error', reject);
    helper.stdout.once('data', () => {
      helper.unref();
      for (const stream of [helper.stdin, helper.stdout, helper.stderr]) stream.unref();
      resolve(() => helper.stdin.end());
    });
    helper.once('exit', (code) => (code === TAKEN ? resolve(undefined) : reject(new Error(`the folder cannot be locked: ${said.trim() || `flock ended with ${code}`}`))));
  });
}
