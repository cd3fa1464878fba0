/** What the scopes say. */
export const texts = {
  // line-scope
  lineScope: 'Line scope',
  line: 'Line',
  whatIsShownOfLine: 'What is shown of the line',
  spectrumNote: 'the clean line in grey · dB against a sine of full range',
  lineAsSignalOf: (standard: string): string => `The line as a signal of ${standard}`,
  frequenciesInLine: 'Frequencies in the line',
  ofLines: (lines: number, standard: string): string => `of ${lines}, ${standard}`,
  levelsOfLine: 'Levels of the line',
  lowToHighPercent: (low: string, high: string): string => `${low} to ${high} %`,

  // scopes
  names: { Waveform: 'Waveform', Parade: 'Parade', Vector: 'Vector', Histogram: 'Histogram' },
  ofPicture: (name: string): string => `${name} of the picture`,
  scopes: 'Scopes',
  pictureIsBeingMeasured: 'The picture is being measured.',
  underPointer: 'Under the pointer',
  luma: 'luma',
  pointAtPictureToReadIt: 'point at the picture to read it',
  readings: 'Readings',
  oneInHundredBelow: '1 in 100 below',
  halfBelow: 'half below',
  ninetyNineInHundredBelow: '99 in 100 below',
  pixelsBelowBlack: 'pixels below black',
  pixelsAboveWhite: 'pixels above white',
} as const;
