import type * as T from '@tin-ghost/contract';
import type { Footage } from '@tin-ghost/media';
import type { Medium, Plate, Reel, Reference, Shot } from './db/schema';

/** Footage as it is told outside: how it is read and where it lies are the server's own. */
const footageView = ({ kind, codec, width, height, rate, constantRate, frames, encoding, interlaced, rotation, stacked, timecode, sound }: Footage): T.Footage => ({
  kind,
  codec,
  width,
  height,
  rate,
  constantRate,
  frames,
  encoding,
  interlaced,
  rotation: rotation ?? 0,
  stacked: stacked === true,
  ...(timecode !== undefined && { timecode }),
  sound,
});

export const mediumView = ({ id, name, bytes, state, progress, error, footage, proxyWidth, proxyHeight, hasSound, createdAt }: Medium): T.Medium => ({
  id,
  name,
  bytes,
  state,
  progress,
  error,
  footage: footage && footageView(footage),
  proxyWidth,
  proxyHeight,
  hasSound,
  createdAt,
});

export const reelView = ({ id, name, createdAt, touchedAt }: Reel): T.ReelHead => ({ id, name, createdAt, touchedAt });

export const shotView = ({ id, reelId, name, position, look, preparation, versions, revision, touchedAt }: Shot, medium: Medium): T.Shot => ({
  id,
  reelId,
  name,
  position,
  look,
  preparation,
  versions,
  revision,
  touchedAt,
  medium: mediumView(medium),
});

export const referenceView = ({ id, reelId, name, shipped, createdAt }: Reference, medium: Medium): T.Reference => ({
  id,
  reelId,
  name,
  shipped,
  createdAt,
  medium: mediumView(medium),
});

/** What looks call a plate by: its own word where it ships, else the hash of its file, or of its images in order; null until they have been read. */
export const plateKey = ({ shippedAs }: Pick<Plate, 'shippedAs'>, { hash, state }: Medium): string | null => shippedAs ?? (state === 'ready' ? hash : null);

export const plateView = (plate: Plate, medium: Medium): T.StoredPlate => ({
  id: plate.id,
  key: plateKey(plate, medium),
  name: plate.name,
  shipped: plate.shippedAs !== null,
  light: medium.footage?.light ?? null,
  createdAt: plate.createdAt,
  medium: mediumView(medium),
});
