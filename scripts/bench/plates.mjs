import { join } from 'node:path';
import { table } from './clock.mjs';

/** Rounds in which the two take turns; the best of each counts. */
const ROUNDS = 12;
const SIZE = { width: 1920, height: 1080 };

/** What a plate costs beside reading the footage itself: both 1080p in 4:2:0, a new picture of each every time, one thread. */
export async function measure({ core, media, root }) {
  const engine = await media.newEngine();
  const footage = await media.probe(join(root, 'demo/footage/1-arrival-at-dusk.mp4'));
  const frames = [];
  for await (const frame of media.decode(footage, { from: 0, to: 2 })) frames.push(frame);
  const info = { ...media.plateInfo(footage), light: undefined };
  const lines = [];
  for (const [name, settings] of [
    ['as it is', { mode: 'normal' }],
    ['screen', { mode: 'screen' }],
    ['screen, half as large, turned', { mode: 'screen', scale: 50, turn: 10 }],
  ]) {
    const look = { schema: core.LOOK_SCHEMA, name, seed: 1, shape: 'file', lives: [{ carrier: 'none', traits: [{ trait: 'plate', settings: { plate: 'mine', ...settings } }] }] };
    const costs = { read: Infinity, plate: Infinity };
    const plan = new core.Plan(engine, look, { source: frames[0], target: { ...SIZE, encoding: 'rgba' }, rate: 24, plates: { mine: info }, clock: () => performance.now() });
    for (let n = 0; n < ROUNDS; n++) {
      plan.costs.clear();
      plan.render(n, frames[n % 2], undefined, undefined, () => frames[(n + 1) % 2]);
      for (const [step, ms] of plan.costs) {
        const of = step.startsWith('plate') ? 'plate' : step.startsWith('read') ? 'read' : undefined;
        if (of) costs[of] = Math.min(costs[of], ms);
      }
    }
    plan.dispose();
    lines.push([name, costs.read.toFixed(1), costs.plate.toFixed(1), (costs.plate / costs.read).toFixed(2)]);
  }
  return `## Plates\n\nA plate of 1920x1080 laid over a picture of that size, against reading the footage, which is as large; one thread, best of ${ROUNDS} rounds, a new picture of each every time.\n\n${table(['how', 'read the footage ms', 'the plate ms', 'ratio'], lines)}\n`;
}
