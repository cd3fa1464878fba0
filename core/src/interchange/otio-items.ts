/** Objects of OpenTimelineIO's JSON, as far as both reading and writing know them. */

/** Under this name our additions stand, so that who does not know them hands them on. */
export const OURS = 'tin_ghost';

/** An object of the format: its schema with its version, and whatever else it has. */
export interface Item {
  readonly OTIO_SCHEMA: string;
  readonly [key: string]: unknown;
}

export const isItem = (value: unknown): value is Item => typeof value === 'object' && value !== null && typeof (value as Item).OTIO_SCHEMA === 'string';
/** An object's schema without its version. */
export const kindOf = (item: Item): string => item.OTIO_SCHEMA.split('.')[0]!;
export const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');
export const childrenOf = (item: Item): Item[] => (Array.isArray(item.children) ? item.children.filter(isItem) : []);

/** Seconds of a RationalTime, or undefined where it is none. */
export function secondsOf(value: unknown): number | undefined {
  if (!isItem(value)) return undefined;
  const [at, rate] = [Number(value.value), Number(value.rate)];
  return Number.isFinite(at) && rate > 0 && Number.isFinite(rate) ? at / rate : undefined;
}

export function rangeOf(value: unknown): { from: number; seconds: number } | undefined {
  if (!isItem(value)) return undefined;
  const [from, seconds] = [secondsOf(value.start_time), secondsOf(value.duration)];
  return from === undefined || seconds === undefined ? undefined : { from, seconds };
}

/** What a clip is of: the reference that is in use, where there are several. */
export function referenceOf(clip: Item): Item | undefined {
  const several = clip.media_references as Record<string, unknown> | undefined;
  const chosen = several?.[textOf(clip.active_media_reference_key)] ?? several?.DEFAULT_MEDIA;
  const reference = chosen ?? clip.media_reference;
  return isItem(reference) ? reference : undefined;
}
