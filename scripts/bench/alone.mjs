import { availableParallelism } from 'node:os';

/** Of so many pictures the first are not counted: threads start and code is compiled meanwhile, which in a shot of some length is nothing. */
const PICTURES = 200;
const WARMING = 60;

/**
 * Pictures a second of decoding and wearing on all cores, nothing encoded.
 * @param again true: a picture that the look holds is not worn anew, as in prints and the player
 */
export async function renderAlone(core, media, footage, look, again = false) {
  const source = { width: footage.width, height: footage.height, encoding: footage.encoding };
  const planned = { source, target: source, rate: 25 };
  const score = new core.Score(await media.newEngine(), look, { rate: planned.rate, size: source });
  const pool = await media.RenderPool.start(score, look, planned, { threads: availableParallelism() });
  const under = [];
  let from;
  let before = 0;
  let done = 0;
  let n = 0;
  for await (const frame of media.decode(footage, { from: 0, to: PICTURES })) {
    if (again && score.held(n) !== n) {
      n++;
      done++;
      continue;
    }
    // Whichever picture is asked for, this one is it: what is decoded next is not waited for.
    const needs = score.sourcePictures(n).map((picture) => ({ picture, parts: [{ picture: 0, share: 1 }] }));
    under.push(pool.render({ n: n++, needs, frames: new Map([[0, frame]]) }));
    if (under.length < pool.depth) continue;
    await under.shift();
    done++;
    if (done < WARMING || from) continue;
    [from, before] = [performance.now(), done];
  }
  for (const rest of under) {
    await rest;
    done++;
  }
  const seconds = (performance.now() - from) / 1000;
  await pool.close();
  return (done - before) / seconds;
}
