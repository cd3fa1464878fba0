const IMAGE = /\.(png|jpe?g|tiff?|bmp|webp|dpx|exr|tga)$/i;
/** A name, the number in it that counts, and its ending. */
const NUMBERED = /^(.*?)(\d+)(\.[^.]+)$/;

export const isImage = (name: string): boolean => IMAGE.test(name);

/** What images that are counted are called together. */
export const sequenceName = (name: string): string => name.replace(/[-_ .]?\d*\.[^.]+$/, '') || name;

/** Files as what they become: images whose names differ by their number alone are one sequence, all else is by itself. */
export function groupImages<T extends { readonly name: string }>(files: readonly T[]): T[][] {
  const groups = new Map<string, T[]>();
  for (const file of files) {
    const [, stem, , ending] = (isImage(file.name) && NUMBERED.exec(file.name)) || [];
    const key = stem === undefined ? `whole ${file.name}` : `counted ${stem}#${ending!.toLowerCase()}`;
    const group = groups.get(key);
    if (group && stem !== undefined) group.push(file);
    else groups.set(group ? `${key} ${groups.size}` : key, [file]);
  }
  return [...groups.values()];
}
