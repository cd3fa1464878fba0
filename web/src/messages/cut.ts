import { shots } from './counts';

/** What is said when cuts come in and go out. */
export const texts = {
  // export-cut
  shotIsStillBeingImported: (shot: string): string => `“${shot}” is still being imported, or could not be read.`,
  noFileWasMade: (why: string): string => `No file was made. ${why}`,

  // import-cut
  fileTooLarge: (size: number, most: number): string => `it has ${size} MB; a cut has at most ${most} MB`,
  cannotBeRead: (name: string, why: string): string => `${name} cannot be read: ${why}`,
  cutToImport: 'Cut to import',
  thereIsNoCutAmong: 'There is no cut among these files: it ends in .otio or .edl.',
  importCut: 'Import cut',
  nameIsImported: (name: string): string => `${name} is imported`,
  open: 'Open',
  cutIsImported: (name: string): string => `“${name}” is imported`,
  itDiffersFromCutInThis: 'It differs from the cut in this:',
  openReel: 'Open the reel',
  importCutNamed: (name: string): string => `Import “${name}”`,
  shotsOfFiles: (count: number, files: number, missing: number): string =>
    `${shots(count)} of ${files} ${files === 1 ? 'file' : 'files'}${missing > 0 ? `, ${missing} of them missing` : ''}.`,
  eachShotKeepsItsTrim: 'Each shot keeps its trim; the rest of its file stays as handles.',
  filesOfCut: 'Files of the cut',
  leftOutOfCut: (what: string): string => `Left out: ${what}.`,
  shotsLeftOut: (count: number): string => (count === 1 ? 'The shot of missing files is left out.' : `The ${count} shots of missing files are left out.`),
  importingFiles: (done: number, all: number): string => `Importing, ${done} of ${all} files are done…`,
  footageOfCut: 'Footage of the cut',
  addFiles: 'Add files',
  close: 'Close',
  cancel: 'Cancel',
  import: 'Import',
  hereInReel: (reel: string): string => `here, in “${reel}”`,
  imagesToBeImported: (count: number): string => `${count} images, to be imported`,
  toBeImported: 'to be imported',
  nameToBeImported: (name: string): string => `${name}, to be imported`,
  fileFor: (name: string): string => `File for ${name}`,
  imagesFor: (name: string): string => `Images for ${name}`,
  shots,
  another: 'Another…',
  find: 'Find…',

  // lay-cut
  notShownHereButExported: (kept: string): string => `Not shown here, but exported again: ${kept}.`,
  leftOut: (what: string): string => `Left out: ${what}.`,
  fileLeftOut: (name: string, error: string | null, shots: number): string =>
    `${name} ${error ? `could not be imported (${error})` : 'is missing'}: ${shots === 1 ? 'its shot is' : `its ${shots} shots are`} left out.`,
} as const;
