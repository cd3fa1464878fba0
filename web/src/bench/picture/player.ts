import { heldPicture, resolveLook, type Look, type ResolvedUse } from '@tin-ghost/core';
import { preview } from '../../render/preview';
import type { Source, Want, Worn } from '../../render/protocol';
import type { Other } from '../state/compare';
import type { FrameRange, PlayerReport } from '../state/playback';

/** Widths that are tried while playing, the finest first. */
const WIDTHS = [960, 720, 480, 320];
const MEMORY_BYTES = 320 * 1024 * 1024;
const bytesOf = ({ worn, other }: Pair): number => worn.pixels.byteLength + (worn.clean?.pixels.byteLength ?? 0) + (other?.pixels.byteLength ?? 0);
/** Pictures kept ready ahead of the one shown. */
const AHEAD = 10;
/** Pictures by whose time the size is judged. */
const JUDGED = 6;
/** Share of the workers' time that may be spent on pictures; the rest is for decoding and for the page. */
const SPENT = 0.7;
/** A picture may come this late before it counts as a stall, and so much is made good, in picture times. */
const PATIENCE = 0.5;
/** So many late pictures, each made good by ten that are not, are too many. */
const STALLS = 5;
/** A smaller size is kept at least so long before a larger one is tried, and that only so many times. */
const RISE_MS = 2500;
const MOST_RISES = 2;
/** A smaller size is worth it where its pictures take no more than this share of the larger ones' time. */
const WORTH = 0.75;
/** A size left in haste, as while kernels were being compiled, is tried again where its pictures took no more than so much of the time there is. */
const HASTE = 1.5;
/** Time in which lateness does not count. */
const WARM_UP_MS = 1200;
/** A picture may have to wait so long for the screen. */
const SCREEN_MS = 16;
/** The rate is told no oftener than this. */
const REPORT_MS = 400;

/** In draft it is played no wider than this, and of so many pictures the first stands for all. */
export const DRAFT = { width: 480, pictures: 2 };

/** A picture, and the one it is compared with. */
export interface Pair {
  readonly worn: Worn;
  readonly other: Worn | null;
}

/** What is asked for with each picture. */
export type Asked = Pick<Want, 'scope' | 'clean'>;

/**
 * Plays a look over a shot: asks the workers for the pictures to come, keeps those done within a memory limit (so that a
 * loop costs nothing the second time), and lowers the size when the rate cannot be kept.
 */
export class Player {
  private readonly ready = new Map<number, Pair>();
  private readonly under = new Set<number>();
  private bytes = 0;
  private widthIndex = 0;
  private widest = 0;
  private running = false;
  private clock = 0;
  private at = 0;
  private stalls = 0;
  /** Whether the picture that is due was looked for and not there. */
  private missed = false;
  private shownAt: number[] = [];
  private generation = 0;
  private draft = false;
  private uses: readonly ResolvedUse[];
  private share: number | undefined;
  private resizedAt = 0;
  private rises = MOST_RISES;
  private loop = 0;
  private excused = false;
  /** What was played at before it was made smaller, until it is known whether that is worth it; and whether it was not: a line raster is as large at any size. */
  private larger: { readonly index: number; readonly typical: number } | null = null;
  private worthless = false;
  /** The size that was left first, until it is known whether that was in haste. */
  private left: number | null = null;
  private tried = false;
  /** Milliseconds that the newest pictures took at this size. */
  private took: number[] = [];
  private startedAt = 0;
  private reportedAt = 0;

  constructor(
    private readonly source: Source,
    private look: Look,
    private range: FrameRange,
    private other: Other | null,
    private asked: Asked,
    private readonly events: { onFrame: (n: number, pair: Pair) => void; onReady: (frames: ReadonlySet<number>) => void; onReport: (report: PlayerReport) => void },
  ) {
    this.uses = resolveLook(look);
  }

  /**
   * Another look or range; what was rendered for the old look is dropped.
   * @param widest width to play at if the rate allows, where it is more than the preview's own, as when it is seen at 1:1
   * @param draft plays small, and every second picture alone
   */
  change(look: Look, range: FrameRange, other: Other | null, asked: Asked, widest = 0, draft = false): void {
    // Of a whole clean picture any line can be read.
    const lacking = asked.scope !== this.asked.scope || (asked.clean !== this.asked.clean && asked.clean !== null && this.asked.clean !== 'all');
    if (look !== this.look || other !== this.other || lacking || widest !== this.widest || draft !== this.draft) this.drop();
    if (look !== this.look) [this.larger, this.worthless] = [null, false];
    if (widest !== this.widest || draft !== this.draft) [this.widthIndex, this.larger, this.worthless, this.left] = [0, null, false, null];
    this.widest = widest;
    this.draft = draft;
    if (look !== this.look) this.uses = resolveLook(look);
    this.share = undefined;
    this.look = look;
    this.range = range;
    this.other = other;
    this.asked = asked;
  }

