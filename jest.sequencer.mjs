// Files that mostly wait (for databases that are away, workers that are cut off) begin first: at the end nothing else would run beside them.
import { createRequire } from 'node:module';

const Sequencer = createRequire(createRequire(import.meta.url).resolve('jest'))('@jest/test-sequencer').default;

const WAITING = /server\/src\/(workers|footage\/arrivals|jobs\/)|media\/src\/segments/;

export default class extends Sequencer {
  sort(tests) {
    const sorted = super.sort(tests);
    return [...sorted.filter(({ path }) => WAITING.test(path)), ...sorted.filter(({ path }) => !WAITING.test(path))];
  }
}
