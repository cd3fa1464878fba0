import { mkdirSync, openSync } from 'node:fs';
import { dirname } from 'node:path';
import pino from 'pino';

/** Opened at once: a process that ended before its log was open would add an error of the log to what it says. @returns undefined where it cannot be, which is said */
function opened(path: string): number | undefined {
  try {
    mkdirSync(dirname(path), { recursive: true });
    return openSync(path, 'a');
  } catch (error) {
    console.error(`The log TIN_GHOST_LOG=${path} cannot be written (${(error as Error).message}); what it would hold is not kept.`);
    return undefined;
  }
}

const { TIN_GHOST_LOG: path } = process.env;
const file = path ? opened(path) : undefined;

/**
 * The server's log, one JSON object a line: what it was asked, by route and number, and what nobody reckoned with. Names of files and what was sent are
 * not in it. It goes to the file TIN_GHOST_LOG; errors also, and without that file alone, to standard error.
 */
export const log = pino(
  { base: undefined, timestamp: pino.stdTimeFunctions.isoTime },
  pino.multistream([
    ...(file === undefined ? [] : [{ level: 'info' as const, stream: pino.destination({ dest: file, sync: false }) }]),
    { level: 'error' as const, stream: process.stderr },
  ]),
);
