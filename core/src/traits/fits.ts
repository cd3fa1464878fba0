import type { Carrier } from '../carriers';
import type { AnyTrait } from './trait';

const NEEDS = { raster: 'a picture in lines, such as tape or broadcast', recorder: 'a tape recorder' } as const;

/** What a trait cannot do without and a carrier has not, in words; undefined where it has all. */
export function lacking({ needs }: AnyTrait, carrier: Carrier): string | undefined {
  return needs && !carrier[needs] ? NEEDS[needs] : undefined;
}
