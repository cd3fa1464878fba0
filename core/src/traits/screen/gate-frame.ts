import { REFERENCE_GATE } from '../../carriers';
import { cubicTaps, Resampler, whole } from '../../frame/resample';
import { floatStride, rowAt } from '../../frame/surface';
import { clouds } from '../../shapes/clouds';
import { colour, micrometres, percent, percentOfHeight, share, toggle } from '../settings';
import { perSettings, trait, type Beside, type Pass, type Values } from '../trait';
import { framePitch } from '../units';

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

/** A picture of another shape uses less of the gate's height than there is, down to one in so many. */
const WIDEST = 2;

/** What has been stands above the picture, what comes next below. */
const [BEFORE, AFTER]: [Beside, Beside] = [-1, 1];

/** The camera's own aperture, whose picture the film carries: corners in shares of the picture's height, an edge in millimetres, its burr in shares of the gate's. */
const CAMERA = { corner: 0.03, edge: 0.02, burr: 0.35 } as const;

/** How sharply a die cuts film, as it is seen: millimetres from dark to light. */
const CUT = 0.012;
/** Signals of bare light and of what the aperture holds back. */
const [LAMP, BLACK] = [1.04, 0.035];
const LAMPS = [LAMP, LAMP, LAMP] as const;
/** Room beside the picture for film that has moved, in shares of its width. */
const MARGIN = 0.06;

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
  showsFilm: true,
  beside({ settings: s, carrier }) {
    const gate = (carrier.gate ?? REFERENCE_GATE).height;
    const line = ((carrier.film ?? USUAL).pitch / gate - 1) * s.scale;
    const beyond = Math.abs(s.down) + (WIDEST * (s.fuzz + BURR_MOST * s.burr)) / (10 * gate);
    const seen = s.open > 0 || s.opacity < 1 || beyond > line;
    return seen && (100 - s.scale) / 2 > line ? [BEFORE, AFTER] : [];
  },
  prepare({ engine, units, carrier, seed, store, own }) {
    const k = engine.kernels;
    const { width, height, micrometresPerPixel } = units;
    const film = carrier.film ?? USUAL;
    const resampler = own(new Resampler(engine, width, height));
    const [mask, holes, rims, mixed, list, weights] = [store(), store(), store(), store(), store(), store()];
    const pixels = (mm: number): number => (mm * 1000) / micrometresPerPixel;
    // Round a picture that has no gate the film lies as much farther out.
    const farther = carrier.gate ? 0 : width / 2;
    const outward = (mm: number): number => pixels(mm) + Math.sign(mm) * farther;
    // Filed by hand: large bends and small notches, of unit RMS.
    const burrAt = (x: number, y: number): number =>
      (clouds(seed & 0xffff, (3 * x) / height, (3 * y) / height, 2) + 0.7 * clouds((seed + 3) & 0xffff, (42 * x) / height, (42 * y) / height, 2)) / FILED;
    const inside = (d: number, wide: number): number => max(0, min(1, 0.5 - d / wide));
    const stride = floatStride(width);
    // Film moves to the side by so much at most.
    const margin = Math.ceil(MARGIN * width);
    const filmStride = floatStride(width + 2 * margin + 8);
    const between = framePitch(carrier, units) ?? pixels(film.pitch);
    /** From a picture to the next as shown; of the parity of the picture's height, so that film at rest falls on whole rows. */
    const pitchOf = (s: S): number => Math.max(1, height + 2 * Math.round((between * s.scale - height) / 2));

    /** Works out how much of each pixel the aperture holds back, and from which column on and up to which it holds back nothing. */
    const aperture = perSettings((s: S) => {
      const dark = engine.floats(mask.at(stride * height), (stride / 4) * height);
      const edge = max(1, s.fuzz);
      // The aperture grows from the picture's own size to all that there is.
      const size = s.scale + s.open * (1.02 - s.scale);
      const shape = s.shape > 0 ? Math.max(0.2, s.shape) : width / height;
      const halfWidth = (Math.min(width, height * shape) / 2) * size;
      const halfHeight = (Math.min(height, width / shape) / 2) * size;
      const corner = s.corner * (1 - 0.5 * s.open);
      return Array.from({ length: height }, (_, y): readonly [number, number] => {
        const row = dark.subarray((y * stride) / 4, (y * stride) / 4 + width);
        const py = y + 0.5 - height / 2;
        for (let x = 0; x < width; x++) {
          const at = outside(x + 0.5 - width / 2 - s.across, py - s.down, halfWidth, halfHeight, corner);
          const near = abs(at) < edge + BURR_MOST * s.burr ? s.burr * burrAt(x, y) : 0;
          row[x] = s.opacity * (1 - inside(at + near, edge));
        }
        let [from, to] = [0, width];
        while (from < width && row[from]! > 0) from++;
        while (to > from && row[to - 1]! > 0) to--;
        for (let x = from; x < to; x++) if (row[x]! > 0) return [width, width];
        // Rows are laid in groups of four.
        return [(from + 3) & ~3, to & ~3];
      });
    });

    /** Works out, over one picture of the film and the lines about it, what is base and what is bare light; each picture's is the same. */
    const filmAbout = perSettings((s: S): number => {
      const pitch = pitchOf(s);
      // All room is taken before any of it is looked at: memory that grows leaves earlier views behind.
      const places = [holes, rims].map((plane) => plane.at(filmStride * pitch));
      const [bare, rim] = places.map((at) => engine.floats(at, (filmStride / 4) * pitch)) as [Float32Array, Float32Array];
      const [halfWidth, halfHeight, corner] = [(width * s.scale) / 2, (height * s.scale) / 2, CAMERA.corner * height * s.scale];
      const edge = max(1, pixels(CAMERA.edge) * s.scale);
      const cut = max(1, pixels(CUT) * s.scale);
      const [hw, hh] = [(pixels(film.perforation.width) * s.scale) / 2, (pixels(film.perforation.height) * s.scale) / 2];
      const [left, right] = [outward(film.edges.left) * s.scale, outward(film.edges.right) * s.scale];
      for (let y = 0; y < pitch; y++) {
        const py = y + 0.5 - pitch / 2;
        for (let x = 0; x < width + 2 * margin; x++) {
          const px = x + 0.5 - margin - width / 2;
          const i = (y * filmStride) / 4 + x;
          // Each picture has the edge that the camera gave it.
          const off = outside(px, py, halfWidth, halfHeight, corner);
          rim[i] = off < -BURR_MOST * CAMERA.burr * s.burr - edge ? 0 : 1 - inside(off + CAMERA.burr * s.burr * burrAt(width - px, py + height), edge);
          // Beside the film the lamp is bare.
          let light = max(inside(px - left, cut), inside(right - px, cut));
          if (s.perforations)
            for (const hole of film.perforations)
              for (const next of [-1, 0, 1]) light = max(light, inside(outside(px - outward(hole.x) * s.scale, py - (hole.y / film.pitch + next) * pitch, hw, hh, hh * 0.35), cut));
          bare[i] = light;
        }
      }
      return pitch;
    });
    const aim = perSettings((s: S, x: number, y: number) => {
      const [left, top] = [(width * (1 - s.scale)) / 2 + x, (height * (1 - s.scale)) / 2 + y];
      resampler.aim(cubicTaps(width, -left / s.scale, 1 / s.scale), cubicTaps(height, -top / s.scale, 1 / s.scale));
    });

    /** The pictures of the film: this one, those above it and those below, as far as the frame reaches. @param x @param y from their place */
    const pictures = ({ surface, settings: s, spare, swap, beside }: Pass<typeof settings>, x: number, y: number): void => {
      const { stride: wide } = surface;
      const pitch = pitchOf(s);
      const down = Math.floor(y);
      aim(s, x, y - down);
      const [left, top] = [(width * (1 - s.scale)) / 2 + x, (height * (1 - s.scale)) / 2 + y - down];
      const [first, last] = [Math.round(top), Math.round(top + height * s.scale)];
      const [fromLeft, toRight] = [Math.max(0, Math.round(left)), Math.min(width, Math.round(left + width * s.scale))];
      const most = Math.ceil((height + Math.abs(down)) / pitch);
      for (let plane = 0; plane < 3; plane++) {
        const base = s.colour[plane]!;
        for (let row = 0; row < height; row++) k.fillRow(spare[plane]! + row * wide, width, base);
        for (let above = -most; above <= most; above++) {
          const at = (above > 0 ? beside(BEFORE) : above < 0 ? beside(AFTER) : surface.planes)[plane]!;
          const [from, to] = [Math.max(first, above * pitch - down), Math.min(last, height + above * pitch - down)];
          if (from < to) resampler.runFrom(spare[plane]! + (from + down - above * pitch) * wide, wide, whole(at, wide, height), from, to);
        }
        for (let row = 0; row < height; row++)
          engine
            .floats(spare[plane]! + row * wide, width)
            .fill(base, 0, fromLeft)
            .fill(base, toRight);
      }
      for (let plane = 0; plane < 3; plane++) swap(plane);
    };

    /** Base about the pictures, perforations and bare light. */
    const laidAbout = ({ surface, settings: s }: Pass<typeof settings>, x: number, y: number): void => {
      const pitch = filmAbout(s);
      const across = margin - x;
      const [column, part] = [Math.floor(across), across - Math.floor(across)];
      const row = mixed.at(stride);
      for (let to = 0; to < height; to++) {
        const along = to + (pitch - height) / 2 - y;
        const [upper, share] = [Math.floor(along), along - Math.floor(along)];
        const places = [upper, upper + 1].map((at) => (((at % pitch) + pitch) % pitch) * filmStride + column * 4);
        const four = weights.floats(Float32Array.of((1 - share) * (1 - part), (1 - share) * part, share * (1 - part), share * part));
        for (const [plane, colour] of [
          [rims, s.colour],
          [holes, LAMPS],
        ] as const) {
          const start = plane.at(0);
          engine.ints(list.at(16), 4).set([start + places[0]!, start + places[0]! + 4, start + places[1]!, start + places[1]! + 4]);
          k.mixRows(row, list.at(0), four, 4, width);
          for (let i = 0; i < 3; i++) k.layRow(rowAt(surface, i, to), row, width, colour[i]!, 1);
        }
      }
    };

    return (pass) => {
      const { surface, settings: s, displaced } = pass;
      const [x, y] = [max(-margin, min(margin, displaced.x * s.scale)), displaced.y * s.scale];
      if (s.scale < 1) pictures(pass, x, y);
      if (s.open > 0) laidAbout(pass, x, y);
      const clear = aperture(s);
      for (let row = 0; row < height; row++) {
        const [from, to] = clear[row]!;
        const cover = mask.at(0) + row * stride;
        for (let plane = 0; plane < 3; plane++) {
          const at = rowAt(surface, plane, row);
          k.layRow(at, cover, from, BLACK, 1);
          if (from < to) k.layRow(at + to * 4, cover + to * 4, width - to, BLACK, 1);
        }
      }
    };
  },
});
