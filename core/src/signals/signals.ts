/** Test signals as float pictures: what goes in is known, so what comes out can be measured. */

// Taken once: in hot loops each look-up of a global costs.
const { PI, abs, cos, floor, max, min, round } = Math;

export const SIGNALS = ['bars', 'ramp', 'sweep', 'grid', 'grey', 'pulse', 'steps'] as const;
export type Signal = (typeof SIGNALS)[number];

export interface SignalOptions {
  readonly width: number;
  readonly height: number;
  /** 0..1: the grey of `grey`, the white of all others. Defaults: 0.5 for grey, 0.75 for bars, else 1. */
  readonly level?: number;
}

type Sample = (x: number, y: number, o: Required<SignalOptions>) => readonly [number, number, number];

const same = (v: number): readonly [number, number, number] => [v, v, v];

/** White, yellow, cyan, green, magenta, red, blue, black. */
const BARS = [7, 6, 3, 2, 5, 4, 1, 0];

const SAMPLES: Record<Signal, Sample> = {
  bars: (x, _y, o) => {
    const bar = BARS[min(7, floor((x * 8) / o.width))]!;
    return [bar & 4 ? o.level : 0, bar & 2 ? o.level : 0, bar & 1 ? o.level : 0];
  },
  ramp: (x, _y, o) => same((o.level * x) / max(1, o.width - 1)),
  // A sine whose frequency rises evenly from 0 at the left to half a cycle a pixel at the right.
  sweep: (x, _y, o) => same(o.level * (0.5 + 0.5 * cos((PI / 2) * ((x * x) / o.width)))),
  // Lines one pixel wide, sixteen squares over the height.
  grid: (x, y, o) => {
    const pitch = max(2, round(o.height / 16));
    return same(x % pitch === 0 || y % pitch === 0 ? o.level : 0);
  },
  grey: (_x, _y, o) => same(o.level),
  // A raised-cosine pulse four pixels wide at a quarter of the width, a broad bar from a half to three quarters.
  pulse: (x, _y, o) => {
    const from = abs(x - round(o.width / 4));
    if (from < 4) return same(o.level * (0.5 + 0.5 * cos((PI * from) / 4)));
    return same(x >= o.width / 2 && x < (o.width * 3) / 4 ? o.level : 0);
  },
  steps: (x, _y, o) => same((o.level * min(10, floor((x * 11) / o.width))) / 10),
};

/** Three planes (red, green, blue) of `width * height` floats, row by row. */
export function signalPicture(signal: Signal, options: SignalOptions): [Float32Array, Float32Array, Float32Array] {
  const level = options.level ?? (signal === 'grey' ? 0.5 : signal === 'bars' ? 0.75 : 1);
  const { width, height } = options;
  const planes: [Float32Array, Float32Array, Float32Array] = [new Float32Array(width * height), new Float32Array(width * height), new Float32Array(width * height)];
  const [sample, asked] = [SAMPLES[signal], { width, height, level }];
  for (let y = 0; y < height; y++) {
    if (y > 0 && signal !== 'grid') {
      // Of all others each row is as the first.
      for (const plane of planes) plane.copyWithin(y * width, 0, width);
      continue;
    }
    for (let x = 0; x < width; x++) {
      const rgb = sample(x, y, asked);
      for (let i = 0; i < 3; i++) planes[i]![y * width + x] = rgb[i]!;
    }
  }
  return planes;
}

/** Float planes as integer R'G'B' planes of a file, 8 to 16 bits. */
export function toCodes(planes: readonly Float32Array[], bits: number): Uint8Array[] {
  const white = 2 ** bits - 1;
  return planes.map((plane) => {
    const codes = bits > 8 ? new Uint16Array(plane.length) : new Uint8Array(plane.length);
    let [last, code] = [0, 0];
    for (let i = 0; i < plane.length; i++) {
      const v = plane[i]!;
      // Signals are even over wide parts.
      if (v !== last) [last, code] = [v, round(max(0, min(1, v)) * white)];
      codes[i] = code;
    }
    return new Uint8Array(codes.buffer);
  });
}
