import { REFERENCE_GATE } from '../../carriers';
import { readySettings } from '../settings';
import { trait } from '../trait';
import { framePitch } from '../units';
import { aperture } from './gate/aperture';
import { BURR_MOST } from './gate/edge';
import { filmAbout } from './gate/film';
import { AFTER, BEFORE, pictures } from './gate/pictures';
import { settings, type GateSettings } from './gate/settings';

/** A picture of another shape uses less of the gate's height than there is, down to one in so many. */
const WIDEST = 2;

/** Room beside the picture for film that has moved, in shares of its width. */
const MARGIN = 0.06;

/** Film round a picture where the carrier is none. */
const USUAL = { pitch: 7.62, perforations: [], perforation: { width: 1.8, height: 1.27 }, edges: { left: -8, right: 8 } } as const;

/** The aperture through which the film is seen: round corners, an edge that was filed by hand, and, opened, the film about the picture. */
export const gateFrame = trait({
  id: 'gate-frame',
  act: 'screen',
  still: true,
  media: ['film'],
  name: 'Gate frame',
  says: 'The aperture’s edge, and the film round the picture where the gate is opened.',
  domain: 'display',
  settings,
  footprint: 'area',
  showsFilm: true,
  beside({ settings: s, carrier }) {
    const gate = (carrier.gate ?? REFERENCE_GATE).height;
    const line = ((carrier.film ?? USUAL).pitch / gate - 1) * s.scale;
    const beyond = Math.abs(s.down) + (WIDEST * (s.fuzz + BURR_MOST * s.burr)) / (10 * gate);
    const seen = s.open > 0 || s.opacity < 1 || beyond > line;
    return seen && (100 - s.scale) / 2 > line ? [BEFORE, AFTER] : [];
  },
  presets: readySettings({ scale: 98, corner: 3, fuzz: 20, burr: 4 }, { scale: 84, corner: 9, fuzz: 160, burr: 60, open: 0.2 }),
  prepare(setup) {
    const { units, carrier } = setup;
    const { width, height, micrometresPerPixel } = units;
    const film = carrier.film ?? USUAL;
    // Film moves to the side by so much at most.
    const margin = Math.ceil(MARGIN * width);
    const between = framePitch(carrier, units) ?? (film.pitch * 1000) / micrometresPerPixel;
    /** From a picture to the next as shown; of the parity of the picture's height, so that film at rest falls on whole rows. */
    const pitchOf = (s: GateSettings): number => Math.max(1, height + 2 * Math.round((between * s.scale - height) / 2));
    const show = pictures(setup, pitchOf);
    const layFilm = filmAbout(setup, film, margin, pitchOf);
    const layAperture = aperture(setup);
    return (pass) => {
      const { surface, settings: s, displaced } = pass;
      const [x, y] = [Math.max(-margin, Math.min(margin, displaced.x * s.scale)), displaced.y * s.scale];
      if (s.scale < 1) show(pass, x, y);
      if (s.open > 0) layFilm(surface, s, x, y);
      layAperture(surface, s);
    };
  },
});
