/** Keeps what was made last, by a key: each change of a look makes a plan, which mostly wants what the one before it wanted. */
export class Lately<T> {
  private readonly kept = new Map<string, T>();

  /** @param most so many are kept; the one that was asked for longest ago is given up */
  constructor(private readonly most: number) {}

  get(key: string, make: () => T): T {
    const { kept } = this;
    const found = kept.has(key) ? kept.get(key)! : make();
    kept.delete(key);
    kept.set(key, found);
    if (kept.size > this.most) kept.delete(kept.keys().next().value!);
    return found;
  }
}
