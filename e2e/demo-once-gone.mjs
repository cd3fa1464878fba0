// After the tests of the interface: what `demo-once.mjs` made is removed.
import { rm } from 'node:fs/promises';
import { withDatabase } from './stage.mjs';

export default async function demoOnceGone() {
  const { database, media } = JSON.parse(process.env.DEMO_ONCE);
  await withDatabase(process.env.TEST_DATABASE_URL, `drop database if exists ${database} with (force)`);
  await rm(media, { recursive: true, force: true, maxRetries: 5 });
}
