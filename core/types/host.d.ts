// What the package takes from where it runs, Node and browsers alike: no more than this. (The types of either are left out of its own check.)
declare namespace WebAssembly {
  class Module {
    private readonly module: unknown;
  }
  class Memory {
    readonly buffer: ArrayBuffer;
    grow(pages: number): number;
  }
  interface Instance {
    readonly exports: Record<string, unknown>;
  }
  function compile(bytes: BufferSource): Promise<Module>;
  function instantiate(module: Module, imports?: object): Promise<Instance>;
}
type BufferSource = ArrayBuffer | ArrayBufferView<ArrayBuffer>;

declare class URL {
  constructor(url: string, base: string);
  readonly protocol: string;
}
declare function fetch(url: URL): Promise<{ readonly ok: boolean; readonly status: number; arrayBuffer(): Promise<ArrayBuffer> }>;
interface ImportMeta {
  readonly url: string;
}
