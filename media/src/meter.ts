export interface StrikeProgress {
  readonly done: number;
  readonly total: number;
  /** Pictures a second, over the last seconds; 0 until it can be told. */
  readonly perSecond: number;
  readonly secondsLeft: number;
}

/** A rate is told after this time. */
const SETTLED_MS = 1000;

/** Rate over the last seconds, reported at most ten times a second. */
export class Meter {
  private done = 0;
  private readonly marks: { at: number; done: number }[] = [{ at: performance.now(), done: 0 }];
  private said = 0;

  constructor(
    private readonly total: number,
    private readonly report?: (progress: StrikeProgress) => void,
  ) {}

  tick(): void {
    const now = performance.now();
    this.done++;
    if (now - this.said < 100 && this.done < this.total) return;
    this.said = now;
    this.marks.push({ at: now, done: this.done });
    while (this.marks.length > 2 && now - this.marks[0]!.at > 5000) this.marks.shift();
    const first = this.marks[0]!;
    // The first moments pay for starting: threads, kernels, the encoder's look ahead.
    const known = now - this.marks[0]!.at >= SETTLED_MS || this.done === this.total;
    const perSecond = known ? ((this.done - first.done) * 1000) / Math.max(1, now - first.at) : 0;
    this.report?.({ done: this.done, total: this.total, perSecond, secondsLeft: perSecond > 0 ? (this.total - this.done) / perSecond : 0 });
  }
}
