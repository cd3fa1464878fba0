/** What is said where there is no screen. */
export const texts = {
  // app
  notLoaded: 'Not loaded',
  thisScreenCouldNot: 'This screen could not be loaded from the server.',
  broken: 'Stopped',
  thisScreenStopped: (why: string) => `This screen stopped because of a fault of Tin Ghost (${why}). What you changed is saved.`,
  tryAgain: 'Try again',
  nothingHere: 'Nothing here',
  thereIsNothingHere: 'There is nothing here.',
  toShelf: 'To the shelf',
} as const;
