import pino from 'pino';

/**
 * The server's log, one JSON object a line: what it was asked, by route and number, and what nobody reckoned with. Names of files and what was sent are
 * not in it. It goes to the file TIN_GHOST_LOG; errors also, and without that file alone, to standard error.
 */
export const log = pino(
  { base: undefined, timestamp: pino.stdTimeFunctions.isoTime },
  pino.multistream([
    ...(process.env.TIN_GHOST_LOG ? [{ level: 'info' as const, stream: pino.destination({ dest: process.env.TIN_GHOST_LOG, mkdir: true, append: true, sync: false }) }] : []),
    { level: 'error' as const, stream: process.stderr },
  ]),
);
