import { closeSync, readdirSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { expect, test } from '@jest/globals';
import { openPipe } from './pipe';
import { start, type Child } from './process';

/** Starts a shell that writes into a pipe. */
async function written(script: string, bytes: number): Promise<{ child: Child; blocks: AsyncGenerator<Uint8Array, void, void>; moved: () => number }> {
  const pipe = await openPipe();
  const child = start('sh', ['-c', script], { output: pipe.input });
  let moved = 0;
  const blocks = pipe.read(
    () => new Uint8Array(bytes),
    () => void moved++,
  );
  return { child, blocks, moved: () => moved };
}

const all = async (blocks: AsyncIterable<Uint8Array>): Promise<Uint8Array[]> => {
  const out: Uint8Array[] = [];
  for await (const block of blocks) out.push(block);
  return out;
};
const openFiles = (): number => readdirSync('/proc/self/fd').length;

test('what is written comes in blocks, in order, whatever pieces it came in; what does not fill the last is left out', async () => {
  const { child, blocks, moved } = await written('for i in $(seq 0 5000); do printf "%07d\\n" $i; done', 10_000);
  const read = await all(blocks);
  await child.done;
  expect(read).toHaveLength(4);
  const text = Buffer.concat(read).toString();
  expect(text).toBe(
    Array.from({ length: 5001 }, (_, i) => `${String(i).padStart(7, '0')}\n`)
      .join('')
      .slice(0, 40_000),
  );
  expect(moved()).toBeGreaterThan(1);
});

test('a reader that takes its time gets it all, and the program waits for it', async () => {
  const { child, blocks } = await written('head -c 4000000 /dev/zero', 1_000_000);
  let ended = false;
  void child.done.then(() => (ended = true));
  const first = await blocks.next();
  expect((first.value as Uint8Array).length).toBe(1_000_000);
  await pause(300);
  // Three blocks and what a pipe holds are under way at the most.
  expect(ended).toBe(false);
  expect(await all(blocks)).toHaveLength(3);
  await child.done;
});

test('nothing written is no block, and a program that cannot start leaves nothing open', async () => {
  const before = openFiles();
  const { child, blocks } = await written('exit 3', 100);
  expect(await all(blocks)).toHaveLength(0);
  await expect(child.done).rejects.toThrow();
  const pipe = await openPipe();
  pipe.close();
  await pause(50);
  expect(openFiles()).toBe(before);
});

test('who stops reading ends the program', async () => {
  const { child, blocks } = await written('cat /dev/zero', 1000);
  for await (const block of blocks) {
    expect(block[0]).toBe(0);
    break;
  }
  await expect(child.done).rejects.toThrow();
});

test('stands under no name once it is open', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-pipe-'));
  try {
    const pipe = await openPipe(folder);
    expect(readdirSync(folder)).toHaveLength(0);
    pipe.close();
    expect(() => closeSync(pipe.input)).toThrow('EBADF');
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});

test('where none can be made it says so', async () => {
  const before = openFiles();
  await expect(openPipe('/proc/nowhere')).rejects.toThrow('the folder for temporary files cannot be written to');
  expect(openFiles()).toBe(before);
});
