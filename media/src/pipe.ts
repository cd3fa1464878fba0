import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { closeSync, constants, openSync, unlinkSync } from 'node:fs';
import { Socket, type OnReadOpts, type SocketConstructorOpts } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { WorkError } from './errors';

/** Blocks that are read before they are asked for. */
const AHEAD = 2;

/** The end of a pipe at which a program writes, and the end at which it is read. */
export interface Pipe {
  /** File descriptor that is given to the program; closed by `read` and `close`. */
  readonly input: number;
  /**
   * What the program writes, in blocks, to its end; what does not fill the last one is left out.
   * @param take gives the memory of a block @param moved told whenever something came
   */
  read(take: () => Uint8Array, moved: () => void): AsyncGenerator<Uint8Array, void, void>;
  /** Where it is not read. */
  close(): void;
}

/**
 * Opens a pipe that is read straight into memory of one's own. Streams of Node read into pieces of their own, sixty for a picture of 1080 lines: each has to be copied, and
 * together they have all memory of a process searched for what is no longer used, several times a second.
 * @param folder in which it stands for a moment
 * @throws WorkError where none can be made
 */
export async function openPipe(folder = tmpdir()): Promise<Pipe> {
  const path = join(folder, `tin-ghost-${randomUUID()}.pipe`);
  await promisify(execFile)('mkfifo', ['-m', '600', path]).catch(() => {
    throw new WorkError('the folder for temporary files cannot be written to');
  });
  let output = -1;
  let input = -1;
  try {
    // Whoever opens an end waits for the other one, but for a reader that does not.
    output = openSync(path, constants.O_RDONLY | constants.O_NONBLOCK);
    input = openSync(path, constants.O_WRONLY);
  } catch (error) {
    if (output >= 0) closeSync(output);
    throw error;
  } finally {
    unlinkSync(path);
  }
  return {
    input,
    read(take, moved) {
      // The program has it now: when that ends, nobody writes any more.
      closeSync(input);
      return blocks(output, take, moved);
    },
    close() {
      closeSync(input);
      closeSync(output);
    },
  };
}

async function* blocks(output: number, take: () => Uint8Array, moved: () => void): AsyncGenerator<Uint8Array, void, void> {
  const ready: Uint8Array[] = [];
  let block = take();
  let filled = 0;
  let over = false;
  let wake = (): void => undefined;
  const options: SocketConstructorOpts & { readonly onread: OnReadOpts } = {
    fd: output,
    readable: true,
    writable: false,
    onread: {
      buffer: () => block.subarray(filled),
      callback(bytes) {
        moved();
        filled += bytes;
        if (filled < block.length) return true;
        ready.push(block);
        [block, filled] = [take(), 0];
        wake();
        return ready.length < AHEAD;
      },
    },
  };
  const socket = new Socket(options);
  const end = (): void => {
    over = true;
    wake();
  };
  // How the program ended is told by the program.
  socket.on('end', end).on('error', end).on('close', end);
  try {
    for (;;) {
      const next = ready.shift();
      if (next) {
        if (ready.length < AHEAD) socket.resume();
        yield next;
      } else if (over) return;
      else await new Promise<void>((resolve) => (wake = resolve));
    }
  } finally {
    socket.destroy();
  }
}
