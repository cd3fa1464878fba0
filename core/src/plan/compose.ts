import type { Engine } from '../engine';
import { LUMA_WEIGHTS } from '../frame/encoding';
import { floatStride, rowAt, type Surface } from '../frame/surface';
import { BLENDS, type TraitUse, type Zone } from '../look/look';
import { zoneAt } from '../look/zone';
import type { Domain } from '../traits/trait';
import type { DomainChanger } from './domains';

const TONE_STEPS = 256;

/** Lays a worn picture over what it was: by blend, zone, tones and strength, row by row. */
export class Composer {
  private readonly weights: number;
  private readonly luma: number;
  private readonly tones = new Map<string, number>();

  constructor(
    private readonly engine: Engine,
    private readonly domains: DomainChanger,
    private readonly reserve: (bytes: number) => number,
    widest: number,
  ) {
    this.weights = reserve(floatStride(widest));
    this.luma = reserve(floatStride(widest));
  }

  /**
   * @param surface the worn rows @param under addresses of the same rows of the three planes before
   * @param share strength at this moment @param seconds the moment @param domain of both
   */
  run(surface: Surface, under: readonly number[], use: TraitUse, share: number, seconds: number, domain: Domain): void {
    const k = this.engine.kernels;
    const { width } = surface;
    const mode = BLENDS.indexOf(use.blend ?? 'normal');
    const zoned = use.zone && (use.zone.kind !== 'all' || use.zone.tones);
    for (let y = surface.top; y < surface.bottom; y++) {
      const before = (plane: number): number => under[plane]! + (y - surface.top) * surface.stride;
      if (zoned) this.weigh(use.zone, seconds, surface, y, before, domain);
      for (let plane = 0; plane < 3; plane++) {
        const row = rowAt(surface, plane, y);
        if (mode > 0) k.blendRow(row, before(plane), width, mode);
        if (zoned) k.mixWeighted(row, before(plane), this.weights, width, share);
        else if (share < 1) k.mix(row, before(plane), width, share);
      }
    }
  }

  /** Works out the weights of a row. */
  private weigh(zone: Zone, seconds: number, surface: Surface, y: number, before: (plane: number) => number, domain: Domain): void {
    const k = this.engine.kernels;
    const { width, height } = surface;
    const lies = zoneAt(zone, seconds);
    if (!lies) k.fillRow(this.weights, width, 1);
    else {
      const across = lies.across * width;
      const dy = (y + 0.5 - lies.y * height) / (lies.down * height);
      k.ellipseRow(this.weights, width, (0.5 - lies.x * width) / across, 1 / across, dy * dy, lies.soft);
      if (zone.kind === 'ellipse') k.affineRow(this.weights, width, -1, 1);
    }
    if (!zone.tones) return;
    if (domain === 'video') k.copy(this.luma, before(0), width * 4);
    else k.lumaRow(this.luma, before(0), before(1), before(2), width, LUMA_WEIGHTS.bt709.kr, LUMA_WEIGHTS.bt709.kb);
    this.domains.toDisplay(this.luma, width, domain);
    k.tableRow(this.luma, width, this.toneTable(zone.tones), TONE_STEPS + 1, 0, TONE_STEPS);
    k.timesRow(this.weights, this.luma, width);
  }

  private toneTable(points: NonNullable<Zone['tones']>): number {
    const key = JSON.stringify(points);
    let at = this.tones.get(key);
    if (at === undefined) {
      at = this.reserve((TONE_STEPS + 1) * 4);
      const table = this.engine.floats(at, TONE_STEPS + 1);
      for (let i = 0; i <= TONE_STEPS; i++) table[i] = between(points, i / TONE_STEPS);
      this.tones.set(key, at);
    }
    return at;
  }
}

/** Along straight lines between points that rise in their first number; held at both ends. */
function between(points: NonNullable<Zone['tones']>, at: number): number {
  const next = points.findIndex(([x]) => x > at);
  if (next === 0) return points[0]![1];
  if (next < 0) return points.at(-1)![1];
  const [a, b] = [points[next - 1]!, points[next]!];
  return a[1] + ((b[1] - a[1]) * (at - a[0])) / (b[0] - a[0]);
}
