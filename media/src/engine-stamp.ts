import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { codingsText } from './codings';
import { containersText } from './containers';
import { run } from './process';

const locate = createRequire(import.meta.url);
let stamp: Promise<string> | undefined;

/** Names what makes the pictures of a print and codes them: kernels, render threads, how each coding is made, and the version of ffmpeg. Where it is the same, prints are the same. */
export function engineStamp(): Promise<string> {
  stamp ??= (async () => {
    const files = ['@tin-ghost/core/kernels.wasm', '@tin-ghost/media/render-worker'].map((name) => readFile(locate.resolve(name)));
    const { printed } = await run('ffmpeg', ['-version']);
    const hash = createHash('sha256');
    for (const part of [...(await Promise.all(files)), codingsText() + containersText(), printed]) hash.update(part);
    return hash.digest('hex').slice(0, 16);
  })();
  return stamp;
}
