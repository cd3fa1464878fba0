/** What the strip and its lanes say. */
export const texts = {
  // lanes
  events: 'Events',
  eventsOf: (name: string, count: number): string =>
    `Events of ${name}: ${count}; arrows go from one to the next, with Alt they move it, Enter pins one at this frame, Delete mutes it`,
  clickMarkToChoose: 'Click a mark to choose it, drag to move it; double-click to pin one here',

  // loop-row
  dragToLoopRangeDouble: 'Drag to loop a range; double-click to play all of the shot',

  // motion-curve
  curveOverShot: (name: string, low: string, high: string, keys: number): string =>
    `${name} over the shot, from ${low} to ${high}${keys ? `, ${keys} keys; arrows move the chosen one` : ''}`,

  // motion-lane
  motionOnStrip: 'Motion on the strip',

  // overview
  partOfShotOnStrip: 'Part of the shot on the strip',
  allOfShot: 'all of the shot',
  percentFromTo: (from: string, to: string): string => `${from} to ${to} %`,
  partOfShotOnStripDrag: 'The part of the shot on the strip: drag it or its ends, or turn the wheel with Ctrl; double-click shows all',

  // plate-parts
  firstParts: (shown: number, count: number): string => `the first ${shown} of ${count} parts; a higher “flash from” finds fewer`,
  allOfThisPlate: 'All of this plate is kept. Keep only its flashes, or write its parts on its card, to remove some of it.',
  lastPartStaysToSee: 'The last part stays; to see none of the plate, turn it off.',
  partOfPlate: (number: number): string => `Part ${number} of the plate: arrows move it, with Alt its end; Delete removes it`,
  partShownAt: (from: string, to: string, begins: string): string => `${from} to ${to} s of the plate, shown at ${begins} s`,

  // spells
  spells: 'Spells',
  parts: 'parts',
  spellOf: (name: string, number: number): string => `${name}, spell ${number}`,
  spellTitle: (name: string): string => `${name}: arrows move it, with Alt its end`,
  always: 'always',
  secondsFromTo: (from: string, to: string): string => `from ${from} to ${to} s`,

  // strip
  strip: 'Strip',
  footage: 'Footage',
  sound: 'Sound',
  lengthOfStrip: 'Length of the strip',
  shorterStrip: 'Shorter strip',
  longerStrip: 'Longer strip',
  allOfTheShot: 'All of the shot',
  momentInShot: 'Moment in the shot',

  // trim-handles
  in: 'In',
  out: 'Out',
  inSide: 'in',
  outSide: 'out',
  sidePoint: (side: string): string => `${side} point`,
  dragPoint: (side: string): string => `${side} point: drag it, or set it at the frame that is seen`,
  byFrames: (by: number): string => `${by > 0 ? '+' : '−'}${Math.abs(by)} frames`,
} as const;
