import { createReadStream, createWriteStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { Readable } from 'node:stream';
import type { S3Client, S3ServiceException } from '@aws-sdk/client-s3';
import { partPlace, systemReason, WorkError } from '@tin-ghost/media';
import { StoreAwayError } from './away';

// It takes a fifth of a second and much memory: only where there is a bucket.
const loadClient = async () => ({ ...(await import('@aws-sdk/client-s3')), Upload: (await import('@aws-sdk/lib-storage')).Upload });
type Sdk = Awaited<ReturnType<typeof loadClient>>;

/** How long an answer may be waited for. */
const PATIENCE_MS = 20_000;

/** An S3-compatible bucket, or a part of it: files by their keys, as folders have them. What it holds is whole: an object appears when all of it has been sent. */
export class Bucket {
  private constructor(
    private readonly sdk: Sdk,
    private readonly client: S3Client,
    private readonly name: string,
    private readonly prefix: string,
  ) {}

  /**
   * @param address `s3://bucket/prefix?endpoint=https://host:port&region=name`; prefix and query may be left out. Keys come from the environment, as the client's
   * usual chain has it (AWS_ACCESS_KEY_ID, AWS_SECRET_ACCESS_KEY).
   * @throws Error where it is no such address
   */
  static async at(address: string): Promise<Bucket> {
    const url = URL.canParse(address) ? new URL(address) : undefined;
    const unknown = url && [...url.searchParams.keys()].find((key) => key !== 'endpoint' && key !== 'region');
    if (url?.protocol !== 's3:' || !url.hostname || unknown !== undefined)
      throw new Error(`"${address}" is no store: a bucket is written as s3://name/prefix?endpoint=https://host:port&region=name`);
    // It advises a newer Node than the one this version is chosen for, to whoever starts a worker.
    process.env.AWS_SDK_JS_NODE_VERSION_SUPPORT_WARNING_DISABLED ??= 'true';
    const endpoint = url.searchParams.get('endpoint') ?? undefined;
    const sdk = await loadClient();
    const client = new sdk.S3Client({
      endpoint,
      region: url.searchParams.get('region') ?? process.env.AWS_REGION ?? 'us-east-1',
      // Other makes than the first are asked by path, not by a name of each bucket's own.
      forcePathStyle: endpoint !== undefined,
      maxAttempts: 2,
      requestHandler: { connectionTimeout: 5000, requestTimeout: PATIENCE_MS },
      // Not all of them know the newer sums; those of the transport remain.
      requestChecksumCalculation: 'WHEN_REQUIRED',
      responseChecksumValidation: 'WHEN_REQUIRED',
    });
    const path = url.pathname.replace(/^\/+|\/+$/g, '');
    return new Bucket(sdk, client, url.hostname, path && `${path}/`);
  }

  /** Sends a file. */
  async put(key: string, file: string): Promise<void> {
    // Read first: a file that is not there is no fault of the store.
    await stat(file);
    await this.asked(() => new this.sdk.Upload({ client: this.client, params: { Bucket: this.name, Key: this.prefix + key, Body: createReadStream(file) } }).done());
  }

  /** Fetches a file, which appears whole or not at all. @returns false where there is none of this key */
  async get(key: string, file: string): Promise<boolean> {
    const answer = await this.asked(() => this.client.send(new this.sdk.GetObjectCommand({ Bucket: this.name, Key: this.prefix + key }))).catch((error: unknown) => {
      if (this.isAnswer(error) && (error.name === 'NoSuchKey' || error.$metadata.httpStatusCode === 404)) return undefined;
      throw error;
    });
    if (!answer) return false;
    const place = await partPlace(file);
    try {
      await this.asked(() => pipeline(answer.Body as Readable, createWriteStream(place.file)));
      await place.keep();
    } catch (error) {
      await place.discard();
      throw error;
    }
    return true;
  }

  /** Keys that begin with a word. */
  async list(beginning: string): Promise<string[]> {
    const keys: string[] = [];
    let next: string | undefined;
    do {
      const page = await this.asked(() => this.client.send(new this.sdk.ListObjectsV2Command({ Bucket: this.name, Prefix: this.prefix + beginning, ContinuationToken: next })));
      keys.push(...(page.Contents ?? []).map(({ Key }) => Key!.slice(this.prefix.length)));
      next = page.NextContinuationToken;
    } while (next);
    return keys;
  }

  /** Removes all keys that begin with a word. */
  async remove(beginning: string): Promise<void> {
    const keys = await this.list(beginning);
    for (let i = 0; i < keys.length; i += DELETED_AT_ONCE) {
      const Objects = keys.slice(i, i + DELETED_AT_ONCE).map((key) => ({ Key: this.prefix + key }));
      await this.asked(() => this.client.send(new this.sdk.DeleteObjectsCommand({ Bucket: this.name, Delete: { Objects, Quiet: true } })));
    }
  }

  private isAnswer(error: unknown): error is S3ServiceException {
    return error instanceof this.sdk.S3ServiceException;
  }

  /** @throws StoreAwayError for whatever is no answer of the store's and no fault of this machine's disk */
  private async asked<T>(ask: () => Promise<T>): Promise<T> {
    try {
      return await ask();
    } catch (error) {
      if (this.isAnswer(error) && (error.$metadata.httpStatusCode ?? 500) < 500) {
        if (error.$metadata.httpStatusCode === 404 && error.name !== 'NoSuchBucket') throw error;
        throw new WorkError(`the store refuses: ${error.name}`, error.message);
      }
      if (['the disk is full', 'the disk gave an error', 'permission was denied'].includes(systemReason(error) ?? '')) throw error;
      throw new StoreAwayError();
    }
  }
}

/** The most that the protocol takes. */
const DELETED_AT_ONCE = 1000;