  start(from: number): void {
    this.at = Math.max(this.range.from, Math.min(this.range.to - 1, from));
    this.running = true;
    this.clock = performance.now();
    this.startedAt = this.clock;
    this.reportedAt = this.clock;
    this.shownAt = [];
    this.stalls = 0;
    this.missed = false;
    this.rises = MOST_RISES;
    this.excused = false;
    this.worthless = false;
    [this.left, this.tried] = [null, false];
    this.fill();
    this.next(++this.loop);
  }

  stop(): void {
    this.running = false;
  }

  /** Stops for good: what is still being worn is told to nobody. */
  leave(): void {
    this.stop();
    this.drop();
  }

  get width(): number {
    return this.sizeOf(this.source).width;
  }

  private get size(): { width: number; height: number } {
    return this.sizeOf(this.source);
  }

  private sizeOf(source: Source): { width: number; height: number } {
    const width = Math.min(Math.max(source.width, this.widest), this.widths[this.widthIndex]!);
    return { width, height: Math.max(2, Math.round((source.height * width) / source.width / 2) * 2) };
  }

  private drop(): void {
    this.generation++;
    this.took = [];
    this.ready.clear();
    this.under.clear();
    this.bytes = 0;
    this.events.onReady(new Set());
  }

  private after(n: number, steps = 1): number {
    const length = this.range.to - this.range.from;
    return this.range.from + ((((n - this.range.from + steps) % length) + length) % length);
  }

  private fill(): void {
    const workers = preview();
    for (let i = 0; i < Math.min(AHEAD, this.range.to - this.range.from) && workers.load < workers.size * 2; i++) {
      const n = this.after(this.at, i);
      if (this.ready.has(n) || this.under.has(n)) continue;
      // A picture that is held is worn once; what it is compared with goes on.
      const held = this.heldAt(n);
      if (held !== n && this.ready.has(held)) {
        this.hold(n, this.ready.get(held)!, true);
        continue;
      }
      if (held !== n && this.under.has(held)) continue;
      this.under.add(n);
      const { generation } = this;
      void this.pair(n).then(
        (pair) => {
          if (generation !== this.generation) return;
          this.under.delete(n);
          this.hold(n, pair);
          if (this.running) this.fill();
        },
        () => this.under.delete(n),
      );
    }
  }

  /** The picture that stands for another, as nothing or too little has changed since. */
  private heldAt(n: number): number {
    const { from } = this.range;
    const own = this.draft ? n - ((n - from) % DRAFT.pictures) : n;
    return this.other ? own : Math.max(from, heldPicture(this.look, own, this.source.rate, this.uses));
  }

  private async pair(n: number): Promise<Pair> {
    const workers = preview();
    const { other } = this;
    const [worn, second] = await Promise.all([
      workers.wear(this.source, n, this.look, this.size, this.asked),
      other ? workers.wear(other.source, n % other.source.frames, other.look, this.sizeOf(other.source)) : null,
    ]);
    return { worn, other: second };
  }

  private hold(n: number, pair: Pair, again = false): void {
    this.ready.set(n, pair);
    this.bytes += bytesOf(pair);
    if (!again) {
      this.took = [...this.took.slice(1 - JUDGED), pair.worn.milliseconds + pair.worn.counting + (pair.other?.milliseconds ?? 0)];
      this.weigh();
    }
    // What lies farthest ahead in the loop is needed last.
    while (this.bytes > MEMORY_BYTES) {
      const far = [...this.ready.keys()].reduce((a, b) => (this.after(b, -this.at) > this.after(a, -this.at) ? b : a));
      this.bytes -= bytesOf(this.ready.get(far)!);
      this.ready.delete(far);
    }
    this.events.onReady(this.frames());
  }

  private frames(): ReadonlySet<number> {
    return new Set(this.ready.keys());
  }

  /** Comes back when the next picture is due, and not sooner: each time the screen asks, the page is gone through. */
  private next(loop: number): void {
    const wait = this.clock - performance.now() - SCREEN_MS;
    const ask = (): void => void requestAnimationFrame(() => this.tick(loop));
    if (wait > SCREEN_MS / 2) setTimeout(ask, wait);
    else ask();
  }

