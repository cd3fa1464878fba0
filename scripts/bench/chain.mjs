import { spawnSync } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { renderAlone } from './alone.mjs';
import { table } from './clock.mjs';

const LOOKS = ['sunday-reel', 'thrice-shown'];
const ROUNDS = 4;
const PICTURES = 48;
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
  // The start of the program is no part of it.
  return (PICTURES - 8) / (once(PICTURES) - once(8));
}

/** Looks of film against a chain of ffmpeg's filters that does the same steps, in turns. */
export async function measure({ core, media, root }) {
  const file = join(root, FILE);
  const footage = await media.probe(file);
  const best = new Map();
  const better = (what, rate) => best.set(what, Math.max(best.get(what) ?? 0, rate));
  for (let round = 0; round < ROUNDS; round++) {
    better('chain', chained(file, availableParallelism()));
    for (const id of LOOKS) {
      better(id, await renderAlone(core, media, footage, core.shippedLook(id)));
      better(`${id} held`, await renderAlone(core, media, footage, core.shippedLook(id), true));
    }
  }
  const told = (what) => [best.get(what).toFixed(1), (best.get(what) / best.get('chain')).toFixed(1)];
  const rows = [['filters, 8 bits', ...told('chain'), '', ''], ...LOOKS.map((id) => [id, ...told(id), ...told(`${id} held`)])];
  return `## Chain of filters\n\nPictures of 1920x1080 a second on all cores, decoded and worn, not encoded, against a chain of ffmpeg’s general filters that does the steps of such a reel on 8 bits (vignette, Gaussian, halo by curve, blur and screen, colour matrix, curve, noise, shift by parts of a pixel, brightness): the best of ${ROUNDS} turns each. The last two columns: pictures of a file at 25 a second, where what the look holds (it shows 18 a second) is not worn anew, as in a print and while playing; the filters have no such thing.\n\n${table(['what', 'pictures a second', 'times the filters', 'of a file', 'times'], rows)}\n`;
}
