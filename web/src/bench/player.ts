import type { Look } from '@tin-ghost/core';
import { preview } from '../render/preview';
import type { Source, Worn } from '../render/protocol';

/** Widths that are tried while playing, the finest first. */
const WIDTHS = [960, 720, 480, 320];
const MEMORY_BYTES = 320 * 1024 * 1024;
/** Pictures kept ready ahead of the one shown. */
const AHEAD = 10;
/** A picture may come this late before it counts as a stall, in picture times. */
const PATIENCE = 0.5;
/** Time in which lateness does not count. */
const WARM_UP_MS = 1200;
/** The rate is told no oftener than this. */
const REPORT_MS = 400;

export interface PlayerReport {
  /** Pictures shown a second, over the last second. */
  readonly shown: number;
  readonly width: number;
}

/**
 * Plays a look over a shot: asks the workers for the pictures to come, keeps those done within a memory limit (so that a
 * loop costs nothing the second time), and lowers the size when the rate cannot be kept.
 */
export class Player {
  private readonly ready = new Map<number, Worn>();
  private readonly asked = new Set<number>();
  private bytes = 0;
  private widthIndex = 0;
  private running = false;
  private clock = 0;
  private at = 0;
  private stalls = 0;
  private shownAt: number[] = [];
  private generation = 0;
  private startedAt = 0;
  private reportedAt = 0;

  constructor(
    private readonly source: Source,
    private look: Look,
    private range: { from: number; to: number },
    private readonly events: { onFrame: (n: number, worn: Worn) => void; onReady: (frames: ReadonlySet<number>) => void; onReport: (report: PlayerReport) => void },
  ) {}

  /** Another look or range; what was rendered for the old look is dropped. */
  change(look: Look, range: { from: number; to: number }): void {
    if (look !== this.look) this.drop();
    this.look = look;
    this.range = range;
  }

  start(from: number): void {
    this.at = Math.max(this.range.from, Math.min(this.range.to - 1, from));
    this.running = true;
    this.clock = performance.now();
    this.startedAt = this.clock;
    this.shownAt = [];
    this.stalls = 0;
    this.fill();
    requestAnimationFrame(this.tick);
  }

  stop(): void {
    this.running = false;
  }

  get width(): number {
    return Math.min(this.source.width, WIDTHS[this.widthIndex]!);
  }

  private get size(): { width: number; height: number } {
    const { width } = this;
    return { width, height: Math.max(2, Math.round((this.source.height * width) / this.source.width / 2) * 2) };
  }

  private drop(): void {
    this.generation++;
    this.ready.clear();
    this.asked.clear();
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
      if (this.ready.has(n) || this.asked.has(n)) continue;
      this.asked.add(n);
      const { generation } = this;
      void workers.wear(this.source, n, this.look, this.size).then(
        (worn) => {
          if (generation !== this.generation) return;
          this.asked.delete(n);
          this.hold(n, worn);
          if (this.running) this.fill();
        },
        () => this.asked.delete(n),
      );
    }
  }

  private hold(n: number, worn: Worn): void {
    this.ready.set(n, worn);
    this.bytes += worn.pixels.byteLength;
    // What lies farthest ahead in the loop is needed last.
    while (this.bytes > MEMORY_BYTES) {
      const far = [...this.ready.keys()].reduce((a, b) => (this.after(b, -this.at) > this.after(a, -this.at) ? b : a));
      this.bytes -= this.ready.get(far)!.pixels.byteLength;
      this.ready.delete(far);
    }
    this.events.onReady(this.frames());
  }

  private frames(): ReadonlySet<number> {
    return new Set(this.ready.keys());
  }

  private readonly tick = (): void => {
    if (!this.running) return;
    const now = performance.now();
    const period = 1000 / this.source.rate;
    if (now >= this.clock) {
      const worn = this.ready.get(this.at);
      if (worn) {
        this.events.onFrame(this.at, worn);
        this.shownAt.push(now);
        this.at = this.after(this.at);
        const late = now - this.clock;
        // Late pictures do not make the next ones early: the time lost is given up.
        this.clock = late > period * PATIENCE ? now + period : this.clock + period;
        // The first second pays for starting: kernels are compiled, plans are made.
        if (late > period * PATIENCE && now - this.startedAt > WARM_UP_MS) this.stalls++;
        else this.stalls = Math.max(0, this.stalls - 0.1);
      }
      this.fill();
      this.judge(now);
    }
    requestAnimationFrame(this.tick);
  };

  private judge(now: number): void {
    while (this.shownAt.length && now - this.shownAt[0]! > 1000) this.shownAt.shift();
    if (now - this.reportedAt > REPORT_MS) {
      this.reportedAt = now;
      this.events.onReport({ shown: this.shownAt.length, width: this.width });
    }
    if (this.stalls > 8 && this.widthIndex < WIDTHS.length - 1 && this.source.width > WIDTHS[this.widthIndex + 1]!) {
      this.widthIndex++;
      this.stalls = 0;
      this.drop();
      this.fill();
    }
  }
}
