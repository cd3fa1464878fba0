/** Several shots struck as one film, and the formats and qualities of prints, read back by ffprobe and by their pictures. */
import { ALPHA_CODINGS, CODING_DEPTHS, MOST_LOOP_FRAMES, PRINT_CODINGS, RATED_CODINGS, type PrintCoding, type PrintFormat } from '@tin-ghost/contract';
import { codingsOf, depthsOf, holdsAlpha, takesBitRate, unfitFor } from '@tin-ghost/media';
import { execFileSync } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import { TestServer } from './testing';

const under = new TestServer(`films_test_${process.pid}`);
const plain = { ...EMPTY_LOOK, name: 'Plain' };
/** Footage of one colour with a tone, and one without sound, of another rate and shape. */
let shots: string[];
let reel: string;
beforeAll(async () => {
  await under.up();
  reel = await under.newReel();
  for (const [name, args] of [
    ['red.mp4', ['-f', 'lavfi', '-i', 'color=0xb02020:s=320x180:r=25:d=1', '-f', 'lavfi', '-i', 'sine=frequency=440:d=1', '-ac', '1', '-ar', '44100']],
    ['green.mp4', ['-f', 'lavfi', '-i', 'color=0x20b020:s=240x240:r=30:d=1']],
    ['blue.mp4', ['-f', 'lavfi', '-i', 'color=0x2020b0:s=640x360:r=24:d=1', '-f', 'lavfi', '-i', 'sine=frequency=880:d=1', '-ac', '2', '-ar', '48000']],
  ] as const)
    await under.send(await under.clip([...args], name), { filename: name, reel });
  const all = await under.settled(reel);
  shots = ['red', 'green', 'blue'].map((name) => all.find((shot: { name: string }) => shot.name.startsWith(name)).id);
  for (const id of shots) await under.call('PUT', `/shots/${id}/look`, { look: plain, revision: 0 });
});
afterAll(() => under.down());

