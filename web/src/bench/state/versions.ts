import type { Look } from '@tin-ghost/core';

/** Looks of a shot beside the one that is shown, in whose place stands null; none where there is only that one. */
export type Versions = readonly (Look | null)[];

interface Dressed {
  readonly look: Look;
  readonly versions: Versions;
}

/** All versions in their order, the shown one among them. */
export const versionsOf = ({ look, versions }: Dressed): readonly Look[] => (versions.length ? versions.map((kept) => kept ?? look) : [look]);

/** Place of the version that is shown. */
export const shownVersion = ({ versions }: Dressed): number => Math.max(0, versions.indexOf(null));

const laid = (looks: readonly Look[], shown: number): Dressed => ({ look: looks[shown]!, versions: looks.length > 1 ? looks.map((look, i) => (i === shown ? null : look)) : [] });

/** Shows another version. */
export const showVersion = (dressed: Dressed, place: number): Dressed => laid(versionsOf(dressed), place);

/** Puts a look behind the other versions, and shows it. */
export function addVersion(dressed: Dressed, look: Look): Dressed {
  const looks = [...versionsOf(dressed), look];
  return laid(looks, looks.length - 1);
}

/** Takes a version away; where it was the shown one, its neighbour is shown. The last one stays. */
export function removeVersion(dressed: Dressed, place: number): Dressed {
  const [looks, shown] = [versionsOf(dressed), shownVersion(dressed)];
  if (looks.length === 1) return dressed;
  const left = looks.filter((_, i) => i !== place);
  return laid(left, Math.min(left.length - 1, shown > place || (shown === place && shown > 0) ? shown - 1 : shown));
}
