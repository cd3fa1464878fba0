import { colour, micrometres, percent, percentOfHeight, share, toggle } from '../../settings';
import type { Values } from '../../trait';

export const settings = {
  scale: percent({ name: 'Picture', says: 'Size of the picture; below 100 the gate is opened and the film round it is seen', default: 94, min: 30, max: 100, step: 0.5 }),
  shape: share({ name: 'Shape', says: 'Width of the aperture over its height; 0 is the picture’s own', default: 0, max: 3 }),
  corner: percentOfHeight({ name: 'Corner', says: 'Radius of the corners of the aperture', default: 5, max: 50, step: 0.1 }),
  fuzz: micrometres({ name: 'Fuzz', says: 'Width of the edge, which lies out of focus', default: 45, max: 600, step: 1 }),
  burr: micrometres({ name: 'Burr', says: 'RMS by which the filed edge is off a straight line', default: 9, max: 160, step: 1 }),
  open: share({ name: 'Opened', says: '0: black outside the picture; 1: the film’s edges and neighbours are seen', default: 0 }),
  across: percentOfHeight({ name: 'Across', says: 'The aperture off the middle', default: 0, min: -30, max: 30 }),
  down: percentOfHeight({ name: 'Down', says: 'The aperture off the middle', default: 0, min: -30, max: 30 }),
  perforations: toggle({ name: 'Perforations', says: 'Seen where the gate is opened far enough', default: true }),
  colour: colour({ name: 'Base', says: 'Of the film between and beside the pictures', default: [0.062, 0.045, 0.035] }),
  opacity: share({ name: 'Opacity', says: 'How far what lies outside is covered', default: 1 }),
};

export type GateSettings = Values<typeof settings>;
