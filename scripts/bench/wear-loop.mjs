// What a core gives that does nothing but wear pictures: prints pictures a second of a look at 640x360 on one thread, over some seconds.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { setPlan } from './wear-time.mjs';

const WARMING_MS = 3000;
const COUNTED_MS = 6000;

const [root, id] = process.argv.slice(2);
const load = (file) => import(pathToFileURL(join(root, file)).href);
const [core, media] = await Promise.all([load('core/dist/core.mjs'), load('media/dist/media.mjs')]);
const { wear } = setPlan(core, await media.newEngine(), core.shippedLook(id), [640, 360]);
const until = (end) => {
  let pictures = 0;
  for (; performance.now() < end; pictures++) wear();
  return pictures;
};
until(performance.now() + WARMING_MS);
const from = performance.now();
const pictures = until(from + COUNTED_MS);
console.log((1000 * pictures) / (performance.now() - from));
process.exit(0);
