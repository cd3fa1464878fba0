import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { openApp, openBrowser } from '../../e2e/stage.mjs';
import { startCluster } from '../cluster.mjs';

/** A browser is busy with its own start, for which nobody waits who works in it. */
export const STARTED_MS = 4000;

/** Measures on an application of its own, with the demo data. @param measure gets the application and a folder that is removed afterwards */
export async function onOwnApp(measure) {
  const scratch = mkdtempSync(join(tmpdir(), 'tin-ghost-bench-'));
  const cluster = await startCluster(join(scratch, 'data'));
  const app = await openApp(cluster.adminUrl);
  try {
    return await measure(app, scratch);
  } finally {
    await app.close();
    await cluster.stop();
    rmSync(scratch, { recursive: true, force: true });
  }
}

/**
 * What is measured of a page in a browser with an empty profile that has stood a while, and in the same once more.
 * @param prepare readies the page before that
 */
export async function coldAndAgain(rounds, prepare, measure) {
  const [cold, again] = [[], []];
  for (let i = 0; i < rounds; i++) {
    const { browser, close } = await openBrowser();
    try {
      const page = await browser.newPage();
      await prepare(page);
      await pause(STARTED_MS);
      for (const measured of [cold, again]) {
        measured.push(await measure(page));
        await pause(1500);
      }
    } finally {
      await close();
    }
  }
  return { cold, again };
}
