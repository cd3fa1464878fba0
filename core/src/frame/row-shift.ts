import type { Engine, Store } from '../engine';
import { floatStride } from './surface';

/** Moves whole rows sideways by any part of a sample, by the cubic of Catmull and Rom (as `cubicTaps` has it); edges are continued. */
export class RowShift {
  private readonly padded: Store;
  private readonly weights: Store;

  /** @param width samples of a row */
  constructor(
    private readonly engine: Engine,
    private readonly width: number,
  ) {
    [this.padded, this.weights] = [engine.store(), engine.store()];
  }

  release(): void {
    for (const store of [this.padded, this.weights]) store.release();
  }

  /** @param samples to the right; more than the width is held to it */
  by(row: number, samples: number): void {
    if (samples === 0) return;
    const k = this.engine.kernels;
    const { width } = this;
    const away = Math.max(-width, Math.min(width, -samples));
    const whole = Math.floor(away);
    const t = away - whole;
    const pad = Math.abs(whole) + 4;
    const before = this.padded.at(floatStride(3 * width + 64));
    const weights = this.weights.at(16);
    const { samples: memory } = this.engine;
    memory[weights >> 2] = ((-0.5 * t + 1) * t - 0.5) * t;
    memory[(weights >> 2) + 1] = (1.5 * t - 2.5) * t * t + 1;
    memory[(weights >> 2) + 2] = ((-1.5 * t + 2) * t + 0.5) * t;
    memory[(weights >> 2) + 3] = (0.5 * t - 0.5) * t * t;
    k.padRow(before, row, width, pad);
    k.firRow(row, before + (pad + whole - 1) * 4, width, weights, 4);
  }
}
