import { execFile, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';

const PROGRAM = fileURLToPath(new URL('../bin/tinghost.mjs', import.meta.url));
let folder: string;
const at = (name: string): string => join(folder, name);

interface Ran {
  code: number;
  out: string;
  err: string;
}

const run = (program: string, args: string[]): Promise<Ran> =>
  new Promise((resolve) => {
    execFile(program, args, { maxBuffer: 64e6, encoding: 'utf8' }, (error, out, err) => resolve({ code: error ? Number(error.code) : 0, out, err }));
  });
/** With one thread, where it is not said: the tests beside it have the other cores. */
const tinghost = (...args: string[]): Promise<Ran> => run(process.execPath, [PROGRAM, ...args, ...(args[0] === 'render' && !args.includes('--threads') ? ['--threads', '1'] : [])]);

/** MD5 of each decoded picture. */
const md5s = async (file: string, more: string[] = []): Promise<string[]> => {
  const { out } = await run('ffmpeg', ['-v', 'error', '-i', file, ...more, '-f', 'framemd5', '-']);
  return out
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => line.split(',').at(-1)!.trim());
};

const probed = async (file: string): Promise<{ streams: Record<string, string>[] }> =>
  JSON.parse((await run('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-of', 'json', file])).out) as { streams: Record<string, string>[] };

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-cli-'));
  await tinghost('signal', 'bars', '--out', at('bars.mkv'), '--size', '160x96', '--fps', '24', '--seconds', '1');
  await writeFile(at('empty.json'), JSON.stringify({ schema: 'tin-ghost/look@1', name: 'Nothing', seed: 1, lives: [] }));
  const traits = [
    { trait: 'grain', strength: 0 },
    { trait: 'scanlines', strength: 0 },
    { trait: 'channel-offset', strength: 0 },
  ];
  await writeFile(at('zero.json'), JSON.stringify({ schema: 'tin-ghost/look@1', name: 'Zero', seed: 1, lives: [{ carrier: 'super8', traits }] }));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe('render', () => {
  test.each(['empty.json', 'zero.json'])('%s gives the 8-bit input back bit for bit', async (look) => {
    await run('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=s=160x96:d=0.5:r=24', '-pix_fmt', 'gbrp', '-c:v', 'ffv1', at('rgb.mkv')]);
    expect(await tinghost('render', '--in', at('rgb.mkv'), '--look', at(look), '--out', at('same.mkv'))).toEqual({ code: 0, out: '', err: '' });
    const [before, after] = [await md5s(at('rgb.mkv'), ['-pix_fmt', 'gbrp']), await md5s(at('same.mkv'), ['-pix_fmt', 'gbrp'])];
    expect(before).toHaveLength(12);
    expect(after).toEqual(before);
  });

  test('a range, another size and rate come out as asked', async () => {
    await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--out', at('part.mp4'), '--from', '5', '--to', '17', '--size', '320x192');
    const [video] = (await probed(at('part.mp4'))).streams;
    expect(video).toMatchObject({ width: 320, height: 192, nb_read_frames: '12', r_frame_rate: '24/1', pix_fmt: 'yuv420p', color_space: 'bt709' });
    await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--out', at('slow.webm'), '--fps', '12');
    expect((await probed(at('slow.webm'))).streams[0]).toMatchObject({ nb_read_frames: '12', codec_name: 'vp9' });
  });

  test.each([
    ['8', 'gbrp|bgr0'],
    ['10', 'gbrp10le'],
    ['16', 'gbrp16le|bgra64le|rgb48le'],
  ])('mkv at %s bits is lossless R’G’B’', async (depth, format) => {
    await tinghost('render', '--in', at('bars.mkv'), '--look', 'night-tube', '--out', at('deep.mkv'), '--depth', depth, '--to', '3');
    const [video] = (await probed(at('deep.mkv'))).streams;
    expect(video!.codec_name).toBe('ffv1');
    expect(video!.pix_fmt).toMatch(new RegExp(`^(${format})$`));
  });

  test.each([
    ['h265', 'mp4', 'hevc', 'yuv420p10le'],
    ['av1', 'webm', 'av1', 'yuv420p10le'],
    ['dnxhr', 'mov', 'dnxhd', 'yuv422p10le'],
  ])('%s in %s comes out whole, and its pictures are those of the look', async (coding, ending, name, format) => {
    const [small, size] = [coding === 'av1' ? ['--size', '48x32'] : [], coding === 'dnxhr' ? ['--size', '320x192'] : []];
    const file = at(`coded-${coding}.${ending}`);
    const { code, err } = await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--out', file, '--coding', coding, '--quality', 'master', '--to', '6', ...size);
    expect([code, err]).toEqual([0, expect.not.stringContaining('rror')]);
    const [video] = (await probed(file)).streams;
    expect(video).toMatchObject({ codec_name: name, pix_fmt: format, nb_read_frames: '6', color_space: 'bt709', color_range: 'tv' });
    // Held against the coding that is measured elsewhere, as the same planes: no conversion stands between them.
    const usual = at(`usual-${coding}.mp4`);
    await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--out', usual, '--quality', 'master', '--to', '6', ...size);
    const planes = 'settb=1/24,setpts=N,format=yuv420p';
    const { err: said } = await run('ffmpeg', ['-i', file, '-i', usual, '-lavfi', `[0]${planes}[a];[1]${planes}[b];[a][b]psnr`, '-f', 'null', '-']);
    expect(Number(/ y:([\d.]+)/.exec(said)![1])).toBeGreaterThan(35);
    if (small.length)
      expect((await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--out', at('small.webm'), '--coding', coding, '--to', '3', ...small)).code).toBe(0);
  });

  test('the same seed is the same file, another seed is not; a picture alone is the picture of the print', async () => {
    for (const [name, seed] of [
      ['a', '7'],
      ['b', '7'],
      ['c', '8'],
    ] as const) {
      // With more threads than cores it is the same.
      await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--seed', seed, '--out', at(`${name}.mkv`), '--threads', name === 'b' ? '3' : '1');
    }
    const [a, b, c] = await Promise.all(['a', 'b', 'c'].map((name) => md5s(at(`${name}.mkv`))));
    expect(b).toEqual(a);
    expect(c).not.toEqual(a);
    // A second of 24 pictures on a carrier that holds 18.
    expect(new Set(a).size).toBe(18);
    await tinghost('frame', '--in', at('bars.mkv'), '--look', 'home-gauge', '--seed', '7', '--at', '11', '--out', at('one.png'));
    expect(await md5s(at('one.png'), ['-pix_fmt', 'gbrp'])).toEqual([(await md5s(at('a.mkv'), ['-pix_fmt', 'gbrp']))[11]]);
  });

  test.each([
    ['as it is', {}, [], []],
    ['at another rate', {}, ['--fps', '30'], []],
    ['slowed, led by motion', { speed: 0.6, between: 'motion' }, [], []],
    ['with film that holds its pictures', {}, [], [{ trait: 'cadence', settings: { rate: 16 } }]],
  ])('what passes in a slip is the picture beside, in a print and alone: %s', async (_name, preparation, more, held: readonly object[]) => {
    await run('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=s=160x96:d=1:r=24', '-pix_fmt', 'gbrp', '-c:v', 'ffv1', at('moving.mkv')]);
    const slip = { trait: 'frame-slip', settings: { count: 0, far: 2, length: 0.5, way: 'up' }, events: { pinned: [{ id: 'mine', at: 0.2 }] } };
    const traits = [...held, { trait: 'dust' }, slip];
    await writeFile(at('slip.json'), JSON.stringify({ schema: 'tin-ghost/look@1', name: 'Slip', seed: 1, lives: [{ carrier: 'super8', traits }] }));
    await writeFile(at('slip-shot.json'), JSON.stringify(preparation));
    const asked = ['--in', at('moving.mkv'), '--look', at('slip.json'), '--preparation', at('slip-shot.json')];
    expect(await tinghost('render', ...asked, '--out', at('slip.mkv'), ...more)).toEqual({ code: 0, out: '', err: '' });
    expect(await tinghost('render', ...asked, '--out', at('slip-part.mkv'), '--from', '8', '--to', '12', ...more)).toEqual({ code: 0, out: '', err: '' });
    const whole = await md5s(at('slip.mkv'), ['-pix_fmt', 'gbrp']);
    expect(await md5s(at('slip-part.mkv'), ['-pix_fmt', 'gbrp'])).toEqual(whole.slice(8, 12));
    if (more.length) return;
    await tinghost('frame', ...asked, '--at', '9', '--out', at('slip.png'));
    expect(await md5s(at('slip.png'), ['-pix_fmt', 'gbrp'])).toEqual([whole[9]]);
  });

  test('pictures are numbered as they are in the footage', async () => {
    await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--out', at('seq/%05d.png'), '--from', '3', '--to', '6');
    expect((await readdir(at('seq'))).sort()).toEqual(['00003.png', '00004.png', '00005.png']);
  });

  test('sound is carried over in step, and left out when asked', async () => {
    // Every second one white picture with a beep that lasts as long.
    const flash = "geq=lum='if(lt(mod(N,25),1),235,16)':cb=128:cr=128";
    const beep = "aevalsrc='if(lt(mod(t,1),0.04),0.5*sin(2*PI*1000*t),0)':s=48000:d=4";
    await run('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      `color=black:s=160x96:r=25:d=4,${flash}`,
      '-f',
      'lavfi',
      '-i',
      beep,
      '-c:v',
      'libx264',
      '-c:a',
      'aac',
      at('sync.mp4'),
    ]);
    await tinghost('render', '--in', at('sync.mp4'), '--look', 'home-gauge', '--out', at('synced.mp4'), '--from', '20', '--to', '90');
    const { streams } = await probed(at('synced.mp4'));
    // The last tells the timecode.
    expect(streams.map((s) => s.codec_type)).toEqual(['video', 'audio', 'data']);
    // The flash of picture 25 now stands at 5 pictures, 0.2 s; so must the beep.
    const { out } = await run('ffmpeg', ['-v', 'error', '-i', at('synced.mp4'), '-map', '0:a', '-ac', '1', '-ar', '8000', '-f', 's16le', at('beep.raw')]);
    expect(out).toBe('');
    const raw = await readFile(at('beep.raw'));
    const first = Array.from({ length: raw.length / 2 }, (_, i) => Math.abs(raw.readInt16LE(i * 2))).findIndex((v) => v > 5000) / 8000;
    expect(first).toBeGreaterThan(0.18);
    expect(first).toBeLessThan(0.22);
    await run('ffmpeg', ['-v', 'error', '-i', at('synced.mp4'), '-vf', 'scale=1:1', '-pix_fmt', 'gray', '-f', 'rawvideo', at('light.raw')]);
    expect(Array.from(await readFile(at('light.raw'))).findIndex((v) => v > 120)).toBe(5);
    await tinghost('render', '--in', at('sync.mp4'), '--look', 'home-gauge', '--out', at('mute.mp4'), '--to', '5', '--no-sound');
    expect((await probed(at('mute.mp4'))).streams.map((s) => s.codec_type)).toEqual(['video', 'data']);
  });
});

