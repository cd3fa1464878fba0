import type { Engine } from '../engine';
import type { TraitEvent } from '../events/events';
import type { PlateInfo } from '../frame/plate';
import type { Look } from '../look/look';
import { resolveLook, type ResolvedUse } from '../look/resolve';
import { shownSize } from '../look/shape';
import { AS_SHOT, footageParts, preparedFrames, type Part, type Preparation } from '../shot/preparation';
import type { Colour } from '../traits/settings';
import type { PlateAsked } from '../traits/trait';
import { FINEST, heldPicture } from './cadence';
import type { Size } from './size';
import { Moments } from './moment';
import { Showings, sourcesOf, type Live, type Showing } from './showing';

/** What a score is for. */
export interface ScoreOptions {
  /** Pictures a second of the file. */
  readonly rate: number;
  /** Size of the file's pictures, by default 1920x1080. What happens and when is the same at any; settings in pixels, and so what does nothing, are not. */
  readonly size?: Size;
  /** What is known of the plates that the look refers to: what follows one goes by its brightness. */
  readonly plates?: Readonly<Record<string, PlateInfo>>;
}

/** A shot whose pictures are asked for. */
export interface ScoredShot {
  /** Pictures of the footage. */
  readonly frames: number;
  /** Pictures a second of the footage for each of the file, as a fraction, so that no length is too long to count; [1, 1] where they are the same. */
  readonly step: readonly [number, number];
  readonly preparation?: Preparation;
}

/** A picture of the prepared shot that is needed, and the footage's pictures that share in it. */
export interface Need {
  readonly picture: number;
  readonly parts: readonly Part[];
}

/** An event of a look as the interface sees it. */
export interface ListedEvent extends TraitEvent {
  readonly life: number;
  readonly index: number;
  readonly trait: string;
}

const USUAL: Size = { width: 1920, height: 1080 };

/**
 * What happens in a look at every picture of a file, told from the picture's number alone: what acts and how, what is held, what happens by itself, and which
 * pictures of the footage are needed. Takes no memory of the engine, only its arithmetic.
 */
export class Score {
  readonly uses: readonly ResolvedUse[];
  /** The picture's own size within the file's: that of the look's shape. */
  readonly out: Size;
  private readonly moments: Moments;
  private readonly showings: Showings;

  /** @param look one that `checkLook` has passed */
  constructor(
    engine: Engine,
    private readonly look: Look,
    private readonly options: ScoreOptions,
  ) {
    this.uses = resolveLook(look);
    this.out = shownSize(look, options.size ?? USUAL);
    this.moments = new Moments(engine, look, this.uses, options.rate, (id) => options.plates?.[id]);
    this.showings = new Showings(engine, look, this.moments, this.out);
  }

  /** What makes picture `n`. */
  at(n: number): Showing {
    return this.showings.at(n);
  }

  /** The pictures of plates that picture `n` is made with, those beside it and earlier ones counted, each once. */
  platePictures(n: number): PlateAsked[] {
    const info = (id: string): PlateInfo | undefined => this.options.plates?.[id];
    if (!this.uses.some(({ trait }) => trait.plates)) return [];
    const found = new Map<string, PlateAsked>();
    const look = ({ live, beside, earlier }: Showing): void => {
      for (const { use, settings, seconds } of live)
        for (const asked of use.trait.plates?.(settings as never, seconds, info) ?? []) found.set(`${asked.plate}:${asked.picture}`, asked);
      for (const others of beside.values()) for (const other of others.values()) look(other);
      for (const { before } of earlier.values()) for (const { showing } of before) look(showing);
    };
    look(this.at(n));
    return [...found.values()];
  }

  /** Every use that could act, as it is without events. */
  possible(): Live[] {
    return this.showings.possible();
  }

  /** The pictures a second that a use counts. */
  rateOf(use: ResolvedUse): number {
    return this.moments.rateOf(use);
  }

  /** The first picture that is the same as picture `n` in every pixel, as all that is seen on it is held. */
  held(n: number): number {
    return heldPicture(this.look, n, this.options.rate, this.uses);
  }

  /** Whether moments between two pictures of the shot are asked for; else, whatever rate the shot is shown at, the picture that stands there. */
  get between(): boolean {
    return this.uses.some(({ trait, strength, values, carrier }) => strength > 0 && trait.fields?.(values, carrier).between);
  }

  /**
   * The pictures of the shot (counted at the file's rate) that picture `n` is made from, the one it shows first. A number between two is the moment between them.
   * @param known whether an earlier picture of a screen is still at hand, by its key
   */
  sourcePictures(n: number, known: (key: string) => boolean = () => false): number[] {
    return sourcesOf(this.showings.at(n), known);
  }

  /** The first and the last picture that `sourcePictures(n)` may tell, whatever happens at that moment; both never fall as n rises. */
  sourceWindow(n: number): { first: number; last: number } {
    return this.showings.window(n);
  }

  /** Events of all uses that begin in a stretch of time (seconds), also those muted (scale 0). */
  events(from: number, to: number): ListedEvent[] {
    return this.uses
      .filter((use) => use.trait.events)
      .flatMap((use) => this.moments.events(use, from, to).map((event) => ({ ...event, life: use.life, index: use.index, trait: use.trait.id })));
  }

  /** Events that show on picture `n`. */
  shown(n: number): ListedEvent[] {
    return this.at(n).live.flatMap(({ use, events }) => events.map((event) => ({ ...event, life: use.life, index: use.index, trait: use.trait.id })));
  }

  /** Which pictures of the footage make a picture of the shot, counted at the file's rate; after the shot's end it is its last. */
  need(picture: number, { frames, step, preparation = AS_SHOT }: ScoredShot): Need {
    const at = (picture * step[0]) / step[1];
    const last = preparedFrames(frames, preparation) - 1;
    const shown = Math.min(last, this.between ? Math.round(at * FINEST) / FINEST : Math.floor(at + 1e-9));
    return { picture, parts: footageParts(frames, preparation, shown) };
  }

  /** All that picture `n` needs, the picture it shows first. @param known as for `sourcePictures` */
  needs(n: number, shot: ScoredShot, known?: (key: string) => boolean): Need[] {
    return this.sourcePictures(n, known).map((picture) => this.need(picture, shot));
  }

  /**
   * What a setting is at pictures of the file, its motion taken in, in the setting's own unit: one row for a number, three for a colour.
   * @param pictures their numbers
   * @throws RangeError where there is no such use, or the setting is neither a number nor a colour
   */
  trace(life: number, index: number, key: string, pictures: readonly number[]): Float32Array[] {
    const use = this.uses.find((u) => u.life === life && u.index === index);
    if (!use) throw new RangeError(`there is no trait ${index + 1} in life ${life + 1}`);
    const kind = (use.trait.settings as Record<string, { kind: string }>)[key]?.kind;
    if (kind !== 'number' && kind !== 'colour') throw new RangeError(`"${key}" of ${use.trait.id} is no setting that moves`);
    const rows = Array.from({ length: kind === 'number' ? 1 : 3 }, () => new Float32Array(pictures.length));
    pictures.forEach((n, i) => {
      const value = this.moments.state(use, this.moments.counts(n)).values[key] as number | Colour;
      rows.forEach((row, part) => (row[i] = typeof value === 'number' ? value : value[part]!));
    });
    return rows;
  }
}
