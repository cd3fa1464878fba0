// Makes the demo footage: draws each scene picture by picture in headless Chromium (software rendering), synthesises its
// sound and encodes both. `node demo/generator/make.mjs [scene …] [--at SECONDS --out FILE.png]`
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { dirname, extname, join, normalize } from 'node:path';
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import puppeteer from 'puppeteer-core';
import { sound } from './sound.mjs';

const here = dirname(fileURLToPath(import.meta.url));
const three = dirname(dirname(createRequire(import.meta.url).resolve('three')));
/** Scene, name of its file, and bits a second that keep it below 4 MB. */
const SCENES = {
  dusk: { file: '1-arrival-at-dusk.mp4', bitrate: 3_500_000 },
  conductor: { file: '2-conductor.mp4', bitrate: 3_600_000 },
  workshop: { file: '3-depot-workshop.mp4', bitrate: 3_900_000 },
  street: { file: '4-street-by-day.mp4', bitrate: 3_600_000 },
};

let taken = () => {};
const TYPES = { '.js': 'text/javascript', '.html': 'text/html' };
const server = createServer(async (request, response) => {
  const path = normalize(new URL(request.url, 'http://x').pathname);
  if (path === '/frame') {
    const chunks = [];
    for await (const chunk of request) chunks.push(chunk);
    await taken(Buffer.concat(chunks));
    return response.end();
  }
  const file = path.startsWith('/three/') ? join(three, path.slice(7)) : join(here, path);
  try {
    const body = await readFile(file);
    response.setHeader('content-type', TYPES[extname(file)] ?? 'application/octet-stream').end(body);
  } catch {
    response.writeHead(404).end();
  }
});
server.listen(0, '127.0.0.1');
await once(server, 'listening');
const origin = `http://127.0.0.1:${server.address().port}`;

const ffmpeg = async (args, feed) => {
  const child = spawn('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...args], { stdio: ['pipe', 'inherit', 'inherit'] });
  const done = once(child, 'close');
  await feed(child.stdin);
  child.stdin.end();
  const [code] = await done;
  if (code !== 0) throw new Error(`ffmpeg ended with ${code}`);
};

const { values, positionals } = parseArgs({ allowPositionals: true, options: { at: { type: 'string' }, out: { type: 'string' } } });
const profile = await mkdtemp(join(tmpdir(), 'tin-ghost-footage-'));
const browser = await puppeteer.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  userDataDir: profile,
  protocolTimeout: 600_000,
  args: [
    '--headless',
    '--no-sandbox',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--ignore-gpu-blocklist',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
try {
  for (const name of positionals.length ? positionals : Object.keys(SCENES)) {
    const page = await browser.newPage();
    page.on('pageerror', (error) => console.error(error));
    page.on('console', (message) => console.log(message.text()));
    await page.goto(`${origin}/page.html?scene=${name}`);
    await page.waitForFunction('window.draw', { timeout: 300_000 });
    const { width, height, rate, frames, seconds } = await page.evaluate('window.format');
    const picture = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${width}x${height}`, '-framerate', String(rate), '-i', 'pipe:0'];
    const draw = (n) => page.evaluate(`window.draw(${n})`);
    if (values.at) {
      await ffmpeg([...picture, '-vf', 'vflip', '-frames:v', '1', values.out], async (stdin) => {
        taken = async (pixels) => stdin.write(pixels);
        if (process.env.WARM) await draw(0);
        await draw(Math.round(Number(values.at) * rate));
      });
    } else {
      const { file, bitrate } = SCENES[name];
      const [wav, raw, target] = [join(profile, 'sound.wav'), join(profile, 'raw.mkv'), join(here, '../footage', file)];
      await writeFile(wav, sound(name, seconds));
      await ffmpeg([...picture, '-vf', 'vflip', '-c:v', 'libx264rgb', '-preset', 'ultrafast', '-qp', '4', raw], async (stdin) => {
        taken = async (pixels) => void (stdin.write(pixels) || (await once(stdin, 'drain')));
        for (let n = 0; n < frames; n++) await draw(n);
      });
      const shared = [
        '-vf',
        'scale=out_color_matrix=bt709:out_range=tv,format=yuv420p',
        '-c:v',
        'libx264',
        '-preset',
        'slow',
        '-b:v',
        String(bitrate),
        '-colorspace',
        'bt709',
        '-color_primaries',
        'bt709',
        '-color_trc',
        'bt709',
        '-color_range',
        'tv',
        '-passlogfile',
        join(profile, 'pass'),
      ];
      await ffmpeg(['-i', raw, ...shared, '-pass', '1', '-an', '-f', 'null', '-'], async () => {});
      await ffmpeg(
        ['-i', raw, '-i', wav, ...shared, '-pass', '2', '-c:a', 'aac', '-b:a', '128k', '-map_metadata', '-1', '-fflags', '+bitexact', '-movflags', '+faststart', target],
        async () => {},
      );
      console.log(`${file}: ${((await stat(target)).size / 1e6).toFixed(2)} MB`);
    }
    await page.close();
  }
} finally {
  await browser.close();
  server.close();
  await rm(profile, { recursive: true, force: true, maxRetries: 5 });
}
