/** Ids stand in files and addresses. */
const ID = /^[a-z][a-z0-9-]{0,59}$/;

/** What is declared once and found by its id, in the order in which it is offered. */
export class Registry<T extends { readonly id: string }> {
  private readonly declared: T[] = [];
  private readonly byId = new Map<string, T>();

  /** @param what they are called in messages */
  constructor(
    private readonly what: string,
    first: readonly T[],
  ) {
    first.forEach((one) => this.add(one));
  }

  /** All of them; grows as more are added. */
  get all(): readonly T[] {
    return this.declared;
  }

  /** @returns undefined where there is none of that id */
  find(id: string): T | undefined {
    return this.byId.get(id);
  }

  /** @throws RangeError for an id that is taken, or that is not lower-case letters, digits and hyphens */
  add(one: T): void {
    if (!ID.test(one.id)) throw new RangeError(`a ${this.what}'s id is made of lower-case letters, digits and hyphens, at most 60, which "${one.id}" is not`);
    if (this.byId.has(one.id)) throw new RangeError(`there is a ${this.what} "${one.id}" already`);
    this.byId.set(one.id, one);
    this.declared.push(one);
  }
}
