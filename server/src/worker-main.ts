import { need, threadsFrom } from './environment';
import { StartError } from './refusal';
import { startWorker } from './worker';

const PATIENCE_MS = 4000;
let worker: Awaited<ReturnType<typeof startWorker>> | undefined;
let ending = false;

function end(code: number): void {
  if (ending) return;
  ending = true;
  setTimeout(() => process.exit(code), PATIENCE_MS).unref();
  void Promise.resolve(worker?.close()).finally(() => process.exit(code));
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => end(0));

try {
  worker = await startWorker({
    databaseUrl: need('DATABASE_URL', 'start with npm run worker'),
    mediaFolder: need('TIN_GHOST_MEDIA', 'start with npm run worker'),
    bucket: process.env.TIN_GHOST_STORE || undefined,
    threads: threadsFrom(process.env),
    onOutdated: () => {
      console.error('The server has another version of the engine now: this worker ends. Bring it to the same version and start it again.');
      end(3);
    },
  });
  console.log(`worker ${worker.id.slice(0, 8)} takes segments of prints`);
} catch (error) {
  console.error(error instanceof StartError ? error.message : error);
  process.exit(1);
}
