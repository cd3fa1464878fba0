const IMAGE = /\.(png|jpe?g|tiff?|bmp|webp|dpx|exr|tga)$/i;
/** A name, the number in it that counts, and its ending. */
const NUMBERED = /^(.*?)(\d+)(\.[^.]+)$/;

export const isImage = (name: string): boolean => IMAGE.test(name);

/** What images that are counted are called together. */
export const sequenceName = (name: string): string => name.replace(/[-_ .]?\d*\.[^.]+$/, '') || name;

/** What is the same of images that are one sequence: all but their number; undefined where a name is none of a counted image. */
export function sequenceKey(name: string): string | undefined {
  const [, stem, , ending] = (isImage(name) && NUMBERED.exec(name)) || [];
  return stem === undefined ? undefined : `counted ${stem.toLowerCase()}#${ending!.toLowerCase()}`;
}

/** The number that counts in an image's name. */
export const imageNumber = (name: string): number => Number(NUMBERED.exec(name)?.[2] ?? 0);

/** Files as what they become: images whose names differ by their number alone are one sequence, all else is by itself. */
export function groupImages<T extends { readonly name: string }>(files: readonly T[]): T[][] {
  const groups = new Map<string, T[]>();
  for (const file of files) {
    const counted = sequenceKey(file.name);
    const key = counted ?? `whole ${file.name}`;
    const group = groups.get(key);
    if (group && counted !== undefined) group.push(file);
    else groups.set(group ? `${key} ${groups.size}` : key, [file]);
  }
  return [...groups.values()];
}
