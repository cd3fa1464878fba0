/** Names of prints by a pattern, in which what stands in braces is put in for each print. */

/** What a pattern can put in: the reel's name, the shot's place in it (01 and on), the shot's name and its look's. */
export const NAME_FIELDS = ['reel', 'number', 'shot', 'look'] as const;
export type NameField = (typeof NAME_FIELDS)[number];

/** The name of a print of one shot for which none is given. */
export const USUAL_NAME = '{shot}, {look}';

/** The name of a film of several shots for which none is given. */
export const filmName = (reel: string, shots: number): string => `${reel}, ${shots} shots`;

/** Characters of a name and of a file's, its ending not counted. */
const MOST = { name: 160, file: 100 };
/** By characters, of which none is cut in two. */
const cut = (text: string, most: number): string => [...text].slice(0, most).join('').trim();

const FIELD = /\{([^{}]*)\}/g;
const isField = (name: string): name is NameField => (NAME_FIELDS as readonly string[]).includes(name);

/** The first thing in braces that a pattern cannot put in; undefined where there is none. */
export const unknownField = (pattern: string): string | undefined => [...pattern.matchAll(FIELD)].map(([, name]) => name!).find((name) => !isField(name));

/** A print's name without what a file system may refuse or hide (dots before it), as its file is called. */
export const fileStem = (name: string): string => cut(name.replace(/^\.+|[^\p{L}\p{N} .,_-]+/gu, '_'), MOST.file);

/** @param place of the shot in its reel, from 0 @returns the name of a print by a pattern without unknown fields */
export function nameBy(pattern: string, { place, ...known }: { reel: string; place: number; shot: string; look: string }): string {
  const fields: Record<NameField, string> = { ...known, number: String(place + 1).padStart(2, '0') };
  return cut(
    pattern.replaceAll(FIELD, (whole, name: string) => (isField(name) ? fields[name] : whole)),
    MOST.name,
  );
}
