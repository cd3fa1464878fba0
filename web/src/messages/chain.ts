/** What the chain and the looks beside it say. */
export const texts = {
  // adding-panel
  whatCanBeAddedToAct: (act: string): string => `What can be added to ${act}`,
  found: 'Found',
  laidOver: 'Laid over',
  colour: 'Colour',
  fromOtherActs: 'From other acts',
  addToAct: (act: string): string => `Add to ${act}`,
  searchTraits: 'Search traits',
  searchAllActsDustLineColour: 'Search all acts: dust, line, colour…',
  pointAtOnePictureShows: 'Point at one: the picture shows it. A click adds it.',
  close: 'Close',
  nothingDoesThatTryAnother: 'Nothing does that. Try another word, such as “scratch” or “blur”.',

  // chain
  chain: 'Chain',
  thisLookHasNoLife: 'This look has no life yet: the picture passes as it was shot.',
  giveItOneOnSuper8: 'Give it one on Super 8',
  shot: 'Shot',
  prepared: 'Prepared',
  asShot: 'As shot',
  frames: 'frames',

  // life-block
  addLifeAfterIt: 'Add a life after it',
  addLifeBeforeIt: 'Add a life before it',
  duplicate: 'Duplicate',
  moveEarlier: 'Move earlier',
  moveLater: 'Move later',
  copyItsTraits: 'Copy its traits',
  pasteTraits: 'Paste traits',
  allOfItOffOrOn: 'All of it off or on',
  remove: 'Remove',
  life: (number: number): string => `Life ${number}`,
  whatCanBeDoneWithLife: (number: number): string => `What can be done with life ${number}`,
  carrierOfLife: (number: number): string => `Carrier of life ${number}`,
  rateFps: (rate: number): string => `${rate} fps`,
  millimetres: (width: number, height: number): string => `${width} × ${height} mm`,
  lines: (count: number): string => `${count} lines`,
  noGate: 'no gate',
  shapeOfPicture: 'Shape of the picture',
  carriersShapeWithBarsWhere: 'The carrier’s shape, with bars where the file is of another, or the file’s',
  asFile: 'as file',
  traitsOfLife: (number: number): string => `Traits of life ${number}`,
  actOfLife: (act: string, life: number): string => `${act}, life ${life}`,
  whatCanBeDoneWithAct: (act: string): string => `What can be done with ${act}`,
  pictureAtThisPoint: 'The picture at this point',

  // looks-panel
  nameIsInStockroom: (name: string): string => `“${name}” is in the stockroom`,
  tableHoldsColour: (rest: string): string => `The table holds the look’s colour; it cannot hold ${rest}.`,
  look: 'Look',
  seed: 'seed',
  seedHeading: 'Seed',
  putInStockroom: 'Put in stockroom',
  exportLook: 'Export look',
  pointWiseColourOfLook: 'The point-wise colour of the look as a .cube file',
  exportLut: 'Export LUT',
  tryAnother: 'Try another',
  nameOfLook: 'Name of the look',
  nameOnThisPicture: (name: string): string => `${name} on this picture`,

  // mix-bar
  mixWith: 'Mix with',
  mixWithOne: 'Mix with…',
  shareOfName: (name: string): string => `Share of ${name}`,

  // offer
  howMuchOfName: (name: string): string => `How much of ${name}`,

  // tag
  turnOff: 'Turn off',
  turnOn: 'Turn on',
  rename: 'Rename',
  copy: 'Copy',
  pasteAfterIt: 'Paste after it',
  tagTitle: (name: string): string => `${name}: a double click turns it off; more by a right click`,
  strengthPercent: (percent: number): string => `strength ${percent} %`,
  off: 'off',
  moves: ', moves',
  somethingOfItMoves: 'Something of it moves',

  // tell-switched
  onName: (name: string): string => `On ${name}`,
  undo: 'Undo',

  // use-actions
  tooManyTraits: (most: number, over: number, count: number): string => `A life has at most ${most} traits; ${over} of ${count} found no room.`,
  nameRemoved: (name: string): string => `${name} removed`,

  // versions-bar
  versionRemoved: (name: string): string => `Version “${name}” removed`,
  versionsOfLook: 'Versions of the look',
  renameOrRemove: (name: string): string => `${name}: F2 renames it, Delete removes it`,
  showName: (name: string): string => `Show ${name}`,
  version: 'Version',
  copyOfThisLook: 'A copy of this look',
  onCarrier: (name: string): string => `This look on ${name}`,
  compareWithVersion: (letter: string, name: string): string => `Compare with ${letter}, ${name}`,
  removeVersion: (letter: string, name: string): string => `Remove ${letter}, ${name}`,
} as const;
