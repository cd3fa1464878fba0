/** Reads XML: by itself, so that it is loaded where a correction is opened. */
export { parseCdl } from '@tin-ghost/core';
