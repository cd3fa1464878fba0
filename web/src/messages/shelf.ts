import { shots } from './counts';

/** What the shelf and its bin say. */
export const texts = {
  // bin
  bin: 'Bin',
  reelOfShots: (count: number): string => `reel, ${shots(count)}`,
  shotOfReel: (reel: string): string => `shot of ${reel}`,
  removedIn: (time: string): string => `removed in ${time}`,
  putBackName: (name: string): string => `Put back ${name}`,
  putBack: 'Put back',
  emptyBin: 'Empty the bin…',
  emptyTheBin: 'Empty the bin?',
  emptyingRemoves: (count: number): string =>
    `${count === 1 ? 'What lies in it' : `The ${count} that lie in it`} and the footage imported for that are removed for good. Prints stay.`,
  cancel: 'Cancel',
  removeForGood: 'Remove for good',

  // reel-row
  reelTitle: (name: string): string => `${name}: drag it, or Alt and arrows, to move it on the shelf`,
  inBinBelowFor30Days: 'In the bin below for 30 days.',
  undo: 'Undo',
  changed: (when: string): string => `changed ${when}`,
  renameName: (name: string): string => `Rename ${name}`,
  rename: 'Rename',
  duplicateName: (name: string): string => `Duplicate ${name}`,
  duplicate: 'Duplicate',
  cutAsOtio: 'Cut as OTIO',
  cutAsEdlCmx3600: 'Cut as EDL (CMX 3600)',
  exportName: (name: string): string => `Export ${name}`,
  export: 'Export',
  deleteName: (name: string): string => `Delete ${name}`,
  delete: 'Delete',

  // shelf
  dropThemToMakeNew: 'Drop them to make a new reel of them',
  untitledReel: 'Untitled reel',
  shelf: 'Shelf',
  reels: 'Reels',
  reelsStandHereShots: 'Reels stand here: shots in order, with the wear you give them. Make one and bring in footage.',
  nameOfNewReel: 'Name of the new reel',
  nameOfANewReel: 'Name of a new reel',
  newReel: 'New reel',
  shotsAndLength: (count: number, length: string | null): string => (length === null ? shots(count) : `${shots(count)}, ${length}`),
  nameMoved: (name: string, place: number): string => `“${name}” is number ${place} on the shelf`,
  nameDeleted: (name: string): string => `“${name}” deleted`,
} as const;
