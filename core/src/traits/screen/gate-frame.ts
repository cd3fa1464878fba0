import { REFERENCE_GATE } from '../../carriers';
import { cubicTaps, Resampler, whole } from '../../frame/resample';
import { rowAt } from '../../frame/surface';
import { clouds } from '../../shapes/clouds';
import { colour, micrometres, percent, percentOfHeight, share, toggle } from '../settings';
import { perSettings, trait, type Beside, type Values } from '../trait';

// Taken once: in hot loops each look-up of a global costs.
const { abs, max, min, sqrt } = Math;

const settings = {
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
type S = Values<typeof settings>;

/** RMS of what a file leaves before it is brought to 1, and the most of it after. */
const FILED = 0.39;
const BURR_MOST = 1.7 / FILED;

/** What has been stands above the picture, what comes next below. */
const [BEFORE, AFTER]: [Beside, Beside] = [-1, 1];

/** The camera's own aperture, whose picture the film carries: corners in shares of the picture's height, an edge in millimetres, its burr in shares of the gate's. */
const CAMERA = { corner: 0.03, edge: 0.02, burr: 0.35 } as const;

/** How sharply a die cuts film, as it is seen: millimetres from dark to light. */
const CUT = 0.012;
/** Signals of bare light and of what the aperture holds back. */
const [LAMP, BLACK] = [1.04, 0.035];

/** Film round a picture where the carrier is none. */
const USUAL = { pitch: 7.62, perforations: [], perforation: { width: 1.8, height: 1.27 }, edges: { left: -8, right: 8 } } as const;

/** Distance from a rounded rectangle about the origin, below 0 inside. */
function outside(x: number, y: number, halfWidth: number, halfHeight: number, corner: number): number {
  const r = min(corner, halfWidth, halfHeight);
  const [dx, dy] = [abs(x) - halfWidth + r, abs(y) - halfHeight + r];
  const [ox, oy] = [max(0, dx), max(0, dy)];
  return sqrt(ox * ox + oy * oy) + min(0, max(dx, dy)) - r;
}

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
  beside({ settings: s, carrier }) {
    const gate = (carrier.gate ?? REFERENCE_GATE).height;
    const line = ((carrier.film ?? USUAL).pitch / gate - 1) * s.scale;
    const beyond = Math.abs(s.down) + (s.fuzz + BURR_MOST * s.burr) / (10 * gate);
    const seen = s.open > 0 || s.opacity < 1 || beyond > line;
    return seen && (100 - s.scale) / 2 > line ? [BEFORE, AFTER] : [];
  },
  prepare({ engine, units, carrier, seed, store, own }) {
    const k = engine.kernels;
    const { width, height, micrometresPerPixel } = units;
    const film = carrier.film ?? USUAL;
    const resampler = own(new Resampler(engine, width, height));
    const [mask, holes, rims] = [store(), store(), store()];
    const pixels = (mm: number): number => (mm * 1000) / micrometresPerPixel;
    // A picture wider than the gate has its film as much farther out.
    const wider = Math.max(0, (width - pixels(carrier.gate?.width ?? 0)) / 2);
    const outward = (mm: number): number => pixels(mm) + Math.sign(mm) * wider;
    // Filed by hand: large bends and small notches, of unit RMS.
    const burrAt = (x: number, y: number): number =>
      (clouds(seed & 0xffff, (3 * x) / height, (3 * y) / height, 2) + 0.7 * clouds((seed + 3) & 0xffff, (42 * x) / height, (42 * y) / height, 2)) / FILED;

    /** Aims the resampler, and works out the shares of what is dark and of what is bare light at each pixel; the same on every picture. */
    const masks = perSettings((s: S) => {
      const stride = ((width + 7) & ~7) * 4;
      const [edgeLeft, edgeTop] = [(width * (1 - s.scale)) / 2, (height * (1 - s.scale)) / 2];
      resampler.aim(cubicTaps(width, -edgeLeft / s.scale, 1 / s.scale), cubicTaps(height, -edgeTop / s.scale, 1 / s.scale));
      // All room is taken before any of it is looked at: memory that grows leaves earlier views behind.
      const places = [mask, holes, rims].map((plane) => plane.at(stride * height));
      const [dark, bare, rim] = places.map((at) => engine.floats(at, (stride / 4) * height)) as [Float32Array, Float32Array, Float32Array];
      const edge = max(1, s.fuzz);
      const exposed = {
        halfWidth: (width * s.scale) / 2,
        halfHeight: (height * s.scale) / 2,
        corner: CAMERA.corner * height * s.scale,
        edge: max(1, pixels(CAMERA.edge) * s.scale),
      };
      const pitch = Math.round(pixels(film.pitch) * s.scale);
      const cut = max(1, pixels(CUT) * s.scale);
      // The aperture grows from the picture's own size to all that there is.
      const size = s.scale + s.open * (1.02 - s.scale);
      const shape = s.shape > 0 ? Math.max(0.2, s.shape) : width / height;
      const halfWidth = (Math.min(width, height * shape) / 2) * size;
      const halfHeight = (Math.min(height, width / shape) / 2) * size;
      const corner = s.corner * (1 - 0.5 * s.open);
      const [hw, hh] = [(pixels(film.perforation.width) * s.scale) / 2, (pixels(film.perforation.height) * s.scale) / 2];
      const [left, right] = [outward(film.edges.left) * s.scale, outward(film.edges.right) * s.scale];
      const inside = (d: number, wide: number): number => max(0, min(1, 0.5 - d / wide));
      for (let y = 0; y < height; y++) {
        const py = y + 0.5 - height / 2;
        for (let x = 0; x < width; x++) {
          const px = x + 0.5 - width / 2;
          const i = (y * stride) / 4 + x;
          const at = outside(px - s.across, py - s.down, halfWidth, halfHeight, corner);
          const near = abs(at) < edge + BURR_MOST * s.burr ? s.burr * burrAt(x, y) : 0;
          dark[i] = s.opacity * (1 - inside(at + near, edge));
          let [light, base] = [0, 0];
          if (s.open > 0) {
            // Each picture on the film has the edge that the camera gave it, the same on all.
            const own = py - pitch * Math.round(py / pitch);
            const off = outside(px, own, exposed.halfWidth, exposed.halfHeight, exposed.corner);
            base = off < -BURR_MOST * CAMERA.burr * s.burr - exposed.edge ? 0 : 1 - inside(off + CAMERA.burr * s.burr * burrAt(width - x, own + height), exposed.edge);
            if (s.perforations)
              for (const hole of film.perforations) {
                for (const next of [-1, 0, 1]) {
                  const d = outside(px - outward(hole.x) * s.scale, py - (pixels(hole.y) + next * pixels(film.pitch)) * s.scale, hw, hh, hh * 0.35);
                  light = max(light, inside(d, cut));
                }
              }
            // Beside the film the lamp is bare.
            light = max(light, inside(px - left, cut), inside(right - px, cut));
          }
          bare[i] = light;
          rim[i] = base;
        }
      }
      // In the middle of a row nothing lies on the picture: from which column on, and up to which.
      const clear = Array.from({ length: height }, (_, y): readonly [number, number] => {
        const covered = (x: number): boolean => dark[(y * stride) / 4 + x]! > 0 || bare[(y * stride) / 4 + x]! > 0 || rim[(y * stride) / 4 + x]! > 0;
        let [from, to] = [0, width];
        while (from < width && covered(from)) from++;
        while (to > from && covered(to - 1)) to--;
        for (let x = from; x < to; x++) if (covered(x)) return [width, width];
        // Rows are laid in groups of four.
        return [(from + 3) & ~3, to & ~3];
      });
      return { stride, clear };
    });

    return ({ surface, settings: s, spare, swap, beside }) => {
      const { stride, clear } = masks(s);
      const shown = { width: width * s.scale, height: height * s.scale };
      const [left, top] = [(width - shown.width) / 2, (height - shown.height) / 2];
      if (s.scale < 1) {
        const { stride: wide } = surface;
        const shift = Math.round(pixels(film.pitch) * s.scale);
        const [first, last] = [Math.round(top), Math.round(top + shown.height)];
        // Pictures of the film above this one, and as many below, as far as the frame reaches.
        const most = Math.ceil(last / shift) - 1;
        for (let plane = 0; plane < 3; plane++) {
          const base = s.colour[plane]!;
          for (let y = 0; y < height; y++) k.fillRow(spare[plane]! + y * wide, width, base);
          for (let above = -most; above <= most; above++) {
            const at = (above > 0 ? beside(BEFORE) : above < 0 ? beside(AFTER) : surface.planes)[plane]!;
            const [from, to] = [Math.max(first, above * shift), Math.min(last, height + above * shift)];
            if (from < to) resampler.runFrom(spare[plane]! + (from - above * shift) * wide, wide, whole(at, wide, height), from, to);
          }
          for (let y = 0; y < height; y++)
            engine
              .floats(spare[plane]! + y * wide, width)
              .fill(base, 0, Math.round(left))
              .fill(base, Math.round(left + shown.width));
        }
        for (let plane = 0; plane < 3; plane++) swap(plane);
      }
      for (let y = 0; y < height; y++) {
        const [from, to] = clear[y]!;
        const lay = (row: number, cover: number, value: number): void => {
          if (from >= to) return k.layRow(row, cover, width, value, 1);
          k.layRow(row, cover, from, value, 1);
          k.layRow(row + to * 4, cover + to * 4, width - to, value, 1);
        };
        for (let plane = 0; plane < 3; plane++) {
          const row = rowAt(surface, plane, y);
          if (s.open > 0) {
            lay(row, rims.at(0) + y * stride, s.colour[plane]!);
            lay(row, holes.at(0) + y * stride, LAMP);
          }
          lay(row, mask.at(0) + y * stride, BLACK);
        }
      }
    };
  },
});