describe('a shot that is prepared', () => {
  test('is trimmed, slowed, shaped, and its sound keeps step', async () => {
    await run('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=160x90:r=24:d=3',
      '-f',
      'lavfi',
      '-i',
      'sine=f=500:d=3',
      '-af',
      'volume=enable=lt(t\\,2):volume=0',
      at('timed.mp4'),
    ]);
    await writeFile(at('slow.json'), JSON.stringify({ trim: { from: 24, to: 72 }, speed: 0.5, between: 'blend', shape: 1 }));
    expect(await tinghost('render', '--in', at('timed.mp4'), '--look', at('empty.json'), '--preparation', at('slow.json'), '--out', at('slow.mp4'))).toMatchObject({ code: 0 });
    const { streams } = await probed(at('slow.mp4'));
    expect(streams[0]).toMatchObject({ nb_read_frames: '96' });
    expect([streams[0]!.width, streams[0]!.height]).toEqual([90, 90]);
    // The tone begins at 2 s of the footage: one second into the trim, two at half speed.
    const { out } = await run('ffmpeg', ['-v', 'info', '-i', at('slow.mp4'), '-af', 'silencedetect=n=-40dB:d=0.3', '-f', 'null', '-']).then((r) => ({ out: r.err }));
    const end = Number(/silence_end: ([\d.]+)/.exec(out)?.[1]);
    expect(Math.abs(end - 2)).toBeLessThan(0.12);
  });

  test('frame 3 alone is frame 3 of the print, moved by motion between the footage’s', async () => {
    await writeFile(at('motion.json'), JSON.stringify({ speed: 0.5, between: 'motion', framing: { x: 0.45, y: 0.5, scale: 1.5, turn: 3 }, mirror: true }));
    const prepared = ['--in', at('timed.mp4'), '--look', 'home-gauge', '--preparation', at('motion.json')];
    await tinghost('render', ...prepared, '--out', at('m/%05d.png'), '--from', '3', '--to', '4');
    await tinghost('frame', ...prepared, '--at', '3', '--out', at('three.png'));
    const [[alone], [inPrint]] = [await md5s(at('three.png')), await md5s(at('m/00003.png'))];
    expect(alone).toBe(inPrint);
  });

  test('what is wrong with it is named', async () => {
    await writeFile(at('wrong.json'), JSON.stringify({ speed: 12 }));
    const { code, err } = await tinghost('frame', '--in', at('bars.mkv'), '--look', at('empty.json'), '--preparation', at('wrong.json'), '--at', '0', '--out', at('no.png'));
    expect([code, err]).toEqual([1, expect.stringMatching(/wrong\.json.*speed must be a number from 0\.25 to 4/)]);
    expect(existsSync(at('no.png'))).toBe(false);
  });
});

