/** What is let in as footage, how much it may take, and that nothing of one's own is written over. */
import { execFileSync } from 'node:child_process';
import { link, mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import { decodeOne } from './decode';
import { noFootage } from './inputs';
import { intake, INTAKE_FILES, proxySize } from './intake';
import { here, notOver, partPlace, removeLeft } from './part-place';
import { probe } from './probe';
import { meaningOf, run } from './process';
import { strike } from './strike';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-inputs-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));
const at = (name: string): string => join(folder, name);

function make(name: string, args: string[]): string {
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, at(name)]);
  return at(name);
}
const colour = (code: string, size = '64x48'): string[] => ['-f', 'lavfi', '-i', `color=c=${code}:s=${size}`, '-frames:v', '1'];

describe('kinds of file that are no footage', () => {
  const secret = 'tin-ghost-secret.png';
  const kinds: [string, string | Buffer, RegExp][] = [
    ['drawing.svg', '<?xml version="1.0"?>\n<svg xmlns="http://www.w3.org/2000/svg" width="16000" height="16000"/>', /drawing \(SVG\)/],
    ['drawing.png', '<svg xmlns="http://www.w3.org/2000/svg" width="16000" height="16000"/>', /drawing \(SVG\)/],
    ['wide.png', Buffer.from('\ufeff<svg xmlns="http://www.w3.org/2000/svg"/>', 'utf16le'), /drawing \(SVG\)/],
    ['packed.svgz', Buffer.from([0x1f, 0x8b, 8, 0, 0, 0]), /drawing \(SVG\)/],
    ['packed.mp4', Buffer.from([0x1f, 0x8b, 8, 0, 0, 0]), /a packed file/],
    ['list.m3u8', `#EXTM3U\n#EXTINF:1,\n${secret}\n`, /a text or a list/],
    ['list.mp4', `ffconcat version 1.0\nfile ${secret}\n`, /a text or a list/],
    ['list.mov', `<?xml version="1.0"?><MPD><BaseURL>${secret}</BaseURL></MPD>`, /a text or a list/],
    ['paper.pdf', '%PDF-1.4\n%\xe2\xe3\xcf\xd3\n', /a document/],
    ['notes.mp4', 'dear diary', /a text or a list/],
    ['lines.srt', '1\n00:00:01,000 --> 00:00:02,000\nLine 14\n', /a text or a list/],
  ];
  test.each(kinds)('%s is refused by what it is', async (name, bytes, reason) => {
    await writeFile(at(name), bytes);
    await expect(probe(at(name))).rejects.toThrow(reason);
  });

  test('a list that passes for something else is refused before what it names is opened', async () => {
    make(secret, colour('red'));
    // Text behind a byte that text has not.
    await writeFile(at('sly.mp4'), `#EXTM3U\n#EXT-X-VERSION:3\n#EXTINF:1,\u0001\n${at(secret)}\n#EXT-X-ENDLIST\n`);
    await expect(probe(at('sly.mp4'))).rejects.toThrow(/no footage/);
  });

  test('pictures that begin as text are let in', async () => {
    const ppm = make('plain.ppm', colour('red', '6x4'));
    expect(await probe(ppm)).toMatchObject({ width: 6, height: 4, kind: 'still' });
    const y4m = make('clip.y4m', ['-f', 'lavfi', '-i', 'testsrc2=s=16x16:r=25:d=0.2']);
    expect(await probe(y4m)).toMatchObject({ frames: 5 });
    expect(noFootage(Buffer.from('P3\n1 1\n255\n1 2 3\n'))).toBeUndefined();
  });
});

