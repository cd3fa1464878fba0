import { bytesPerSample, codeSpans, planeShapes, type Encoding } from '@tin-ghost/core';
import { encodingFor, type Coding } from './codings';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** The size a coding can hold nearest to the one wanted. */
export function printSize(width: number, height: number, coding: Coding): { width: number; height: number } {
  if (encodingFor(coding, 8).layout === 'rgb') return { width, height };
  return { width: Math.max(2, width & ~1), height: Math.max(2, height & ~1) };
}

/** Shapes that differ by less than this are the same: the picture fills the film, and no bar of a pixel is left. */
const SAME_SHAPE = 0.01;

/** The largest size of a picture's own shape within a film's. */
export function within(picture: Size, film: Size, coding: Coding): Size {
  const [shape, wanted] = [picture.width / picture.height, film.width / film.height];
  if (Math.abs(shape / wanted - 1) < SAME_SHAPE) return film;
  const width = shape > wanted ? film.width : Math.round(film.height * shape);
  const height = shape > wanted ? Math.round(film.width / shape) : film.height;
  return printSize(width, height, coding);
}

/** A picture in the middle of a film's, black about it; what fills it is handed on as it is. */
export function centred(planes: Uint8Array[], encoding: Encoding, picture: Size, film: Size): Uint8Array[] {
  if (picture.width === film.width && picture.height === film.height) return planes;
  const [inner, outer] = [planeShapes(picture.width, picture.height, encoding), planeShapes(film.width, film.height, encoding)];
  const bytes = bytesPerSample(encoding);
  const { black, middle } = codeSpans(encoding);
  return planes.map((plane, i) => {
    // Alpha has the shape of the others, and is clear where nothing is.
    const [from, to] = [inner[i] ?? inner[0]!, outer[i] ?? outer[0]!];
    const out = new Uint8Array(to.stride * to.height);
    const empty = encoding.layout === 'rgb' ? 0 : i === 0 ? black : middle;
    if (bytes === 1) out.fill(empty);
    else new Uint16Array(out.buffer).fill(empty);
    const [across, down] = [(to.width - from.width) >> 1, (to.height - from.height) >> 1];
    for (let y = 0; y < from.height; y++) out.set(plane.subarray(y * from.stride, (y + 1) * from.stride), (y + down) * to.stride + across * bytes);
    return out;
  });
}
