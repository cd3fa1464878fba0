import { spawnSync } from 'node:child_process';

/** Milliseconds of processor time that ffmpeg takes for some pictures through a chain of filters, on one thread. */
function processorTime(format, filter, pictures, width, height) {
  const source = `testsrc2=s=${width}x${height}:r=1:d=1,format=${format},loop=loop=-1:size=1`;
  const args = [
    '-nostdin',
    '-hide_banner',
    '-benchmark',
    '-filter_threads',
    '1',
    '-filter_complex_threads',
    '1',
    '-f',
    'lavfi',
    '-i',
    source,
    '-frames:v',
    String(pictures),
    '-vf',
    filter,
    '-f',
    'null',
    '-',
  ];
  const run = spawnSync('ffmpeg', args, { encoding: 'utf8' });
  if (run.status !== 0) throw new Error(run.stderr);
  const [, user, system] = /bench: utime=([\d.]+)s stime=([\d.]+)s/.exec(run.stderr);
  return (Number(user) + Number(system)) * 1000;
}

/** Milliseconds a picture that ffmpeg's own filter takes on one thread: the slope between few and many pictures, less that of none. */
export function filterTime(format, filter, { width, height, few = 10, many = 60 }) {
  const slope = (f) => (processorTime(format, f, many, width, height) - processorTime(format, f, few, width, height)) / (many - few);
  const once = () => slope(filter) - Math.max(0, slope('null'));
  return [once(), once(), once()].sort((a, b) => a - b)[1];
}
