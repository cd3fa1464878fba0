/** Room that is left for the number. */
const LONGEST = 150;

/** The name that is wanted, or it with the least number behind it that is not taken. */
export function freeName(wanted: string, taken: ReadonlySet<string>): string {
  const bare = wanted.replace(/ \d+$/, '').slice(0, LONGEST);
  let name = wanted;
  for (let n = 2; taken.has(name); n++) name = `${bare} ${n}`;
  return name;
}
