// What a core gives that does nothing but wear pictures: wears a look at 640x360 on one thread until it is ended, and says a byte for each picture.
import { writeSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { setPlan } from './wear-time.mjs';

const [root, id] = process.argv.slice(2);
const load = (file) => import(pathToFileURL(join(root, file)).href);
const [core, media] = await Promise.all([load('core/dist/core.mjs'), load('media/dist/media.mjs')]);
const { wear } = setPlan(core, await media.newEngine(), core.shippedLook(id), [640, 360]);
for (;;) {
  wear();
  writeSync(1, '.');
}
