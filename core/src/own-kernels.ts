interface Node {
  getBuiltinModule?(name: 'node:fs'): { readFileSync(path: URL): Uint8Array<ArrayBuffer> };
}

/** The kernels that lie beside this package: read in Node, fetched in a browser. @throws Error where they are not there */
export async function ownKernels(): Promise<Uint8Array<ArrayBuffer>> {
  const url = new URL('../dist/kernels.wasm', import.meta.url);
  if (url.protocol === 'file:') {
    const files = (globalThis as { process?: Node }).process?.getBuiltinModule?.('node:fs');
    if (!files) throw new Error('the kernels cannot be read here; give their bytes to Engine.create');
    return files.readFileSync(url);
  }
  const answer = await fetch(url);
  if (!answer.ok) throw new Error(`the kernels could not be fetched: the server answered ${answer.status}`);
  return new Uint8Array(await answer.arrayBuffer());
}
