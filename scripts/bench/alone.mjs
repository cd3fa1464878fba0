import { join } from 'node:path';
import { MEASURED_LOOKS, table } from './clock.mjs';
import { Wearing } from './wearing.mjs';
import { wearTime, yardstick } from './wear-time.mjs';

const ROUNDS = 6;
const SIZE = [1920, 1080];
const TURN = { pictures: 200, warming: 60 };

/** Rendering alone: pictures a second on all cores, beside what one thread does that reads no file. */
export async function measure({ core, media, root }) {
  const engine = await media.newEngine();
  const footage = await media.probe(join(root, 'demo/footage/1-arrival-at-dusk.mp4'));
  const found = MEASURED_LOOKS.map((id) => ({ id, look: core.shippedLook(id), single: Infinity, alone: 0, before: 0, after: 0 }));
  for (let round = 0; round < ROUNDS; round++) {
    for (const of of found) {
      of.single = Math.min(of.single, wearTime(core, engine, of.look, SIZE, footage.encoding));
      const before = await yardstick({ core, media });
      const wearing = await Wearing.start(core, media, footage, of.look);
      const alone = await wearing.turn(TURN);
      await wearing.end();
      if (alone > of.alone) Object.assign(of, { alone, before, after: await yardstick({ core, media }) });
    }
  }
  const rows = found.map(({ id, single, alone, before, after }) => [
    id,
    single.toFixed(1),
    alone.toFixed(1),
    ((alone * single) / 1000).toFixed(2),
    before.toFixed(1),
    after.toFixed(1),
  ]);
  return `## Rendering alone\n\nAt 1920x1080, 4:2:0 in, 4:2:0 out: milliseconds a picture on one thread, of a picture that is there already; pictures a second, decoded and worn on all cores, not encoded, and how many times the one thread that is; and how fast the machine was before and after (milliseconds of one picture of home-tape at 960x540 on one thread). Each the best of ${ROUNDS} rounds through all of them.\n\n${table(['look', 'one thread, ms', 'pictures a second', 'times', 'before, ms', 'after, ms'], rows)}\n`;
}