test('a plate is found by its hash: a file, a .zip of images, and images in a folder, in the order of their numbers', async () => {
  await mkdir(at('plates/flash'), { recursive: true });
  // Three greys; the tenth comes after the second by number, not by letters.
  for (const [name, grey] of [
    ['f-2', 40],
    ['f-3', 120],
    ['f-10', 200],
  ] as const)
    await run('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', `color=0x${grey.toString(16).repeat(3)}:s=32x24`, '-frames:v', '1', at(`plates/flash/${name}.png`)]);
  await run('python3', [
    '-c',
    `import zipfile; z = zipfile.ZipFile(r'${at('plates/flash.zip')}', 'w'); [z.write(r'${at('plates/flash')}/' + n, n) for n in ('f-10.png', 'f-2.png', 'f-3.png')]`,
  ]);
  const sha = (...parts: Buffer[]): string => createHash('sha256').update(Buffer.concat(parts)).digest('hex');
  const images = await Promise.all(['f-2', 'f-3', 'f-10'].map((name) => readFile(at(`plates/flash/${name}.png`))));
  const levels: number[][] = [];
  for (const id of [sha(...images), sha(await readFile(at('plates/flash.zip')))]) {
    const traits = [{ trait: 'plate', settings: { plate: id, mode: 'normal', fit: 'stretch' } }];
    await writeFile(at('plated.json'), JSON.stringify({ schema: 'tin-ghost/look@2', name: 'Plated', seed: 1, shape: 'file', lives: [{ carrier: 'none', traits }] }));
    const of: number[] = [];
    for (const n of [0, 1, 2]) {
      expect(await tinghost('frame', '--in', at('bars.mkv'), '--look', at('plated.json'), '--plates', at('plates'), '--at', String(n), '--out', at('plated.png'))).toMatchObject({
        code: 0,
        err: '',
      });
      const { stdout } = spawnSync('ffmpeg', ['-v', 'error', '-i', at('plated.png'), '-f', 'rawvideo', '-pix_fmt', 'gray', 'pipe:1']);
      of.push(stdout[stdout.length >> 1]!);
    }
    levels.push(of);
  }
  for (const [a, b, c] of levels as [number, number, number][]) expect([a < 60, b > 90 && b < 150, c > 180]).toEqual([true, true, true]);
  const missing = await tinghost('frame', '--in', at('bars.mkv'), '--look', at('plated.json'), '--plates', at('seq'), '--at', '0', '--out', at('none.png'));
  expect(missing).toMatchObject({ code: 1, err: expect.stringMatching(/the look needs a plate that is not in this folder/) });
});

