/** Plates and fonts by way of the server: kept by the hash of their files, given to prints, refused with a reason. */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, shippedFonts, type Look, type TraitUse } from '@tin-ghost/core';
import { TestServer, type Answer } from './testing';

const under = new TestServer(`laid_over_test_${process.pid}`);
beforeAll(() => under.up());
afterAll(() => under.down());
const call = under.call.bind(under);

const lookOf = (traits: TraitUse[]): Look => ({ ...EMPTY_LOOK, lives: [{ carrier: 'none', traits }] });
const sha = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

/** A shot of a reel of its own, dressed. */
async function shotWith(look: Look): Promise<Answer['body']> {
  const reel = await under.newReel();
  await under.send(await under.aClip(), { reel, filename: 'clip.mp4' });
  const [shot] = await under.settled(reel);
  await call('PUT', `/shots/${shot.id}/look`, { look, revision: shot.revision });
  return shot;
}
const printOf = async (shot: Answer['body']): Promise<Answer['body']> => (await call('POST', '/prints', { shotId: shot.id, format: 'mp4', width: 96, height: 54 })).body;

/** The plates, once none of them is on its way. */
const plates = (): Promise<Answer['body'][]> => under.once('/plates', (all) => all.every((plate: Answer['body']) => ['ready', 'failed'].includes(plate.medium.state)));

/** A red picture, wholly there in its left half alone. */
const halfRed = (): Promise<Buffer> =>
  under.clip(['-f', 'lavfi', '-i', "color=red:s=64x36,format=rgba,geq=r='r(X,Y)':g='g(X,Y)':b='b(X,Y)':a='255*lt(X,32)'", '-frames:v', '1'], 'half.png');

