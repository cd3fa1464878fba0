/** What stands round the picture and on it. */
export const texts = {
  // across-shots
  lookOnShotsOfThisReel: 'The look on shots of this reel',
  shotOnBench: 'The shot on the bench',
  shotsOfReel: (shown: number, all: number): string => `${shown} of the ${all} shots of this reel`,
  toThisShot: 'To this shot',
  lookOn: (name: string): string => `The look on ${name}`,

  // framing-overlay
  framingDragPictureCorners: 'Framing: drag the picture, corners and wheel scale it, arrows move it',

  // laid-overlay
  laidOverPicture: (name: string, written: boolean): string =>
    `${name}: drag it to its place, its corners scale it, the handle above turns it, arrows move it${written ? ', Enter writes' : ''}`,

  // picture
  pictureOf: (frame: number, frames: number, worn: boolean): string => `Picture ${frame} of ${frames}, ${worn ? 'worn' : 'as shot'}`,
  asShot: 'as shot',
  comparedWith: 'Compared with',
  renderingAt11FromOriginal: 'rendering at 1:1, from the original',
  rendering: 'rendering',
  lookingForEvent: 'looking for what is here',
  triedNotAdded: 'tried, not added',
  thisTraitOnly: 'this trait only',
  whatItChanges: (gain: number): string => `what it changes, ${gain} times as strong`,
  atThisPointOfChain: 'at this point of the chain',
  pictureCouldNotBeRendered: (why: string): string => `The picture could not be rendered: ${why}. Your look is kept.`,

  // transport
  playing: 'Playing',
  playsOnceImported: 'It plays once the footage is imported. Until then, go from frame to frame.',
  oneFrameBack: 'One frame back',
  pause: 'Pause',
  play: 'Play',
  playAndPause: 'Play and pause',
  oneFrameOn: 'One frame on',
  loopTitle: (title: string): string => `${title}; drag below the ruler for a range of your own`,
  loopTwoSecondsFromHere: 'Loop two seconds from here',
  loop: 'Loop',
  scopesBesideCard: 'Scopes beside the card',
  scopes: 'Scopes',
  oneLineOfPictureAsSignal: 'One line of the picture as a signal',
  line: 'Line',
  sound: 'Sound',
  playingRate: (shown: number, rate: number): string => `${shown} of ${rate} fps`,
  playingWidth: (width: number): string => ` at ${width} wide`,
  costsMost: (name: string, percent: number): string => `${name} costs most, ${percent} %`,
  draft: 'Draft',
  draftTitle: 'Plays small and with every second frame, to keep the rate. Prints and stills stay as they are.',
  goTo: 'Go to',
  timeCodeSuchAs00: 'A time code such as 00:00:03:12, or 312, 2.5 s, +10',
  goToTimeCode: 'Go to a time code that is typed',
  time: 'Time',
  frameOf: (frame: number, frames: number): string => `frame ${frame} of ${frames}`,

  // view-bar
  worn: 'Worn',
  pictureWithItsWearW: 'The picture with its wear (W)',
  asShotView: 'As shot',
  pictureBeforeHoldBForMoment: 'The picture before; hold B for a moment',
  alone: 'Alone',
  wipe: 'Wipe',
  sideBySide: 'Side by side',
  blink: 'Blink',
  onAllShots: 'On all shots',
  whatIsShown: 'What is shown',
  howItIsCompared: 'How it is compared',
  withName: (name: string): string => `with: ${name}`,
  zoom: 'Zoom',
  fit: 'Fit',
  fitPercent: (percent: number | null): string => (percent === null ? 'Fit' : `Fit ${percent} %`),
  magnified: (times: number, key: number): string => `${times}:1, from the original (${key}, or the wheel)`,
  fullScreen: 'Full screen',
  compareWith: 'Compare with',
  without: (name: string): string => `Without ${name}`,
  withoutChosenTrait: 'Without the chosen trait',
  withoutAct: (act: string): string => `Without ${act}`,
  withoutItsAct: 'Without its act',
  asItWasOpened: 'As it was opened',
  asRemembered: 'As remembered',
  rememberHowItIsNow: 'Remember how it is now',
  pinnedReference: 'The pinned reference',

  // wipe-line
  wipingLineHandle: 'Wiping line; arrows move it, with Shift they turn it',
  turnWipingLine: 'Turn the wiping line',

  // zone-overlay
  zoneDrag: 'Zone: drag it to its place, its handles make it wider and higher; arrows move it, with Alt they size it',
} as const;