describe('colour files', () => {
  test('a look’s colour is written as a cube, which a look may then use', async () => {
    const look = (traits: unknown[]) => JSON.stringify({ schema: 'tin-ghost/look@1', name: 'Colour', seed: 1, lives: [{ carrier: 'none', traits }] });
    await writeFile(at('half.json'), look([{ trait: 'cdl', settings: { slopeRed: 0.5, slopeGreen: 0.5, slopeBlue: 0.5 } }, { trait: 'grain' }]));
    const made = await tinghost('cube', at('half.json'), '--points', '5', '--out', at('tables/half.cube')).then(async (first) => {
      expect(first.code).toBe(1);
      await mkdir(at('tables'));
      return tinghost('cube', at('half.json'), '--points', '5', '--out', at('tables/half.cube'));
    });
    expect([made.code, made.err]).toEqual([0, expect.stringContaining('cannot hold Grain')]);
    expect((await tinghost('colour', at('tables/half.cube'))).out).toContain('5 points a side');
    const file = createHash('sha256')
      .update(await readFile(at('tables/half.cube')))
      .digest('hex');
    await writeFile(at('by-table.json'), look([{ trait: 'table', settings: { file } }]));
    const frame = (...more: string[]) => tinghost('frame', '--in', at('bars.mkv'), '--look', at('by-table.json'), '--at', '0', '--out', at('tabled.png'), ...more);
    expect((await frame()).err).toMatch(/needs a table/);
    expect(await frame('--tables', at('tables'))).toMatchObject({ code: 0 });
    const raw = (
      await run('ffmpeg', ['-v', 'error', '-i', at('tabled.png'), '-vf', 'crop=1:1:8:40,format=gray', '-f', 'rawvideo', '-pix_fmt', 'gray', at('grey.raw')]).then(() =>
        readFile(at('grey.raw')),
      )
    )[0]!;
    // White bars at 75 %, halved.
    expect(Math.abs(raw - 0.375 * 255)).toBeLessThan(3);
  });

  test('what is wrong with one is said with its line', async () => {
    await writeFile(at('bad.cube'), 'LUT_1D_SIZE 2\n0 0 0\n');
    expect((await tinghost('colour', at('bad.cube'))).err).toMatch(/bad\.cube.*ends after 1 of 2 points.*line 3|line 3.*ends after 1 of 2 points/);
    await writeFile(at('bad.ccc'), '<ColorCorrectionCollection>\n<ColorCorrection id="a"><Slope>1 1</Slope></ColorCorrection></ColorCorrectionCollection>');
    expect((await tinghost('colour', at('bad.ccc'))).err).toMatch(/Slope takes 3 numbers/);
  });
});

