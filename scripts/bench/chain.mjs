import { spawnSync } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { middle, table } from './clock.mjs';
import { Wearing } from './wearing.mjs';

const LOOKS = ['sunday-reel', 'thrice-shown'];
const ROUNDS = 9;
/** Of so many pictures of the filters the first are not counted: the start of the program is no part of it. */
const [PICTURES, FIRST] = [40, 8];
const TURN = { pictures: 90, warming: 12 };
const FILE = 'demo/footage/1-arrival-at-dusk.mp4';

/** The steps of a reel of film in filters for general use, on 8 bits: edges, softness, halation, colour, curve, grain, weave by parts of a pixel, flicker. */
const CHAIN = [
  '[0]format=gbrp,vignette=PI/5,gblur=sigma=1.2,split[picture][light]',
  "[light]curves=all='0/0 0.7/0 1/1',gblur=sigma=14,colorchannelmixer=rr=1:gg=0.4:bb=0.15[halo]",
  [
    '[picture][halo]blend=all_mode=screen',
    'colorchannelmixer=rr=0.95:rg=0.05:gr=0.03:gg=0.94:gb=0.03:bg=0.08:bb=0.92',
    "curves=all='0/0.03 0.25/0.2 0.75/0.82 1/0.97'",
    'noise=alls=14:allf=t',
    'perspective=x0=0.4:y0=0.3:x1=W+0.4:y1=0.3:x2=0.4:y2=H+0.3:x3=W+0.4:y3=H+0.3:interpolation=cubic',
    'lutrgb=r=val*0.98:g=val*0.98:b=val*0.98',
    'format=yuv420p',
  ].join(),
].join(';');

/** Pictures a second of decoding and filtering, nothing encoded. @param threads of the decoder and the filters */
function chained(file, threads) {
  const args = ['-nostdin', '-v', 'error', '-benchmark', '-threads', threads, '-filter_threads', threads, '-filter_complex_threads', threads, '-i', file];
  const once = (pictures) => {
    const from = performance.now();
    const run = spawnSync('ffmpeg', [...args.map(String), '-filter_complex', CHAIN, '-frames:v', String(pictures), '-f', 'null', '-'], { encoding: 'utf8' });
    if (run.status !== 0) throw new Error(run.stderr);
    return (performance.now() - from) / 1000;
  };
  return (PICTURES - FIRST) / (once(PICTURES) - once(FIRST));
}

/** Looks of film against a chain of ffmpeg's filters that does the same steps, in turns. */
export async function measure({ core, media, root }) {
  const file = join(root, FILE);
  const footage = await media.probe(file);
  const wearing = await Promise.all(LOOKS.map((id) => Wearing.start(core, media, footage, core.shippedLook(id))));
  const turns = [() => chained(file, availableParallelism()), ...wearing.flatMap((reel) => [false, true].map((again) => () => reel.turn({ ...TURN, again })))];
  for (const turn of turns) await turn();
  const rates = turns.map(() => []);
  for (let round = 0; round < ROUNDS; round++) {
    // Each round begins with another, so that none always comes after the same.
    for (let i = 0; i < turns.length; i++) {
      const at = (round + i) % turns.length;
      rates[at].push(await turns[at]());
    }
  }
  await Promise.all(wearing.map((reel) => reel.end()));
  const told = (at) => [middle(rates[at]).toFixed(1), middle(rates[at].map((rate, round) => rate / rates[0][round])).toFixed(1)];
  const rows = [['filters, 8 bits', ...told(0), '', ''], ...LOOKS.map((id, i) => [id, ...told(1 + 2 * i), ...told(2 + 2 * i)])];
  return `## Chain of filters\n\nPictures of 1920x1080 a second on all cores, decoded and worn, not encoded, against a chain of ffmpeg’s general filters that does the steps of such a reel on 8 bits (vignette, Gaussian, halo by curve, blur and screen, colour matrix, curve, noise, shift by parts of a pixel, brightness): in turns of some seconds, ${ROUNDS} times around; the middle of what they gave, and of what they gave over the filters in the same round. The last two columns: pictures of a file at 25 a second, where what the look holds (it shows 18 a second) is not worn anew, as in a print and while playing; the filters have no such thing.\n\n${table(['what', 'pictures a second', 'times the filters', 'of a file', 'times'], rows)}\n`;
}