describe('plates', () => {
  test('one with alpha is kept by the hash of its file, and laid into a print', async () => {
    const file = await halfRed();
    await under.send(file, { filename: 'half red.png', as: 'plate' });
    const [plate] = await plates();
    expect(plate).toMatchObject({ key: sha(file), name: 'half red', shipped: false, medium: { footage: { stacked: true, width: 64, height: 72 } } });
    const poster = await fetch(`${under.address}/api/media/${plate.medium.id}/poster`);
    expect(poster.status).toBe(200);
    const shot = await shotWith(lookOf([{ trait: 'plate', settings: { plate: plate.key, mode: 'normal', fit: 'stretch' } }]));
    const { id } = await printOf(shot);
    expect(await under.printEnd(id)).toMatchObject({ state: 'done', error: null });
    const bytes = Buffer.from(await (await fetch(`${under.address}/api/prints/${id}/file`)).arrayBuffer());
    const picture = execFileSync('ffmpeg', ['-v', 'error', '-i', 'pipe:0', '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'rgb24', 'pipe:1'], { input: bytes });
    const left = picture.subarray((27 * 96 + 10) * 3, (27 * 96 + 11) * 3);
    expect([left[0]! > 235, left[1]! < 20, left[2]! < 20]).toEqual([true, true, true]);
    const right = picture.subarray((27 * 96 + 80) * 3, (27 * 96 + 81) * 3);
    expect([...right]).not.toEqual([...left]);
  });

  test('is renamed and deleted; a look that names it still opens, its print says what is lacking', async () => {
    const [plate] = await plates();
    expect((await call('PATCH', `/plates/${plate.id}`, { name: 'Left half' })).body.name).toBe('Left half');
    const shot = await shotWith(lookOf([{ trait: 'plate', settings: { plate: plate.key } }]));
    expect((await call('DELETE', `/plates/${plate.id}`)).status).toBe(204);
    expect((await call('GET', `/media/${plate.medium.id}`)).status).toBe(404);
    expect((await call('GET', `/shots/${shot.id}`)).body.look.lives[0].traits[0].settings.plate).toBe(plate.key);
    const { id } = await printOf(shot);
    expect(await under.printEnd(id)).toMatchObject({ state: 'failed', bytes: null, error: expect.stringContaining(`a plate of the look is not here: ${plate.key}`) });
    // The same file brought again is found by the look.
    await under.send(await halfRed(), { filename: 'again.png', as: 'plate' });
    await plates();
    const again = await printOf(shot);
    expect((await under.printEnd(again.id)).state).toBe('done');
  });

  test('that a print under way needs stays till it is done', async () => {
    const [plate] = await plates();
    const reel = await under.newReel();
    await under.send(await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=25:d=20', '-preset', 'ultrafast'], 'long.mp4'), { reel, filename: 'long.mp4' });
    const [shot] = await under.settled(reel);
    await call('PUT', `/shots/${shot.id}/look`, { look: lookOf([{ trait: 'plate', settings: { plate: plate.key } }, { trait: 'grain' }]), revision: shot.revision });
    const { body: print } = await call('POST', '/prints', { shotId: shot.id, format: 'mp4' });
    const refused = await call('DELETE', `/plates/${plate.id}`);
    expect([refused.status, refused.body.error.code, refused.body.error.message]).toEqual([409, 'wrong-state', expect.stringContaining('needs this plate')]);
    await call('POST', `/prints/${print.id}/stop`);
    expect((await call('DELETE', `/plates/${plate.id}`)).status).toBe(204);
  });

  test('images sent one by one become one plate, which the same images brought again become again', async () => {
    const image = (n: number): Promise<Buffer> =>
      under.clip(['-f', 'lavfi', '-i', `color=c=0x${(40 * n).toString(16).padStart(2, '0').repeat(3)}:s=64x36`, '-frames:v', '1'], `dust-${n}.png`);
    const images = await Promise.all([1, 2, 3].map(image));
    const bring = async (): Promise<Answer['body']> => {
      const uploads: string[] = [];
      for (const n of [3, 1, 2]) uploads.push(await under.send(images[n - 1]!, { filename: `dust-${n}.png` }));
      const { status, body } = await call('POST', '/uploads/sequence', { reel: null, name: 'dust', uploads });
      expect([status, body.shot]).toEqual([201, null]);
      return (await plates()).find((plate) => plate.medium.id === body.medium);
    };
    const plate = await bring();
    expect(plate).toMatchObject({ key: sha(Buffer.concat(images)), name: 'dust', medium: { footage: { kind: 'sequence', frames: 3 } } });
    // In the order of their numbers: each is brighter than the one before.
    expect(plate.light[0]).toBeLessThan(plate.light[1]);
    expect(plate.light[1]).toBeLessThan(plate.light[2]);
    expect((await call('DELETE', `/plates/${plate.id}`)).status).toBe(204);
    const again = await bring();
    expect(again.key).toBe(plate.key);
    expect((await call('DELETE', `/plates/${again.id}`)).status).toBe(204);
  });

  test('a file without a picture fails and says why, and can be deleted', async () => {
    await under.send(Buffer.from('no picture at all'), { filename: 'words.png', as: 'plate' });
    const [plate] = await plates();
    expect(plate).toMatchObject({ key: null, medium: { state: 'failed', error: expect.any(String) } });
    expect((await call('DELETE', `/plates/${plate.id}`)).status).toBe(204);
  });
});

describe('fonts', () => {
  const post = (bytes: Buffer, name: string): Promise<Response> =>
    fetch(`${under.address}/api/fonts?name=${encodeURIComponent(name)}`, { method: 'POST', body: new Uint8Array(bytes), headers: { 'content-type': 'application/octet-stream' } });
  const aFont = (): Promise<Buffer> => readFile(createRequire(import.meta.url).resolve(shippedFonts.find(({ id }) => id === 'wide')!.file));

  test('those that ship are listed first, with the characters they have', async () => {
    const { body } = await call('GET', '/fonts');
    expect(body.slice(0, shippedFonts.length).map((font: Answer['body']) => font.id)).toEqual(shippedFonts.map(({ id }) => id));
    expect(body[0].characters).toContain('U+20-7E');
    expect((await call('GET', '/fonts/nothing')).status).toBe(404);
  });

  test('one’s own is kept by the hash of its file, once, and drawn in a print', async () => {
    const bytes = await aFont();
    const first = await (await post(bytes, '../own.woff')).json();
    expect(first).toMatchObject({ id: sha(bytes), name: 'own.woff', shipped: false });
    await post(bytes, 'again.woff');
    expect((await call('GET', '/fonts')).body.filter((font: Answer['body']) => font.id === first.id)).toHaveLength(1);
    expect(Buffer.from(await (await fetch(`${under.address}/api/fonts/${first.id}`)).arrayBuffer()).equals(bytes)).toBe(true);
    const shot = await shotWith(lookOf([{ trait: 'caption', settings: { text: 'OWN', font: first.id } }]));
    expect((await under.printEnd((await printOf(shot)).id)).state).toBe('done');
    const lost = await shotWith(lookOf([{ trait: 'caption', settings: { text: 'LOST', font: 'f'.repeat(64) } }]));
    expect(await under.printEnd((await printOf(lost)).id)).toMatchObject({ state: 'failed', error: expect.stringContaining('a font of the look is not here') });
  });

  test.each([
    ['cut short', async () => (await aFont()).subarray(0, 3000), /not whole/],
    ['no font', async () => Buffer.from('no font at all'), /cannot be read as TTF, OTF or WOFF/],
    ['a WOFF2', async () => Buffer.from('wOF2............'), /WOFF2/],
    ['empty', async () => Buffer.alloc(0), /cannot be read|not whole/],
  ])('one that is %s is refused with the reason', async (_, make, reason) => {
    const answer = await post(await make(), 'bad.ttf');
    expect(answer.status).toBe(400);
    expect((await answer.json()).error).toMatchObject({ code: 'unusable-file', message: expect.stringMatching(reason) });
  });
});
