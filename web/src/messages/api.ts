/** What is said of the server. */
export const texts = {
  // client
  tinGhostsServerDoesNot: 'Tin Ghost’s server does not answer. It may have been ended; start it again with npm start.',
  serverAnsweredStatus: (status: number): string => `the server answered ${status}`,

  // upload
  serverCannotBeReached: 'the server cannot be reached; what has been sent is kept, send the file again to go on',
} as const;