describe('what is asked of it wrongly', () => {
  test.each([
    [['render', '--look', 'home-gauge', '--out', 'x.mp4'], /--in is missing/],
    [['render', '--in', 'a', '--look', 'b', '--out', 'x.avi'], /--out must end in/],
    [['render', '--in', 'a', '--look', 'b', '--out', 'x.mp4', '--depth', '16'], /--depth for h264 is 8 or 10/],
    [['render', '--in', 'a', '--look', 'b', '--out', 'x.mov', '--coding', 'h265'], /--coding in mov is prores or prores4444 or dnxhr or dnxhr444, not "h265"/],
    [['render', '--in', 'a', '--look', 'b', '--out', 'x.mp4', '--size', '12'], /--size must be WIDTHxHEIGHT/],
    [['render', '--bogus'], /Unknown option '--bogus'/],
    [['frame', '--in', 'a', '--look', 'b', '--at', '-1', '--out', 'x.png'], /--at/],
    [['signal', 'snow', '--out', 'x.mkv'], /one of bars, ramp/],
    [['paint'], /there is no command "paint"/],
  ])('%j is wrong usage', async (args, message) => {
    const { code, err } = await tinghost(...args);
    expect(code).toBe(2);
    expect(err).toMatch(message);
  });

  test.each([[['help']], [['--help']], [['render', '--help']], [['watch', '-h']]])('but %j asks how it is used', async (args) => {
    expect(await tinghost(...args)).toMatchObject({ code: 0, out: expect.stringContaining('tinghost render --in FILE'), err: '' });
  });

  test('and which it is, it tells', async () => {
    const { version } = JSON.parse(await readFile(new URL('../package.json', import.meta.url), 'utf8')) as { version: string };
    for (const asked of ['--version', 'version']) expect(await tinghost(asked)).toMatchObject({ code: 0, out: `tinghost ${version}\n` });
  });
});

