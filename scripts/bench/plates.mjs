import { join } from 'node:path';
import { table } from './clock.mjs';

/** Rounds in which the two take turns; the best of each counts. */
const ROUNDS = 12;
/** Pictures over which decoding is timed. */
const DECODED = 100;
const SIZE = { width: 1920, height: 1080 };

/** What a plate costs beside reading the footage itself: both 1080p in 4:2:0, a new picture of each every time, one thread. */
export async function measure({ core, media, root }) {
  const engine = await media.newEngine();
  const footage = await media.probe(join(root, 'demo/footage/1-arrival-at-dusk.mp4'));
  const frames = [];
  for await (const frame of media.decode(footage, { from: 0, to: 2 })) frames.push(frame);
  let decoding = Infinity;
  for (let round = 0; round < 3; round++) {
    const from = performance.now();
    for await (const _ of media.decode(footage, { from: 0, to: DECODED }));
    decoding = Math.min(decoding, (performance.now() - from) / DECODED);
  }
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
    lines.push([name, ...[decoding, costs.read, costs.plate].map((ms) => ms.toFixed(1)), ((decoding + costs.plate) / (decoding + costs.read)).toFixed(2)]);
  }
  return `## Plates\n\nA plate of 1920x1080 laid over a picture of that size, against reading the footage, which is as large; one thread, best of ${ROUNDS} rounds, a new picture of each every time. Both are decoded; the ratio counts that, too.\n\n${table(['how', 'decode ms', 'read the footage ms', 'lay the plate ms', 'plate to footage'], lines)}\n`;
}