describe('how much a file may take', () => {
  test('a picture of more pixels than can be worked on is refused by its header', async () => {
    const wide = make('large.png', colour('gray', '8000x8000'));
    await expect(probe(wide)).rejects.toThrow(/8000 x 8000; at most .* 50 megapixels/);
    const long = make('long.png', colour('gray', '16500x20'));
    await expect(probe(long)).rejects.toThrow(/16500 x 20; at most 16384 a side/);
  });

  test('a program ends where it takes more memory, or more time, than it is given', async () => {
    const picture = make('some.png', colour('gray', '4000x4000'));
    await expect(run('ffmpeg', ['-v', 'error', '-i', picture, '-f', 'null', '-'], { memoryBytes: 60e6 })).rejects.toThrow(/more memory than is given/);
    const from = Date.now();
    await expect(run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=640x480', '-f', 'rawvideo', '-'], { limitSeconds: 1 })).rejects.toThrow(/too long .* after 1 s/);
    expect(Date.now() - from).toBeLessThan(20_000);
    await expect(run('no-such-program-14', [])).rejects.toThrow('the program no-such-program-14 is not installed');
  });

  test('it dies with the process that started it', async () => {
    // The command is ended hard while it reads a clip that it can never finish.
    const mark = `endless-${process.pid}`;
    execFileSync('mkfifo', [at(`${mark}.y4m`)]);
    const { CONFINED } = await import('./process');
    const [first, ...rest] = [...CONFINED(1e9), 'ffmpeg', '-v', 'error', '-i', at(`${mark}.y4m`), '-f', 'null', '-'];
    const parent = `require('child_process').spawn(${JSON.stringify(first)}, ${JSON.stringify(rest)}); setTimeout(() => process.kill(process.pid, 'SIGKILL'), 700)`;
    expect(() => execFileSync(process.execPath, ['-e', parent])).toThrow();
    await new Promise((done) => setTimeout(done, 300));
    expect(() => execFileSync('pgrep', ['-f', mark])).toThrow();
  });
});

describe('names', () => {
  test('one that looks like a pattern is that very file', async () => {
    const own = at('pan%d.png');
    await writeFile(own, await readFile(make('red.png', colour('0xff0000'))));
    make('pan1.png', colour('0x0000ff'));
    const footage = await probe(own);
    expect(footage.kind).toBe('still');
    const { planes } = await decodeOne(footage, 0);
    expect(planes[0]![0]).toBeGreaterThan(240);
    expect(planes[2]![0]).toBeLessThan(10);
    await rm(at('pan1.png'));
    expect((await probe(own)).width).toBe(64);
  });

  test('a folder that looks like a pattern is that very folder', async () => {
    const odd = at('100%d of it');
    await mkdir(odd);
    await writeFile(join(odd, 'a.png'), await readFile(at('red.png')));
    const footage = await probe(join(odd, 'a.png'));
    await intake(footage, odd);
    expect((await readdir(odd)).sort()).toEqual(['a.png', INTAKE_FILES.poster, INTAKE_FILES.proxy, INTAKE_FILES.strip].sort());
  });
});

describe('thin footage comes in', () => {
  test.each(['1x5000', '5000x1', '16x4000', '2x2'])('%s', async (size) => {
    const place = at(`thin-${size}`);
    await mkdir(place);
    const footage = await probe(
      make(`thin-${size}.mkv`, ['-f', 'lavfi', '-i', 'color=c=red:s=5000x5000:r=25:d=0.2,format=gbrp', '-vf', `crop=${size.replace('x', ':')}`, '-c:v', 'ffv1']),
    );
    await intake(footage, place);
    const { width, height } = proxySize(footage);
    expect(Math.min(width, height)).toBeGreaterThanOrEqual(2);
    for (const name of [INTAKE_FILES.proxy, INTAKE_FILES.poster, INTAKE_FILES.strip]) expect((await readFile(join(place, name))).length).toBeGreaterThan(100);
  });
});

describe('what is read is not written over', () => {
  test('under its own name, by a link of either kind, through a folder’s link, or as one of many images', async () => {
    const own = make('own.mkv', ['-f', 'lavfi', '-i', 'testsrc2=s=64x48:r=25:d=0.2', '-c:v', 'ffv1']);
    await symlink(own, at('soft.mkv'));
    await link(own, at('hard.mkv'));
    await symlink(folder, at('elsewhere'));
    const before = await readFile(own);
    const footage = await probe(own);
    for (const out of ['own.mkv', './own.mkv', 'soft.mkv', 'hard.mkv', 'elsewhere/own.mkv'])
      await expect(strike({ footage, look: EMPTY_LOOK, file: join(folder, out), container: 'mkv' })).rejects.toThrow(/it is what is read/);
    const image = await probe(make('00003.png', colour('red')));
    await expect(strike({ footage: image, look: EMPTY_LOOK, file: at('%05d.png'), container: 'png' })).rejects.toThrow(/it is what is read/);
    expect(await readFile(own)).toEqual(before);
    await expect(notOver(at('other.mkv'), [own])).resolves.toBeUndefined();
  });
});

describe('parts of files', () => {
  test('left by a process that was killed are removed; those of one at work stay', async () => {
    const place = at('parts');
    await mkdir(place);
    await writeFile(join(place, `.film.mp4.part-${here()}-4999999-aaaaaa`), 'left');
    await writeFile(join(place, `.other.mp4.part-${here()}-1-bbbbbb`), 'at work');
    // Another machine's: nobody here can tell whether it is at work.
    await writeFile(join(place, '.film.mp4.part-0123456789-4999999-cccccc'), 'elsewhere');
    await writeFile(join(place, '.profile'), 'not ours');
    const part = await partPlace(join(place, 'film.mp4'));
    await writeFile(part.file, 'whole');
    await removeLeft(place);
    expect((await readdir(place)).filter((name) => name.startsWith('.film')).length).toBe(2);
    await part.keep();
    expect((await readdir(place)).sort()).toEqual(['.film.mp4.part-0123456789-4999999-cccccc', `.other.mp4.part-${here()}-1-bbbbbb`, '.profile', 'film.mp4'].sort());
    expect(await readFile(join(place, 'film.mp4'), 'utf8')).toBe('whole');
  });
});

test('a program’s own words, and its paths, are told to nobody', () => {
  for (const said of [
    '/srv/secret/a.mp4: Invalid data found when processing input',
    "[NULL @ 0x55] [Eval @ 0x7f] Undefined constant or missing '(' in '/srv/secret'",
    '[mov @ 0x1] moov atom not found\n/srv/secret/a.mp4: Invalid data',
    '[out#0 @ 0x1] Error opening output /srv/secret/x.mp4: Permission denied',
  ])
    expect(meaningOf(said).reason).not.toMatch(/srv|0x|secret/);
});