describe('bad input: exit 1, a message with file, place and reason, nothing left', () => {
  const outputs = async (): Promise<string[]> => (await readdir(folder)).filter((name) => name.includes('out.') || name.includes('.part'));

  test('footage', async () => {
    await writeFile(at('text.mp4'), 'this is no film');
    await writeFile(at('nothing.mp4'), '');
    await run('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'sine=d=1', at('sound.wav')]);
    await run('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=s=320x240:d=3', at('whole.mp4')]);
    const bytes = await readFile(at('whole.mp4'));
    await writeFile(at('cut.mp4'), bytes.subarray(0, bytes.length / 2));
    await run('ffmpeg', ['-v', 'error', '-y', '-i', at('whole.mp4'), '-c', 'copy', '-movflags', '+faststart', at('fast.mp4')]);
    const fast = await readFile(at('fast.mp4'));
    await writeFile(at('cutfast.mp4'), fast.subarray(0, Math.round(fast.length * 0.6)));
    for (const [name, reason] of [
      ['text.mp4', /text\.mp4: a text or a list, not footage/],
      ['nothing.mp4', /nothing\.mp4: the file is empty/],
      ['sound.wav', /sound\.wav: there is no picture in it, only sound/],
      ['cut.mp4', /cut\.mp4: the file is cut short: its index is missing/],
      ['cutfast.mp4', /cutfast\.mp4 \(picture \d+\): the file is cut short: of 75 pictures only \d+/],
      ['absent.mp4', /absent\.mp4: there is no such file/],
    ] as const) {
      const { code, err } = await tinghost('render', '--in', at(name), '--look', 'home-gauge', '--out', at('out.mp4'));
      expect([name, code]).toEqual([name, 1]);
      expect(err).toMatch(reason);
      expect(await outputs()).toEqual([]);
    }
  });

  test('looks', async () => {
    const use = (u: object): string => JSON.stringify({ schema: 'tin-ghost/look@1', name: 'x', seed: 1, lives: [{ carrier: 'none', traits: [u] }] });
    for (const [text, reason] of [
      [use({ trait: 'rust' }), /bad\.json: lives\[0\]\.traits\[0\]\.trait there is no trait "rust"/],
      [use({ trait: 'grain', settings: { size: '8px' } }), /settings\.size must be a number from 1 to 40 µm/],
      ['{"schema":"tin-ghost/look@1","name":"x","seed":NaN,"lives":[]}', /bad\.json: not JSON at line 1, column 48/],
      [
        JSON.stringify({ schema: 'tin-ghost/look@1', name: 'x', seed: 1, lives: [{ carrier: 'none', traits: new Array(1000).fill({ trait: 'grain' }) }] }),
        /lives\[0\]\.traits holds 1000/,
      ],
      [JSON.stringify(new Array(1_000_000).fill({ trait: 'grain' })), /a look has at most 262144/],
    ] as const) {
      await writeFile(at('bad.json'), text);
      for (const command of [
        ['check', at('bad.json')],
        ['render', '--in', at('bars.mkv'), '--look', at('bad.json'), '--out', at('out.mp4')],
      ]) {
        const { code, err } = await tinghost(...command);
        expect(code).toBe(1);
        expect(err).toMatch(reason);
      }
      expect(await outputs()).toEqual([]);
    }
  });

  test('a picture or a range that is not there', async () => {
    expect(await tinghost('frame', '--in', at('bars.mkv'), '--look', 'home-gauge', '--at', '24', '--out', at('out.png'))).toMatchObject({
      code: 1,
      err: expect.stringMatching(/bars\.mkv \(--at 24\): there are pictures 0 to 23/) as unknown,
    });
    expect(await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--from', '9', '--to', '99', '--out', at('out.mp4'))).toMatchObject({ code: 1 });
    expect(await outputs()).toEqual([]);
  });

  test('what stood under the name of the output stays when the work fails', async () => {
    await writeFile(at('kept.mp4'), 'dear to someone');
    await writeFile(at('text.mp4'), 'this is no film');
    expect((await tinghost('render', '--in', at('text.mp4'), '--look', 'home-gauge', '--out', at('kept.mp4'))).code).toBe(1);
    expect(await readFile(at('kept.mp4'), 'utf8')).toBe('dear to someone');
  });

  test('a folder that is not there', async () => {
    expect((await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--out', at('nowhere/out.mp4'))).err).toMatch(/there is no folder/);
  });
});

describe('what is given by mistake', () => {
  test('is not written over by what is made of it', async () => {
    await run('cp', [at('bars.mkv'), at('own.mkv')]);
    await run('cp', [at('zero.json'), at('own.json')]);
    const before = await readFile(at('own.mkv'));
    const look = await readFile(at('own.json'), 'utf8');
    for (const command of [
      ['render', '--in', at('own.mkv'), '--look', 'home-gauge', '--out', at('own.mkv')],
      ['render', '--in', at('bars.mkv'), '--look', at('own.json'), '--out', at('own.json.mkv').replace('.mkv', '')],
      ['cube', at('own.json'), '--out', at('own.json')],
    ]) {
      const { code, err } = await tinghost(...command);
      expect(code).toBeGreaterThan(0);
      expect(err).toMatch(/it is what is read|must end in/);
    }
    await run('cp', [at('own.mkv'), at('own.png')]);
    expect((await tinghost('frame', '--in', at('own.png'), '--look', 'home-gauge', '--at', '0', '--out', at('own.png'))).err).toMatch(/it is what is read/);
    expect(await readFile(at('own.mkv'))).toEqual(before);
    expect(await readFile(at('own.json'), 'utf8')).toBe(look);
  });

  test('a folder, an unreadable file, a command that is none: a sentence, never a stack', async () => {
    await mkdir(at('folder.mp4'), { recursive: true });
    for (const [args, code, message] of [
      [['check', folder], 1, /it is a folder, not a file/],
      [['render', '--in', folder, '--look', 'home-gauge', '--out', at('out.mp4')], 1, /it is a folder, not a file/],
      [['render', '--in', at('bars.mkv'), '--look', folder, '--out', at('out.mp4')], 1, /it is a folder, not a file/],
      [['render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--out', at('folder.mp4')], 1, /it is a folder, not a file/],
      [['look', 'home-gauge', '--out', folder], 1, /it is a folder, not a file/],
      [['look', '__proto__'], 1, /no look of that id/],
      [['check', `${at('bars.mkv')}/x.json`], 1, /no such file|no folder/],
      [['__proto__'], 2, /no command "__proto__"/],
      [['constructor'], 2, /no command "constructor"/],
      [['toString'], 2, /no command "toString"/],
    ] as const) {
      const ran = await tinghost(...args);
      expect([args, ran.code]).toEqual([args, code]);
      expect(ran.err).toMatch(message);
      expect(ran.err).not.toMatch(/^\s+at /m);
    }
  });

  test('a trim beyond the end of the footage is refused with its place', async () => {
    await writeFile(at('trim.json'), JSON.stringify({ trim: { from: 3, to: 25 } }));
    const { code, err } = await tinghost('render', '--in', at('bars.mkv'), '--look', 'home-gauge', '--out', at('out.mp4'), '--preparation', at('trim.json'));
    expect([code, err]).toEqual([1, expect.stringMatching(/trim\.json: trim\.to lies beyond the end: the footage has 24 frames/)]);
  });

  test('whoever reads may stop reading: no stack, and no error', async () => {
    const { code, out, err } = await run('bash', ['-o', 'pipefail', '-c', `'${process.execPath}' '${PROGRAM}' traits --json | head -n 1`]);
    expect({ code, out, err }).toEqual({ code: 0, out: '[\n', err: '' });
  });

  test.each([
    ['SIGINT', ['signal', 'sweep', '--out', 'out.mkv', '--size', '1280x720', '--seconds', '600']],
    ['SIGHUP', ['signal', 'sweep', '--out', 'out.mkv', '--size', '1280x720', '--seconds', '600']],
    ['SIGTERM', ['render', '--in', 'bars.mkv', '--look', 'home-gauge', '--out', 'out.webm', '--size', '1920x1080']],
  ] as const)('%s ends a command and leaves nothing: %j', async (signal, args) => {
    const child = spawn(process.execPath, [PROGRAM, ...args], { stdio: 'ignore', cwd: folder });
    const gone = new Promise<number | null>((done) => child.once('exit', done));
    for (let i = 0; i < 400 && !(await readdir(folder)).some((name) => name.includes('.part-')); i++) await new Promise((wait) => setTimeout(wait, 25));
    child.kill(signal);
    expect(await gone).toBe(1);
    expect((await readdir(folder)).filter((name) => name.includes('out.') || name.includes('.part'))).toEqual([]);
  });
});

test('small and odd pictures come through', async () => {
  for (const size of ['1x1', '3x5', '853x479']) {
    await tinghost('signal', 'steps', '--out', at('odd.mkv'), '--size', size, '--seconds', '0.1');
    expect(await tinghost('render', '--in', at('odd.mkv'), '--look', 'night-tube', '--out', at('odd-out.mkv'))).toEqual({ code: 0, out: '', err: '' });
    const [w, h] = size.split('x').map(Number);
    expect((await probed(at('odd-out.mkv'))).streams[0]).toMatchObject({ width: w, height: h });
  }
  await tinghost('signal', 'grey', '--out', at('still.mkv'), '--seconds', '0', '--size', '64x48');
  expect((await tinghost('render', '--in', at('still.mkv'), '--look', 'home-gauge', '--out', at('still.mp4'))).code).toBe(0);
});

test('lists of looks and traits, for people and as JSON', async () => {
  const looks = JSON.parse((await tinghost('looks', '--json')).out) as { id: string }[];
  expect(looks.length).toBeGreaterThanOrEqual(12);
  // Each is a process of its own: some of them.
  for (const { id } of looks.filter((_, i) => i % 20 === 0)) {
    await mkdir(at('looks'), { recursive: true });
    expect((await tinghost('look', id, '--out', at(`looks/${id}.json`))).code).toBe(0);
    expect(existsSync(at(`looks/${id}.json`))).toBe(true);
    expect((await tinghost('check', at(`looks/${id}.json`))).code).toBe(0);
  }
  const traits = JSON.parse((await tinghost('traits', '--json')).out) as { id: string; settings: { unit?: string }[] }[];
  expect(traits.map((t) => t.id)).toEqual(expect.arrayContaining(['channel-offset', 'grain', 'scanlines']));
  expect((await tinghost('traits')).out).toMatch(/grain \(stock\)/);
});

test('a plan is printed as its steps, with domain, footprint, size and what each costs', async () => {
  const { code, out } = await tinghost('plan', 'night-tube', '--size', '320x240');
  expect(code).toBe(0);
  const lines = out.trim().split('\n');
  expect(lines.map((line) => line.split(/ {2,}/)[0])).toEqual(expect.arrayContaining(['read', 'display to density', 'grain', 'scanlines', 'write']));
  expect(lines.find((line) => line.startsWith('grain'))).toMatch(/^grain +density +point +320x240 +\d+\.\d\d ms$/);
  expect(lines.at(-1)).toMatch(/ms a picture of 320x240/);
  expect((await tinghost('plan', 'no-such-look')).code).toBe(1);
  expect((await tinghost('plan')).code).toBe(2);
});
