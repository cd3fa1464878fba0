/** The stand-in of a bucket, for tests; it brings no types of its own. */
declare module 's3rver' {
  export default class S3rver {
    constructor(options: { address: string; port: number; silent: boolean; directory: string; configureBuckets: { name: string; configs: unknown[] }[] });
    run(): Promise<unknown>;
    close(): Promise<void>;
  }
}
