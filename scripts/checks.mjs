// Checks that are programs of their own: each passes with exit code 0.
import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { root } from './prepare.mjs';

const run = promisify(execFile);
/** As many at a time as there are cores on the smallest machine. */
const TOGETHER = 2;

/**
 * Makes checks and prints how each ended; what one says is printed only where it fails.
 * @param all each a name, a program (of the packages, or with its path) and its arguments @returns how many passed and failed
 */
export async function checks(all) {
  let [passed, failed] = [0, 0];
  const left = all.values();
  const work = async () => {
    for (const [name, program, args] of left) {
      const from = Date.now();
      const said = await run(program.includes('/') ? program : join(root, 'node_modules/.bin', program), args, { cwd: root, maxBuffer: 64e6 }).then(
        () => undefined,
        (error) => `${error.stdout ?? ''}${error.stderr ?? ''}${error.message}`,
      );
      if (said === undefined) passed++;
      else failed++;
      console.log(`${said === undefined ? 'ok    ' : 'FAILED'} ${name} (${Math.round((Date.now() - from) / 1000)} s)`);
      if (said !== undefined) console.log(said);
    }
  };
  await Promise.all(Array.from({ length: TOGETHER }, work));
  return { passed, failed };
}
