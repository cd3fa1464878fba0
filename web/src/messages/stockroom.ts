import { shots } from './counts';

/** What the stockroom says. */
export const texts = {
  // look-card
  undo: 'Undo',
  nameOnYourPicture: (name: string): string => `${name} on your picture`,
  builtIn: 'built in',
  yours: 'yours',
  applyToReel: (name: string): string => `Apply to a reel, ${name}`,
  applyTo: 'Apply to',
  shots,
  duplicateName: (name: string): string => `Duplicate ${name}`,
  duplicate: 'Duplicate',
  file: 'Export',
  renameName: (name: string): string => `Rename ${name}`,
  rename: 'Rename',
  removeName: (name: string): string => `Remove ${name}`,
  nameRemoved: (name: string): string => `“${name}” removed`,
  remove: 'Remove',

  // look-filter
  nothingYet: 'nothing yet',
  leavesPictureAsItIs: 'leaves the picture as it is',

  // plates
  plates: {
    heading: 'Plates',
    says: 'Clips, stills and image sequences to lay over a picture, with alpha or on black or white. Put one into a look with the trait Plate.',
    files: 'Plate file',
    add: 'Add a plate',
  },
  nameOfName: (name: string): string => `Name of ${name}`,
  deleteName: (name: string): string => `Delete ${name}`,
  delete: 'Delete',
  still: ', still',
  alpha: ', alpha',

  // stockroom
  film: 'Film',
  tape: 'Tape',
  broadcastAndCable: 'Broadcast and cable',
  dropLookFilesOrPlates: 'Look files and plates: drop them here',
  dropReferences: 'References to hold shots against: drop them here',
  stockroom: 'Stockroom',
  looks: 'Looks',
  seenOn: 'seen on',
  pictureLooksAreSeenOn: 'Picture the looks are seen on',
  searchLooks: 'Search looks',
  searchNameGaugeTrait: 'Search: a name, a gauge, a trait',
  carrier: 'Carrier',
  anyCarrier: 'any carrier',
  act: 'Act',
  anyAct: 'any act',
  colour: 'Colour',
  colourOrNot: 'colour or not',
  inColour: 'colour',
  blackAndWhite: 'black and white',
  shownOfAll: (shown: number, all: number): string => `${shown} of ${all}`,
  lookFiles: 'Look files',
  importLooks: 'Import looks',
  nameAdded: (name: string): string => `“${name}” added`,
  noLookIsLikeThat: 'No look is like that.',
  showAll: 'Show all',
  // references
  references: {
    heading: 'References',
    says: 'Pictures of the real thing. Pin one on the bench to hold a shot against it, or to match it. Those added here are for all reels; those added on the bench, under the shots, for that reel.',
    files: 'Reference files',
    add: 'Add a reference',
  },
} as const;
