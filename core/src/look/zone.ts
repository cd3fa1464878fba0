import type { Zone } from './look';

/** Where each kind of zone lies unless it is said: radii in shares of the picture, softness in shares of the radius. */
const USUAL: Record<Exclude<Zone['kind'], 'all'>, { across: number; down: number; soft: number }> = {
  edges: { across: 0.6, down: 0.6, soft: 0.7 },
  ellipse: { across: 0.25, down: 0.3, soft: 0.4 },
  quiet: { across: 0.25, down: 0.3, soft: 0.4 },
};

/** An ellipse in shares of the picture's width and height, and the share of its radius over which its border fades. */
export interface ZoneShape {
  readonly x: number;
  readonly y: number;
  readonly across: number;
  readonly down: number;
  readonly soft: number;
}

const between = (a: number, b: number, share: number): number => a + share * (b - a);

/** Where a zone lies at a moment (seconds): on a straight way between its keys, and at rest before the first and after the last. One that is everywhere has no shape. */
export function zoneAt(zone: Zone, seconds: number): ZoneShape | undefined {
  if (zone.kind === 'all') return undefined;
  const usual = USUAL[zone.kind];
  const soft = zone.soft ?? usual.soft;
  const { keys = [] } = zone;
  if (keys.length === 0) return { x: zone.x ?? 0.5, y: zone.y ?? 0.5, across: zone.across ?? usual.across, down: zone.down ?? usual.down, soft };
  const next = keys.findIndex(({ at }) => at > seconds);
  const b = keys[next < 0 ? keys.length - 1 : next]!;
  const a = next < 0 ? b : (keys[next - 1] ?? b);
  const share = b.at > a.at ? (seconds - a.at) / (b.at - a.at) : 0;
  return { x: between(a.x, b.x, share), y: between(a.y, b.y, share), across: between(a.across, b.across, share), down: between(a.down, b.down, share), soft };
}
