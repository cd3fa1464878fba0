/** What parts say that stand on every screen. */
export const texts = {
  // amounts
  nearlyDone: 'nearly done',
  timeLeft: (time: string): string => `${time} left`,

  // file-drop
  nothingGoesHereDropFootage: 'Nothing goes here. Drop footage on the shelf or on a reel.',

  // footage-files
  dropThemToAddThem: 'Drop them to add them to this reel',
  footageFiles: 'Footage files',
  addFootage: 'Add footage',
  sendingName: (name: string): string => `Sending ${name}`,
  dismiss: 'Dismiss',
  stop: 'Stop',

  // medium-state
  waiting: 'waiting',
  importing: (percent: number): string => `importing, ${percent} %`,

  // name-field
  nameOfName: (name: string): string => `Name of ${name}`,

  // number-field
  dragToChange: 'Drag to change',

  // skip-links
  page: 'the page',
  skipTo: 'Skip to',
  toName: (name: string): string => `To ${name}`,

  // top-bar
  wordmark: 'TIN GHOST',
  shelf: 'Shelf',
  stockroom: 'Stockroom',
  prints: 'Prints',
  machines: 'Machines',
  places: 'Places',
  actions: 'Actions',
  lightsUp: 'Lights up',
  lightsDown: 'Lights down',
  logOut: 'Log out',
} as const;
