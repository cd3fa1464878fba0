/** A setting from the environment that must be there. @param how to start so that it is */
export function need(name: string, how = 'start with npm start'): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set; ${how}`);
  return value;
}

/** Threads to render prints with, where it is said. @throws Error where it is no number of threads */
export function threadsFrom({ TIN_GHOST_THREADS: text }: NodeJS.ProcessEnv): number | undefined {
  if (!text) return undefined;
  const threads = Number(text);
  if (!Number.isInteger(threads) || threads < 1 || threads > 256) throw new Error(`TIN_GHOST_THREADS is a number of threads from 1 to 256, not "${text}"`);
  return threads;
}
