/** So many shots, in words. */
export const shots = (count: number): string => (count === 1 ? '1 shot' : `${count} shots`);
