import { availableParallelism } from 'node:os';

/** Decodes the pictures of a file from its start and wears them on all cores, at the footage's size; nothing is encoded. */
export class Wearing {
  static async start(core, media, footage, look) {
    const source = { width: footage.width, height: footage.height, encoding: footage.encoding };
    const planned = { source, target: source, rate: 25 };
    const score = new core.Score(await media.newEngine(), look, { rate: planned.rate, size: source });
    // The pool itself would show a held picture again: what is to be worn anew must seem to be held by none.
    const pool = await media.RenderPool.start({ held: (n) => n }, look, planned, { threads: availableParallelism() });
    return Object.assign(new Wearing(), { media, footage, score, pool });
  }

  /**
   * Pictures a second of a turn.
   * @param pictures of the file @param warming pictures that are not counted: threads start, code is compiled and the decoder reads ahead meanwhile
   * @param again true: a picture that the look holds is not worn anew, as in prints and the player
   */
  async turn({ pictures, warming, again = false }) {
    const { media, footage, score, pool } = this;
    const under = [];
    let from;
    let n = 0;
    let done = 0;
    const finished = () => {
      done++;
      if (done === warming) from = performance.now();
    };
    for await (const frame of media.decode(footage, { from: 0, to: pictures, memory: pool.memory })) {
      if (again && score.held(n) !== n) {
        pool.memory.give(frame.planes);
        n++;
        finished();
        continue;
      }
      // Whichever picture is asked for, this one is it: what is decoded next is not waited for.
      const needs = score.sourcePictures(n).map((picture) => ({ picture, parts: [{ picture: 0, share: 1 }] }));
      under.push(pool.render({ n: n++, needs, frames: new Map([[0, frame]]) }));
      if (under.length < pool.depth) continue;
      pool.done(await under.shift());
      finished();
    }
    for (const rest of under) {
      pool.done(await rest);
      finished();
    }
    return (pictures - warming) / ((performance.now() - from) / 1000);
  }

  end() {
    return this.pool.close();
  }
}
