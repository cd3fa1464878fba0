/** Median milliseconds of a call, after warming up, over about `budget` milliseconds. */
export function median(run, budget = 400) {
  for (let i = 0; i < 3; i++) run();
  const times = [];
  const end = performance.now() + budget;
  while (performance.now() < end || times.length < 5) {
    const from = performance.now();
    run();
    times.push(performance.now() - from);
  }
  return middle(times);
}

/** The one in the middle of numbers. */
export const middle = (all) => [...all].sort((a, b) => a - b)[all.length >> 1];

/** A Markdown table. */
export const table = (head, rows) =>
  [`| ${head.join(' | ')} |`, `|${head.map((_, i) => (i === 0 ? ' --- ' : ' ---: ')).join('|')}|`, ...rows.map((row) => `| ${row.join(' | ')} |`)].join('\n');

/** Looks whose prints and previews are measured: one of few traits, one of fourteen, two that go by way of a raster, home tape. */
export const MEASURED_LOOKS = ['home-gauge', 'sunday-reel', 'thrice-shown', 'out-of-register', 'night-tube', 'home-tape'];
