/** Rows of a picture in the engine's memory: three float32 planes, the whole height or one band of it. */
export interface Surface {
  /** Addresses of the three planes' first held row. Area traits may exchange them for their spares. */
  readonly planes: [number, number, number];
  /** Bytes a row; rows are padded to a multiple of 8 samples. */
  readonly stride: number;
  readonly width: number;
  /** Rows of the whole picture. */
  readonly height: number;
  /** First row held, and the row after the last. */
  readonly top: number;
  readonly bottom: number;
}

/** Bytes of a padded row of floats. */
export const floatStride = (width: number): number => ((width + 7) & ~7) * 4;

/** Address of row `y` (counted in the whole picture) of a plane. */
export const rowAt = (surface: Surface, plane: number, y: number): number => surface.planes[plane]! + (y - surface.top) * surface.stride;
