import { CustomSource, EncodedPacketSink, Input, MP4 } from 'mediabunny';
import { splitPlanes, type Encoding, type RawFrame } from '@tin-ghost/core';
import type { Proxy } from './protocol';
import { texts } from '../messages/render';

/** What every proxy is coded in; see the server's intake. */
const PROXY_ENCODING: Encoding = { layout: 'yuv', bits: 8, subX: 1, subY: 1, matrix: 'bt709', range: 'limited' };
const KEPT_PICTURES = 12;

/** Takes single pictures out of an all-intra proxy: any one, at once, as the planes the decoder made. */
export class ProxyReader {
  private readonly kept = new Map<number, RawFrame>();
  private opened: Promise<{ sink: EncodedPacketSink; decoder: VideoDecoder }> | undefined;
  private got: ((frame: VideoFrame) => void) | undefined;
  private failed: ((error: Error) => void) | undefined;
  private turn: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly source: Proxy,
    private readonly rate: number,
  ) {}

  /** Picture `n`. Throws Error where the proxy cannot be fetched or decoded. */
  read(n: number): Promise<RawFrame> {
    const known = this.kept.get(n);
    if (known) return Promise.resolve(known);
    const next = this.turn.then(() => this.kept.get(n) ?? this.decode(n));
    this.turn = next.catch(() => undefined);
    return next;
  }

  close(): void {
    void this.opened?.then(({ decoder }) => decoder.state !== 'closed' && decoder.close()).catch(() => undefined);
  }

  private open() {
    this.opened ??= this.start();
    this.opened.catch(() => {
      this.opened = undefined;
    });
    return this.opened;
  }

  private async start() {
    const input = new Input({ source: proxySource(new URL(`/api/media/${this.source.mediaId}/proxy`, self.location.origin).href), formats: [MP4] });
    const track = await input.getPrimaryVideoTrack();
    const config = await track?.getDecoderConfig();
    if (!track || !config) throw new Error(texts.previewCannotBeDecoded);
    const decoder = new VideoDecoder({
      output: (frame) => (this.got ? this.got(frame) : frame.close()),
      error: (error) => {
        this.opened = undefined;
        this.failed?.(error);
      },
    });
    decoder.configure({ ...config, optimizeForLatency: true });
    return { sink: new EncodedPacketSink(track), decoder };
  }

  private async decode(n: number): Promise<RawFrame> {
    const { sink, decoder } = await this.open();
    // The middle of the picture's time, clear of rounding at its ends.
    const packet = await sink.getPacket((n + 0.5) / this.rate);
    if (!packet) throw new Error(texts.previewHasNoPicture(n));
    const frame = await new Promise<VideoFrame>((resolve, reject) => {
      this.got = resolve;
      this.failed = reject;
      decoder.decode(packet.toEncodedVideoChunk());
      decoder.flush().catch(reject);
    });
    this.got = undefined;
    try {
      const raw = await planesOf(frame, this.source);
      this.kept.set(n, raw);
      if (this.kept.size > KEPT_PICTURES) this.kept.delete(this.kept.keys().next().value!);
      return raw;
    } finally {
      frame.close();
    }
  }
}

/** So much of a proxy is asked for at once, and tells its size: its index and its first pictures are in it. */
const BEGINNING = 512 * 1024;

/**
 * The bytes of a proxy, each range asked for and taken whole. A response that is left half-read holds its connection, and a
 * browser opens six to a server at most: several workers would leave none for the page.
 */
function proxySource(url: string): CustomSource {
  const range = async (start: number, end: number): Promise<Response> => {
    const response = await fetch(url, { headers: { range: `bytes=${start}-${end - 1}` } });
    if (response.status !== 206) throw new Error(texts.previewCannotBeFetched);
    return response;
  };
  const bytesOf = async (response: Response): Promise<Uint8Array> => new Uint8Array(await response.arrayBuffer());
  const beginning = range(0, BEGINNING).then(async (response) => ({
    size: Number(response.headers.get('content-range')!.split('/')[1]),
    bytes: await bytesOf(response),
  }));
  return new CustomSource({
    getSize: async () => (await beginning).size,
    async read(start, end) {
      const { bytes } = await beginning;
      return end <= bytes.length ? bytes.slice(start, end) : bytesOf(await range(start, end));
    },
    prefetchProfile: 'network',
  });
}

async function planesOf(frame: VideoFrame, { width, height }: Proxy): Promise<RawFrame> {
  const data = new Uint8Array(frame.allocationSize());
  await frame.copyTo(data);
  if (frame.format === 'I420') return splitPlanes(data, width, height, PROXY_ENCODING);
  if (frame.format !== 'NV12') throw new Error(texts.browserDecodesTo(frame.format ?? texts.unknownLayout));
  // Cb and Cr side by side: parted into planes.
  const chroma = ((width + 1) >> 1) * ((height + 1) >> 1);
  const planar = new Uint8Array(data.length);
  planar.set(data.subarray(0, width * height));
  for (let i = 0; i < chroma; i++) {
    planar[width * height + i] = data[width * height + 2 * i]!;
    planar[width * height + chroma + i] = data[width * height + 2 * i + 1]!;
  }
  return splitPlanes(planar, width, height, PROXY_ENCODING);
}
