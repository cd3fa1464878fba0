/** What is said of the previews. */
export const texts = {
  // preview
  endedTwice: (why: string): string => `the part of the page that renders ended twice over it (${why})`,
  workerStartedAgain: (why: string): string => `A render worker ended and was started again: ${why}.`,

  // proxy-reader
  previewCannotBeDecoded: 'the preview cannot be decoded by this browser',
  previewHasNoPicture: (number: number): string => `the preview has no picture ${number}`,
  previewCannotBeFetched: 'the preview cannot be fetched',
  browserDecodesTo: (format: string): string => `the browser decodes to ${format}`,
  unknownLayout: 'an unknown layout',

  // watched-worker
  itCouldNotBeStarted: 'it could not be started',
  itWasEndedByBrowser: 'it was ended by the browser',
} as const;
