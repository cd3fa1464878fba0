import { median, table } from './clock.mjs';

const [WIDTH, HEIGHT] = [720, 576];
const ROUNDS = 5;

/** The recorder's path on a picture of 576 lines: ours, as the plan runs it, against the same written sample by sample. */
export async function measure({ core, media }) {
  const engine = await media.newEngine();
  const encoding = { layout: 'rgb', bits: 8, subX: 0, subY: 0, matrix: 'bt709', range: 'full' };
  const size = { width: WIDTH, height: HEIGHT };
  const source = { ...size, encoding };
  const frame = core.splitPlanes(
    new Uint8Array(core.frameBytes(WIDTH, HEIGHT, encoding)).map((_, i) => 60 + (i % 120)),
    WIDTH,
    HEIGHT,
    encoding,
  );
  const look = { ...core.EMPTY_LOOK, lives: [{ carrier: 'vhs625', traits: [{ trait: 'tape-noise', settings: { luma: 42, hue: 0 } }] }] };
  let [ours, naive] = [Infinity, Infinity];
  for (let round = 0; round < ROUNDS; round++) {
    const plan = new core.Plan(engine, look, { source, target: source, rate: 25, clock: () => performance.now() });
    for (let n = 0; n < 3; n++) plan.render(n, frame);
    plan.costs.clear();
    const pictures = 8;
    for (let n = 0; n < pictures; n++) plan.render(n, frame);
    const cost = [...plan.costs].filter(([name]) => /^(record|play) /.test(name)).reduce((sum, [, ms]) => sum + ms, 0);
    ours = Math.min(ours, cost / pictures);
    plan.dispose();
    naive = Math.min(naive, median(sampleBySample(), 600));
  }
  const rows = [
    ['ours', ours.toFixed(1), ''],
    ['sample by sample', naive.toFixed(1), (naive / ours).toFixed(1)],
  ];
  return `## Recorder\n\nLuma of a picture of ${WIDTH}x${HEIGHT} through emphasis, FM with noise, channel filter, demodulator and de-emphasis, one thread; best of ${ROUNDS} rounds in which the two take turns.\n\n${table(['form', 'ms a picture', 'times as long'], rows)}\n`;
}

/** The same work as one would write it down: a sine, a cosine and an arc tangent for each sample, filters as sums. */
function sampleBySample() {
  const tap = (n) => Array.from({ length: n }, () => 1 / n);
  const [pass, play] = [tap(13), tap(29)];
  const picture = Float64Array.from({ length: WIDTH * HEIGHT }, (_, i) => 0.3 + (i % 120) / 300);
  const out = new Float64Array(WIDTH * HEIGHT);
  const [i, q, f] = [0, 1, 2].map(() => new Float64Array(WIDTH + 64));
  const filtered = (row, n, taps) => taps.reduce((sum, t, k) => sum + t * row[Math.max(0, Math.min(WIDTH - 1, n + k - (taps.length >> 1)))], 0);
  return () => {
    for (let y = 0; y < HEIGHT; y++) {
      let [phase, before, raised] = [0, picture[y * WIDTH], picture[y * WIDTH]];
      for (let x = 0; x < WIDTH; x++) {
        const v = picture[y * WIDTH + x];
        raised = 4.6 * v - 4.4 * before + 0.8 * raised;
        before = v;
        phase += 2 * Math.PI * (0.053 * Math.max(-0.4, Math.min(1.6, raised)) - 0.026);
        i[x] = Math.cos(phase) + 0.02 * (Math.random() - 0.5);
        q[x] = Math.sin(phase) + 0.02 * (Math.random() - 0.5);
      }
      let [ri, rq, low] = [1, 0, 0];
      for (let x = 0; x < WIDTH; x++) {
        const [a, b] = [filtered(i, x, pass), filtered(q, x, pass)];
        const turn = Math.atan2(b * ri - a * rq, a * ri + b * rq);
        [ri, rq] = [a, b];
        low += 0.06 * (turn - low);
        f[x] = 0.2 * turn + 0.8 * low;
      }
      for (let x = 0; x < WIDTH; x++) out[y * WIDTH + x] = filtered(f, x, play);
    }
  };
}
