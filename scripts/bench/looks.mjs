import { join } from 'node:path';
import { median, table } from './clock.mjs';
import { wearTime } from './wear-time.mjs';

const SIZES = [
  [640, 480],
  [960, 540],
  [1920, 1080],
];

/** A machine shared with others is slow by spells: all are gone through so many times, and of each the best counts. */
const ROUNDS = 4;

/** Each shipped look: milliseconds a picture on one thread. */
export async function measure({ core, media, root }) {
  const engine = await media.newEngine();
  const footage = await media.probe(join(root, 'demo/footage/1-arrival-at-dusk.mp4'));
  const found = core.shippedLooks.map(({ id, look }) => ({ id, look, ms: SIZES.map(() => Infinity), groups: groupsOf(core, engine, look, footage.encoding) }));
  let copying = Infinity;
  for (let round = 0; round < ROUNDS; round++) {
    copying = Math.min(copying, copyTime(engine));
    for (const of of found) {
      SIZES.forEach((size, i) => (of.ms[i] = Math.min(of.ms[i], wearTime(core, engine, of.look, size, footage.encoding))));
    }
  }
  const lines = found.map(({ id, ms, groups }) => {
    const share = `${Math.round((100 * groups * copying) / ms.at(-1))} %`;
    return [id, ...ms.map((v) => v.toFixed(1)), share];
  });
  return `## Looks\n\n4:2:0 in, 4:2:0 out. Milliseconds a picture on one thread; the share of a 1080p picture’s time that reading and writing its planes takes at the least. Each the best of ${ROUNDS} rounds through all looks.\n\n${table(['look', '640x480', '960x540', '1920x1080', 'memory traffic'], lines)}\n`;
}

/** How often the planes are gone through: each group of steps reads and writes the three once, and a copy of them is what that costs at the least. */
function groupsOf(core, engine, look, encoding) {
  const source = { width: 1920, height: 1080, encoding };
  const plan = new core.Plan(engine, look, { source, target: source, rate: 24 });
  const groups = plan.steps.reduce((n, step, i, all) => n + (i === 0 || step.footprint === 'area' || all[i - 1].footprint === 'area' ? 1 : 0), 0);
  plan.dispose();
  return groups;
}

/** Milliseconds to copy the planes of a 1080p picture. */
function copyTime(engine) {
  const bytes = 1920 * 1080 * 4 * 3;
  const [from, to] = [engine.allocate(bytes), engine.allocate(bytes)];
  const copying = median(() => engine.kernels.copy(to, from, bytes));
  for (const at of [from, to]) engine.release(at);
  return copying;
}