async function struck(order: object, name: string): Promise<string> {
  const { status, body } = await under.call('POST', '/prints', order);
  expect(status).toBe(201);
  expect(await under.printEnd(body.id)).toMatchObject({ state: 'done', error: null });
  const file = join(under.folder, name);
  await writeFile(file, Buffer.from(await (await fetch(`${under.address}/api/prints/${body.id}/file`)).arrayBuffer()));
  return file;
}
const streamsOf = (file: string) => JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-of', 'json', file], { encoding: 'utf8' })).streams;
/** R'G'B' of a pixel of a frame. */
function pixel(file: string, frame: number, x: number, y: number): number[] {
  const filter = `select=eq(n\\,${frame}),crop=2:2:${x}:${y},scale=1:1,format=rgb24`;
  return [...execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-vf', filter, '-frames:v', '1', '-f', 'rawvideo', 'pipe:1'])];
}

describe('a film of several shots', () => {
  test('has each whole and in order, at the first one’s rate and size, its own shape kept, sound and silence in step', async () => {
    const file = await struck({ shotId: shots[0], following: [shots[1], shots[2]], format: 'mp4' }, 'film.mp4');
    const [video, sound] = streamsOf(file);
    expect(video).toMatchObject({ width: 320, height: 180, r_frame_rate: '25/1', nb_read_frames: '75' });
    const strongest = (n: number): number => pixel(file, n, 160, 90).reduce((best, v, i, all) => (v > all[best]! ? i : best), 0);
    expect([0, 24, 25, 49, 50, 74].map(strongest)).toEqual([0, 0, 1, 1, 2, 2]);
    // The square one stands between bars; the others fill the picture.
    expect(Math.max(...pixel(file, 30, 20, 90))).toBeLessThan(20);
    expect(Math.max(...pixel(file, 30, 100, 90))).toBeGreaterThan(100);
    expect(Math.max(...pixel(file, 60, 20, 90))).toBeGreaterThan(100);
    // A second of one tone, one of nothing, one of the other: counted by its turns.
    expect(Number(sound.duration)).toBeCloseTo(3, 1);
    const pcm = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', 'a', '-ac', '1', '-ar', '48000', '-f', 's16le', 'pipe:1']);
    const samples = new Int16Array(pcm.buffer, pcm.byteOffset, pcm.length >> 1);
    const turns = (from: number, to: number): number => {
      let count = 0;
      for (let i = Math.round(from * 48_000) + 1; i < to * 48_000; i++) if (samples[i]! >= 0 !== samples[i - 1]! >= 0 && Math.abs(samples[i]! - samples[i - 1]!) > 4) count++;
      return count / (2 * (to - from));
    };
    expect(turns(0.2, 0.8)).toBeCloseTo(440, -1);
    expect(Math.max(...samples.subarray(1.1 * 48_000, 1.9 * 48_000).map(Math.abs))).toBeLessThan(60);
    expect(turns(2.2, 2.8)).toBeCloseTo(880, -1);
  });

  test('has no bars within bars: what a look shows of a shot is what fits the film', async () => {
    // Both look as Super 8 does; the file takes its shape, and the second shot fills it as the first does.
    const gauge = { ...plain, shape: 'carrier', lives: [{ carrier: 'super8', traits: [] }] };
    const worn = async (look: object): Promise<void> => {
      for (const id of [shots[0], shots[2]]) await under.call('PUT', `/shots/${id}/look`, { look, revision: (await under.call('GET', `/shots/${id}`)).body.revision });
    };
    await worn(gauge);
    const file = await struck({ shotId: shots[0], following: [shots[2]], format: 'mp4', width: 246, height: 180 }, 'gauge.mp4');
    await worn(plain);
    for (const frame of [10, 40])
      for (const [x, y] of [
        [2, 90],
        [242, 90],
        [120, 2],
        [120, 176],
      ] as const)
        expect(Math.max(...pixel(file, frame, x, y))).toBeGreaterThan(100);
  });

  test('is told with its count of shots; its footage stays while it stands, and goes with it', async () => {
    const { body } = await under.call('POST', '/prints', { shotId: shots[0], following: [shots[0]], format: 'webm', width: 64, height: 36 });
    expect(body).toMatchObject({ shots: 2, total: 50, name: 'Reel, 2 shots', shotId: null });
    expect((await under.printEnd(body.id)).state).toBe('done');
    expect((await under.rows('select count(*)::int as n from print_parts'))[0]!.n).toBeGreaterThan(0);
    await under.call('DELETE', `/prints/${body.id}`);
    expect((await under.rows(`select count(*)::int as n from print_parts where print_id = '${body.id}'`))[0]!.n).toBe(0);
  });

  test('with a shot that is not there, or a range, is refused', async () => {
    const missing = '00000000-0000-4000-8000-000000000000';
    expect((await under.call('POST', '/prints', { shotId: shots[0], following: [missing], format: 'mp4' })).status).toBe(404);
    const ranged = await under.call('POST', '/prints', { shotId: shots[0], following: [shots[1]], format: 'mp4', from: 0, to: 5 });
    expect([ranged.status, ranged.body.error.problems.map(({ path }: { path: string }) => path)]).toEqual([400, ['from', 'to']]);
    expect((await under.rows("select count(*)::int as n from prints where state <> 'done'"))[0]!.n).toBe(0);
  });
});

describe('formats', () => {
  test.each([
    ['mov', { codec_name: 'prores', pix_fmt: 'yuv422p10le', color_space: 'bt709' }, 'pcm_s16le'],
    ['mkv', { codec_name: 'ffv1', pix_fmt: 'bgr0' }, 'flac'],
    ['mp4', { codec_name: 'hevc', codec_tag_string: 'hvc1', pix_fmt: 'yuv420p10le', color_space: 'bt709' }, 'aac', { coding: 'h265' }],
    ['webm', { codec_name: 'av1', pix_fmt: 'yuv420p10le', color_space: 'bt709' }, 'opus', { coding: 'av1' }],
    ['mov', { codec_name: 'dnxhd', profile: 'DNXHR SQ', pix_fmt: 'yuv422p', color_space: 'bt709' }, 'pcm_s16le', { coding: 'dnxhr' }],
    ['mov', { codec_name: 'dnxhd', profile: 'DNXHR HQX', pix_fmt: 'yuv422p10le' }, 'pcm_s16le', { coding: 'dnxhr', quality: 'master' }],
    ['mov', { codec_name: 'dnxhd', profile: 'DNXHR HQ', pix_fmt: 'yuv422p' }, 'pcm_s16le', { coding: 'dnxhr', quality: 'master', bits: 8 }],
    ['mp4', { codec_name: 'h264', pix_fmt: 'yuv420p10le', color_space: 'bt709' }, 'aac', { bits: 10 }],
    ['mov', { codec_name: 'prores', profile: '4444', color_space: 'bt709' }, 'pcm_s16le', { coding: 'prores4444' }],
    ['mxf', { codec_name: 'dnxhd', profile: 'DNXHR 444', color_space: 'bt709' }, 'pcm_s16le', { coding: 'dnxhr444' }],
  ])('%s %j has its coding, every frame, and the sound', async (format, coding, heard, more: Record<string, string | number> = {}) => {
    const file = await struck({ shotId: shots[0], format, ...more }, `one.${Object.values(more).join('-')}.${format}`);
    const [video, sound] = streamsOf(file);
    expect(video).toMatchObject({ ...coding, width: 320, height: 180, nb_read_frames: '25' });
    expect(sound.codec_name).toBe(heard);
    const [r, g, b] = pixel(file, 12, 160, 90);
    expect([Math.abs(r! - 0xb0) < 4, Math.abs(g! - 0x20) < 4, Math.abs(b! - 0x20) < 4]).toEqual([true, true, true]);
  });

  test('files are named by a pattern; one that names what there is not is refused with its field', async () => {
    const small = { width: 64, height: 36, format: 'png', to: 1 };
    const named = async (more: object) => (await under.call('POST', '/prints', { ...small, ...more })).body;
    const [first, third] = [await named({ shotId: shots[0], name: '{number} {reel}: {shot}' }), await named({ shotId: shots[2], name: ' L14_{number} ' })];
    const film = await named({ shotId: shots[1], following: [shots[2]], format: 'mkv', to: undefined, name: '{number} to the end' });
    const { name: shot, look } = (await under.call('GET', `/shots/${shots[0]}`)).body;
    expect([first.name, third.name, film.name]).toEqual([`01 Reel: ${shot}`, 'L14_03', '02 to the end']);
    const usual = await named({ shotId: shots[0] });
    expect(usual.name).toBe(`${shot}, ${look.name}`);
    for (const { id } of [first, third, film, usual]) expect((await under.printEnd(id)).state).toBe('done');
    const answer = await fetch(`${under.address}/api/prints/${first.id}/file`);
    expect(decodeURIComponent(answer.headers.get('content-disposition')!)).toContain(`"01 Reel_ ${shot}.png"`);
    for (const { id } of [first, third, film, usual]) await under.call('DELETE', `/prints/${id}`);
    const before = (await under.rows('select count(*)::int as n from prints'))[0]!.n;
    const { error } = await named({ shotId: shots[0], name: '{shot} {data}' });
    expect(error.problems).toEqual([{ path: 'name', message: expect.stringMatching(/^has "data" in braces, which is none of reel, number, shot, look$/) }]);
    expect((await under.rows('select count(*)::int as n from prints'))[0]!.n).toBe(before);
  });

  test('the codings that are offered are those that can be struck', () => {
    for (const [format, codings] of Object.entries(PRINT_CODINGS)) expect(codings).toEqual(codingsOf(format as PrintFormat));
    for (const [coding, depths] of Object.entries(CODING_DEPTHS)) expect(depths).toEqual(depthsOf(coding as PrintCoding));
    expect([...RATED_CODINGS].sort()).toEqual((Object.keys(CODING_DEPTHS) as PrintCoding[]).filter(takesBitRate).sort());
    expect([...ALPHA_CODINGS].sort()).toEqual((Object.keys(CODING_DEPTHS) as PrintCoding[]).filter(holdsAlpha).sort());
    const loop = (frames: number) => unfitFor('gif', { rate: { num: 25, den: 1 }, frames, sound: false });
    expect([loop(MOST_LOOP_FRAMES), loop(MOST_LOOP_FRAMES + 1)]).toEqual([undefined, expect.stringContaining(`at most ${MOST_LOOP_FRAMES}`)]);
  });

  test('what a format or a coding does not hold is refused with its field, and no print is made', async () => {
    const before = (await under.rows('select count(*)::int as n from prints'))[0]!.n;
    const refused: unknown[] = [];
    for (const more of [
      { format: 'mp4', coding: 'prores' },
      { format: 'webm', coding: 'h265' },
      { format: 'mov', coding: 'dnxhr', width: 160, height: 90 },
      { format: 'mp4', bits: 16 },
      { format: 'mp4', ground: 'alpha' },
      { format: 'exr', ground: 'grey' },
      { format: 'png', ground: 'alpha' },
      { format: 'wav', shotId: shots[1] },
    ]) {
      const { status, body } = await under.call('POST', '/prints', { shotId: shots[0], ...more });
      refused.push([status, body.error.problems[0].path, body.error.problems[0].message]);
    }
    expect(refused).toEqual([
      [400, 'coding', 'must be h264 or h265 in mp4'],
      [400, 'coding', 'must be vp9 or av1 in webm'],
      [400, 'coding', 'this coding takes pictures of 256 by 120 and more, not 160 by 90'],
      [400, 'bits', 'must be 8 or 10 for h264'],
      [400, 'ground', 'this coding has no place for alpha'],
      [400, 'ground', 'files of light and sound do not hold the wear alone'],
      [400, 'ground', expect.stringMatching(/^the look of .* has no wear that can be laid over a picture$/)],
      [400, 'format', 'there is no sound in it'],
    ]);
    expect((await under.rows('select count(*)::int as n from prints'))[0]!.n).toBe(before);
  });

  test('images come in a zip, numbered as asked, one alone by itself; loops and sound as their files; each with a still but sound', async () => {
    const zip = await struck({ shotId: shots[0], format: 'png', from: 2, to: 5, firstNumber: 100 }, 'images.zip');
    expect(execFileSync('python3', ['-m', 'zipfile', '-l', zip], { encoding: 'utf8' })).toMatch(/red, Plain\.0100\.png[^]*red, Plain\.0101\.png[^]*red, Plain\.0102\.png/);
    const one = await struck({ shotId: shots[0], format: 'tiff', from: 24, to: 25 }, 'one.tif');
    expect(streamsOf(one)[0]).toMatchObject({ codec_name: 'tiff', pix_fmt: 'rgb48le', width: 320 });
    expect(Math.abs(pixel(one, 0, 160, 90)[0]! - 0xb0)).toBeLessThan(4);
    const gif = await struck({ shotId: shots[0], format: 'gif', from: 0, to: 10 }, 'loop.gif');
    expect(streamsOf(gif)[0]).toMatchObject({ codec_name: 'gif', nb_read_frames: '10' });
    const wav = await struck({ shotId: shots[2], format: 'wav' }, 'sound.wav');
    expect(streamsOf(wav)[0]).toMatchObject({ codec_name: 'pcm_s16le', channels: 2, duration: '1.000000' });
    const { body } = await under.call('GET', '/prints');
    const stills = await Promise.all(
      (body as { id: string; settings: { format: string } }[])
        .filter(({ settings }) => ['png', 'tiff', 'gif', 'wav'].includes(settings.format))
        .map(async ({ id, settings }) => `${settings.format} ${(await fetch(`${under.address}/api/prints/${id}/poster`)).status}`),
    );
    expect(stills.sort()).toEqual(['gif 200', 'png 200', 'tiff 200', 'wav 404']);
  });

  test('the wear alone comes with its alpha, clear where nothing lies', async () => {
    const dusty = { ...plain, name: 'Dusty', lives: [{ carrier: 'super8', traits: [{ trait: 'gate-weave' }, { trait: 'dust', settings: { count: 12 } }] }] };
    const change = async (look: object): Promise<void> => {
      await under.call('PUT', `/shots/${shots[0]}/look`, { look, revision: (await under.call('GET', `/shots/${shots[0]}`)).body.revision });
    };
    await change(dusty);
    const file = await struck({ shotId: shots[0], format: 'png', ground: 'alpha', from: 3, to: 4 }, 'wear.png');
    await change(plain);
    const alpha = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-vf', 'extractplanes=a', '-f', 'rawvideo', 'pipe:1'], { maxBuffer: 1e8 });
    expect(alpha.length).toBe(320 * 180);
    const share = alpha.reduce((sum, v) => sum + (v > 0 ? 1 : 0), 0) / alpha.length;
    expect(share).toBeGreaterThan(0.0005);
    expect(share).toBeLessThan(0.3);
  });

  test('a better quality is a larger file', async () => {
    const noisy = { ...plain, lives: [{ carrier: 'none', traits: [{ trait: 'noise', settings: { amount: 0.2 } }] }] };
    await under.call('PUT', `/shots/${shots[2]}/look`, { look: noisy, revision: (await under.call('GET', `/shots/${shots[2]}`)).body.revision });
    const bytes: number[] = [];
    for (const quality of ['check', 'deliver', 'master']) {
      const { body } = await under.call('POST', '/prints', { shotId: shots[2], format: 'mp4', quality, sound: false });
      bytes.push((await under.printEnd(body.id)).bytes);
    }
    expect(bytes[1]! / bytes[0]!).toBeGreaterThan(1.15);
    expect(bytes[2]! / bytes[1]!).toBeGreaterThan(1.15);
    // Or one of a bit rate: kept with the print, and taken where it can be set, in place of a quality.
    const { body } = await under.call('POST', '/prints', { shotId: shots[2], format: 'mp4', bitRate: 0.5, sound: false });
    expect(body.settings).toMatchObject({ bitRate: 0.5 });
    expect(body.settings.quality).toBeUndefined();
    expect((await under.printEnd(body.id)).bytes).toBeLessThan(bytes[0]! / 1.15);
    for (const wrong of [
      { format: 'mov', bitRate: 5 },
      { format: 'mp4', bitRate: 5, quality: 'check' },
      { format: 'mp4', bitRate: 0 },
    ])
      expect([wrong, (await under.call('POST', '/prints', { shotId: shots[2], ...wrong })).status]).toEqual([wrong, 400]);
  });
});
