import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { median, table } from './clock.mjs';
import { filterTime } from './ffmpeg.mjs';

const W = 1280;
const H = 720;
const ROUNDS = 5;

/** Kernels on one plane (or one picture, where they need all planes) of 1280x720, on one thread. */
export async function measure({ core, media }) {
  const engine = await media.newEngine();
  const k = engine.kernels;
  const stride = W * 4;
  const plane = () => {
    const at = engine.allocate(stride * H + 256);
    engine.floats(at, W * H).forEach((_, i, all) => (all[i] = 0.1 + (0.8 * ((i * 2654435761) % 4096)) / 4096));
    return at;
  };
  const [a, b, c, d] = [plane(), plane(), plane(), plane()];
  const rows = (run) => () => {
    for (let y = 0; y < H; y++) run(y * stride, y);
  };
  const bell = engine.allocate(64);
  engine.floats(bell, 9).set([0.03, 0.07, 0.12, 0.18, 0.2, 0.18, 0.12, 0.07, 0.03]);
  const list = engine.allocate(64);
  const ints = engine.ints(list, 9);
  const encoding = { layout: 'yuv', bits: 8, subX: 1, subY: 1, matrix: 'bt709', range: 'limited' };
  const source = { width: W, height: H, encoding };
  const frame = core.splitPlanes(new Uint8Array(core.frameBytes(W, H, encoding)).fill(120), W, H, encoding);
  const plan = (target, size = source) => new core.Plan(engine, core.EMPTY_LOOK, { source, target: { width: size.width, height: size.height, encoding: target }, rate: 24 });
  const toRgb = plan({ layout: 'rgb', bits: 8, subX: 0, subY: 0, matrix: 'bt709', range: 'full' });
  const half = plan(encoding, { width: 640, height: 360 });
  // Each picture is written over the one before, as ffmpeg's are.
  const again = (through) => {
    let planes;
    return () => (planes = through.render(0, frame, undefined, planes));
  };
  const blur = new core.Blur(engine, W, H);
  const resampler = new core.Resampler(engine, W, H);
  resampler.aim(core.cubicTaps(W / 2, 0, 2), core.cubicTaps(H / 2, 0, 2));
  const table1 = engine.allocate(257 * 4);
  engine.floats(table1, 257).forEach((_, i, all) => (all[i] = i / 256));
  const cube = engine.allocate(17 ** 3 * 16);
  engine.floats(cube, 17 ** 3 * 4).forEach((_, i, all) => (all[i] = (i % 17) / 16));
  const identity = engine.allocate(48);
  engine.floats(identity, 12).set([1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]);
  const work = [
    ['copy of memory (the yardstick)', 1, () => k.copy(b, a, stride * H)],
    ['share of another picture (mix)', 1, rows((y) => k.mix(b + y, a + y, W, 0.5))],
    ['white noise', 1, rows((y, n) => k.whiteRow(b + y, W, n, 0))],
    ['filter along the row, 9 taps', 1, rows((y) => k.firRow(b + y, a + y, W - 8, bell, 9))],
    [
      'filter across rows, 9 taps',
      1,

      rows((y, n) => {
        for (let i = 0; i < 9; i++) ints[i] = a + Math.min(H - 1, n + i) * stride;
        k.mixRows(b + y, list, bell, 9, W);
      }),
    ],
    ...[1, 3, 10, 40].map((sigma) => [`Gaussian of sigma ${sigma}`, 1, () => blur.run(b, a, stride, sigma)]),
    [
      'bent picture, cubic',
      1,

      rows((y, n) => {
        k.rampRow(c, W, 0.3, 0.999);
        k.rampRow(d, W, n + 0.2, 0.001);
        k.warpCubic(b + y, W, c, d, a, stride, W, H);
      }),
    ],
    ['table of 257 points', 1, rows((y) => k.tableRow(b + y, W, table1, 257, 0, 256))],
    ['cube of 17 points a side', 3, rows((y) => k.cubeRow(b + y, c + y, d + y, W, cube, 17))],
    ['blend (soft light)', 1, rows((y) => k.blendRow(b + y, a + y, W, 9))],
    ['matrix of three planes', 3, rows((y) => k.matrixRow(b + y, c + y, d + y, W, identity))],
    ['display to linear light', 1, rows((y) => k.powRow(b + y, W, 1, 0.001))],
    ['grain laid into density', 3, rows((y) => k.grainRow(a + y, b + y, c + y, d + y, d + y, d + y, d + y, d + y, d + y, W, 0.5, 0.4, 1e-9, 1e-9, 1e-9))],
    ['scanlines', 1, rows((y) => k.scanlineRow(b + y, W, 0.6, 0.5, 0, 0, 0))],
    ['half the size, by the cubic', 1, () => resampler.run(b, stride / 2, a, stride)],
    ['8-bit 4:2:0 in and 8-bit R’G’B’ out', 3, again(toRgb)],
    ['8-bit 4:2:0 in, half the size, by way of R’G’B’, out', 3, again(half)],
  ];
  const size = { width: W, height: H };
  const lattice = join(mkdtempSync(join(tmpdir(), 'tin-ghost-bench-')), 'table.cube');
  const points = Array.from({ length: 17 ** 3 }, (_, i) => [i % 17, Math.floor(i / 17) % 17, Math.floor(i / 289)].map((v) => (v / 16).toFixed(6)).join(' '));
  writeFileSync(lattice, `LUT_3D_SIZE 17\n${points.join('\n')}\n`);
  const theirs = {
    'share of another picture (mix)': ['gray', 'split[a][b];[a][b]blend=all_mode=normal:all_opacity=0.5'],
    'white noise': ['gray', 'noise=alls=30:allf=t'],
    'filter along the row, 9 taps': ['gray', "convolution=0m='3 7 12 18 20 18 12 7 3':0mode=row:0rdiv=0.01"],
    'filter across rows, 9 taps': ['gray', "convolution=0m='3 7 12 18 20 18 12 7 3':0mode=column:0rdiv=0.01"],
    ...Object.fromEntries([1, 3, 10, 40].map((sigma) => [`Gaussian of sigma ${sigma}`, ['grayf32le', `gblur=sigma=${sigma}:steps=3`]])),
    'cube of 17 points a side': ['gbrp', `lut3d=file=${lattice}:interp=tetrahedral`],
    'blend (soft light)': ['gray', 'split[a][b];[a][b]blend=all_mode=softlight'],
    '8-bit 4:2:0 in and 8-bit R’G’B’ out': ['yuv420p', 'scale=flags=bicubic,format=gbrp'],
    'half the size, by the cubic': ['gray', 'scale=640:360:flags=bicubic+accurate_rnd'],
    // The same way: a look works on R'G'B', so the picture comes by it even where nothing is worn.
    '8-bit 4:2:0 in, half the size, by way of R’G’B’, out': ['yuv420p', 'scale=640:360:flags=bicubic+accurate_rnd,format=gbrp,scale=flags=bicubic+accurate_rnd,format=yuv420p'],
  };
  // A machine shared with others is slow by spells: ours and theirs are timed in turn, and each counts by its best round.
  const best = work.map(() => [Infinity, Infinity]);
  for (let round = 0; round < ROUNDS; round++) {
    work.forEach(([name, , run], i) => {
      best[i][0] = Math.min(best[i][0], median(run, 250));
      if (theirs[name]) best[i][1] = Math.min(best[i][1], filterTime(theirs[name][0], theirs[name][1], size));
    });
  }
  const copy = best[0][0];
  const lines = work.map(([name, planes], i) => {
    const [ms, other] = best[i];
    const known = Number.isFinite(other);
    return [name, ms.toFixed(2), ((ms * 1e6) / (W * H * planes)).toFixed(2), (ms / copy).toFixed(1), known ? other.toFixed(2) : '', known ? (other / ms).toFixed(1) : ''];
  });
  rmSync(dirname(lattice), { recursive: true });
  blur.release();
  resampler.release();
  for (const at of [a, b, c, d, bell, list, table1, cube, identity]) engine.release(at);
  return `## Kernels\n\n1280x720, one thread, float32 planes (ours) against 8-bit planes (ffmpeg’s own filter for the same work, one thread). Ours move four times the bytes. Best of ${ROUNDS} rounds in which ours and theirs take turns.\n\n${table(['work', 'ms', 'ns a sample', 'x a copy', 'ffmpeg ms', 'times faster than ffmpeg'], lines)}\n`;
}
