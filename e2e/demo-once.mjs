// Before the tests of the interface: the demo reel is imported once, and each file of tests begins on a copy.
import { openApp, withDatabase } from './stage.mjs';
import { TRIED_LOOKS } from './tried-looks.mjs';

export default async function demoOnce() {
  const admin = process.env.TEST_DATABASE_URL;
  if (!admin) throw new Error('TEST_DATABASE_URL names no database');
  const database = `demo_once_${process.pid}`;
  await withDatabase(admin, `create database ${database}`);
  const app = await openApp(admin.replace(/[^/]*$/, database), { keep: true });
  const [{ shots }] = await app.api('/reels');
  for (const [i, look] of TRIED_LOOKS.entries()) {
    const { revision } = await app.api(`/shots/${shots[i].id}`);
    await app.api(`/shots/${shots[i].id}/look`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ look, revision }) });
  }
  await app.close();
  process.env.DEMO_ONCE = JSON.stringify({ database, media: app.media });
}
