/** The store cannot be reached: what needs it is tried again. */
export class StoreAwayError extends Error {
  constructor() {
    super('the store cannot be reached');
  }
}
