import type { ReactNode } from 'react';

/** What the bench says round its parts. */
export const texts = {
  // bench
  picture: 'the picture',
  chain: 'the chain',
  strip: 'the strip',
  card: 'the card',
  thisReelHasNoShotsYet: 'This reel has no shots yet.',
  footageGoesHereClipsStills: 'Footage goes here: clips, stills, or the images of a sequence.',
  shots: 'Shots',
  keys: 'Keys',
  strikePrints: 'Strike prints',
  printsOnceImported: 'Prints can be struck once the footage is imported.',
  lineScopeIsBeingLoaded: 'The line scope is being loaded.',
  cardColumn: 'Card',
  thisFootageCouldNotBeImported: 'This footage could not be imported',
  footageIsBeingImported: 'The footage is being imported',
  fileYouSentIsKept: (shelf: ReactNode): ReactNode => <>The file you sent is kept as it is. Bring in another one, or go back to the {shelf}.</>,
  shelf: 'shelf',
  savedAt: (time: string): string => `Saved ${time}`,
  saving: 'Saving…',
  savedInThisBrowserOnly: 'Saved in this browser only',
  changedElsewhere: 'Also changed elsewhere',
  undo: 'Undo',
  redo: 'Redo',
  changeIsHeld: (why: string): string => `Your change is held in this browser and is sent again by itself. ${why}`,
  thisShotWasAlsoChanged: 'This shot was also changed elsewhere. You see the change made here; the other is kept by the server until you choose.',
  keepThisOne: 'Keep this one',
  takeOther: 'Take the other',

  // side-handle
  widthOfShots: 'Width of the shots',
  widthOfCard: 'Width of the card',
  dragSide: (side: string): string => `${side}: drag it; a double click sets it back`,
} as const;
