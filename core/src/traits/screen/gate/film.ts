import type { Film } from '../../../carriers';
import { floatStride, rowAt, type Surface } from '../../../frame/surface';
import { perSettings, type Setup } from '../../trait';
import { BURR_MOST, burr, inside, outside } from './edge';
import type { GateSettings } from './settings';

// Taken once: in hot loops each look-up of a global costs.
const { max } = Math;

/** The camera's own aperture, whose picture the film carries: corners in shares of the picture's height, an edge in millimetres, its burr in shares of the gate's. */
const CAMERA = { corner: 0.03, edge: 0.02, burr: 0.35 } as const;
/** How sharply a die cuts film, as it is seen: millimetres from dark to light. */
const CUT = 0.012;
/** Signal of bare light. */
const LAMP = 1.04;
const LAMPS = [LAMP, LAMP, LAMP] as const;

/** What is about the pictures of the film: its base, its perforations and edges, bare light beside it. @returns what lays it on a picture that has moved by x and y */
export function filmAbout(
  { engine, units: { width, height, micrometresPerPixel }, carrier, seed, store }: Setup,
  film: Film,
  margin: number,
  pitchOf: (s: GateSettings) => number,
): (surface: Surface, s: GateSettings, x: number, y: number) => void {
  const k = engine.kernels;
  const [holes, rims, mixed, list, weights] = [store(), store(), store(), store(), store()];
  const pixels = (mm: number): number => (mm * 1000) / micrometresPerPixel;
  // Round a picture that has no gate the film lies as much farther out.
  const farther = carrier.gate ? 0 : width / 2;
  const outward = (mm: number): number => pixels(mm) + Math.sign(mm) * farther;
  const stride = floatStride(width);
  const filmStride = floatStride(width + 2 * margin + 8);

  /** Works out, over one picture of the film and the lines about it, what is base and what is bare light; each picture's is the same. */
  const drawn = perSettings((s: GateSettings): number => {
    const pitch = pitchOf(s);
    // All room is taken before any of it is looked at: memory that grows leaves earlier views behind.
    const places = [holes, rims].map((plane) => plane.at(filmStride * pitch));
    const [bare, rim] = places.map((at) => engine.floats(at, (filmStride / 4) * pitch)) as [Float32Array, Float32Array];
    const [halfWidth, halfHeight, corner] = [(width * s.scale) / 2, (height * s.scale) / 2, CAMERA.corner * height * s.scale];
    // Numbered so that it is another piece of the same file's work than the projector's.
    const burrAt = burr(seed, height, [width, height], halfWidth, halfHeight);
    const edge = max(1, pixels(CAMERA.edge) * s.scale);
    // So far to either side of a straight edge the burr decides.
    const unsure = BURR_MOST * CAMERA.burr * s.burr + edge;
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
        if (off < -unsure) rim[i] = 0;
        else rim[i] = off > unsure ? 1 : 1 - inside(off + CAMERA.burr * s.burr * burrAt(px, py), edge);
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

  return (surface, s, x, y) => {
    const pitch = drawn(s);
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
}