  private tick(loop: number): void {
    // A later start has its own loop.
    if (!this.running || loop !== this.loop) return;
    const now = performance.now();
    const period = 1000 / this.source.rate;
    if (now >= this.clock) {
      const pair = this.ready.get(this.at);
      if (pair) {
        this.events.onFrame(this.at, pair);
        this.shownAt.push(now);
        this.at = this.after(this.at);
        const late = now - this.clock;
        // A page that is slow to ask shows pictures late, yet as many; what is lost beyond that is given up.
        this.clock = Math.max(this.clock + period, now + period * (1 - PATIENCE));
        // A smaller size helps only where the picture was not there. The first second pays for starting: kernels are compiled, plans are made.
        if (this.missed && late > period * PATIENCE && now - this.startedAt > WARM_UP_MS) this.stalls++;
        else this.stalls = Math.max(0, this.stalls - 0.1);
      }
      this.missed = !pair;
      this.fill();
      this.judge(now);
    }
    this.next(loop);
  }

  private judge(now: number): void {
    while (this.shownAt.length && now - this.shownAt[0]! > 1000) this.shownAt.shift();
    if (now - this.reportedAt > REPORT_MS) {
      this.reportedAt = now;
      const [first] = this.shownAt;
      const shown = first === undefined ? 0 : Math.round((1000 * (this.shownAt.length - 1)) / Math.max(1, now - first));
      this.events.onReport({ shown, width: this.width });
    }
    if (this.stalls > STALLS && this.smaller.length > 0 && !this.worthless) {
      this.stalls = 0;
      // A machine may hesitate once though it keeps up.
      if (this.keepsUp(this.widthIndex, 1) && !this.excused) this.excused = true;
      else this.resize(this.smaller.find((i) => this.keepsUp(i, SPENT)) ?? this.smaller.at(-1)!, now);
    } else if (this.widthIndex > 0 && this.rises > 0 && now - this.resizedAt > RISE_MS) {
      if (this.keepsUp(this.widthIndex - 1, SPENT)) {
        this.rises--;
        this.resize(this.widthIndex - 1, now);
      } else if (this.left !== null && !this.tried && this.keepsUp(this.widthIndex, SPENT)) {
        this.tried = true;
        this.resize(this.left, now);
      }
    }
  }

  /** Goes back to the larger size where the smaller one has not made it quicker. */
  private weigh(): void {
    const { larger, typical } = this;
    if (!larger || typical === undefined) return;
    this.larger = null;
    if (typical <= WORTH * larger.typical) return;
    this.worthless = true;
    this.resize(larger.index, performance.now());
  }

  /** Milliseconds that a picture takes at this size, once enough are known. */
  private get typical(): number | undefined {
    return this.took.length < JUDGED ? undefined : [...this.took].sort((a, b) => a - b)[JUDGED >> 1];
  }

  private resize(index: number, now: number): void {
    const { typical } = this;
    if (index > this.widthIndex && this.left === null && typical !== undefined && typical <= HASTE * this.budget) this.left = this.widthIndex;
    this.larger = index > this.widthIndex && typical !== undefined ? { index: this.widthIndex, typical } : null;
    this.widthIndex = index;
    this.resizedAt = now;
    this.excused = false;
    this.drop();
    this.fill();
  }

  /** Whether the workers should keep up at a width, by what the newest pictures took at this one. @param share of their time that may be spent */
  private keepsUp(index: number, share: number): boolean {
    const { typical } = this;
    if (typical === undefined) return false;
    return typical * (Math.min(this.most, this.widths[index]!) / this.width) ** 2 <= this.budget * share;
  }

  /** Milliseconds that the workers together have for a picture. */
  private get budget(): number {
    return ((1000 / this.source.rate) * preview().size) / this.wornShare;
  }

  /** Places of the smaller widths that there are for this shot. */
  private get smaller(): number[] {
    return this.widths.flatMap((width, i) => (i > this.widthIndex && this.most > width ? [i] : []));
  }

  private get most(): number {
    return Math.max(this.source.width, this.widest);
  }

  private get widths(): readonly number[] {
    if (this.draft) return WIDTHS.filter((width) => width <= DRAFT.width);
    return this.most > WIDTHS[0]! ? [this.most, ...WIDTHS] : WIDTHS;
  }

  /** Share of the pictures that are worn anew, the others being held; counted once a look and range. */
  private get wornShare(): number {
    if (this.share === undefined) {
      const { from, to } = this.range;
      const count = Math.min(JUDGED * 8, to - from);
      const worn = Array.from({ length: count }, (_, i) => from + i).filter((n) => this.heldAt(n) === n);
      this.share = Math.max(1, worn.length) / count;
    }
    return this.share;
  }
}
