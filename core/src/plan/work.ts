import type { Surface } from '../frame/surface';
import type { Live } from '../score/showing';
import type { Size } from '../score/size';
import type { Domain, Footprint } from '../traits/trait';

/** One thing that is done to a picture. */
export interface Work {
  readonly name: string;
  readonly domain: Domain;
  readonly footprint: Footprint;
  readonly size: Size;
  /** It makes its rows from another picture, whatever they were: nothing need be handed to it. */
  readonly fresh?: true;
  /** Works on the rows of a surface (point, line) or the whole of it (area). */
  readonly run: (surface: Surface, live: readonly Live[]) => void;
}
