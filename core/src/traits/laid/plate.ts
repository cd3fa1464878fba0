import { cornersOf, PlateLayer, plateSize, type PlateInfo, type PlatePlace } from '../../frame/plate';
import { rowAt } from '../../frame/surface';
import { BLENDS, type Blend } from '../../look/blends';
import { choice, colour, degrees, percent, percentOfHeight, percentOfWidth, pictures, plate as plateOf, seconds, share, text, toggle } from '../settings';
import { perSettings, trait, type Values } from '../trait';

type Fit = 'cover' | 'contain' | 'stretch' | 'own';
type Loop = 'loop' | 'hold' | 'once';
type Keep = 'all' | 'flashes';

const BLEND_NAMES = Object.fromEntries(BLENDS.map((name) => [name, name[0]!.toUpperCase() + name.slice(1).replace('-', ' ')])) as Record<Blend, string>;

const settings = {
  plate: plateOf({ name: 'Plate', says: 'The clip or still that is laid over the picture' }),
  mode: choice<Blend>({ name: 'Blend', says: 'How it is laid over what is there', default: 'screen', options: BLEND_NAMES }),
  opacity: share({ name: 'Opacity', says: 'Of the plate', default: 1 }),
  fit: choice<Fit>({
    name: 'Fit',
    says: 'The size it has at a scale of 100 %',
    default: 'cover',
    options: { cover: 'Cover the picture', contain: 'Lie within it', stretch: 'Stretch to it', own: 'Its own, 1:1 at 1080 lines' },
  }),
  x: percentOfWidth({ name: 'Place, across', says: 'Of its middle, from the left edge of the picture', default: 50, min: -100, max: 200 }),
  y: percentOfHeight({ name: 'Place, down', says: 'Of its middle, from the top edge of the picture', default: 50, min: -100, max: 200 }),
  scale: percent({ name: 'Place, scale', says: 'Of its size', default: 100, min: 2, max: 800 }),
  turn: degrees({ name: 'Place, turn', says: 'Clockwise', default: 0, min: -180, max: 180 }),
  flipAcross: toggle({ name: 'Flip across', says: 'Left and right change sides', default: false }),
  flipDown: toggle({ name: 'Flip down', says: 'Top and bottom change sides', default: false }),
  black: percent({ name: 'Levels, black', says: 'What of it counts as black, so that a grey ground is gone', default: 0, min: 0, max: 90 }),
  white: percent({ name: 'Levels, white', says: 'What of it counts as white', default: 100, min: 10, max: 100 }),
  tint: colour({ name: 'Levels, tint', says: 'A colour its own are multiplied by', default: [1, 1, 1] }),
  speed: percent({ name: 'Time, speed', says: 'Of its own', default: 100, min: 1, max: 1000 }),
  begins: seconds({ name: 'Time, begins', says: 'When its first picture is shown', default: 0, min: 0, max: 36_000 }),
  from: seconds({ name: 'Time, from', says: 'What of it is used: from this moment of its own', default: 0, max: 36_000 }),
  to: seconds({ name: 'Time, to', says: 'To this moment; 0 is its end', default: 0, max: 36_000 }),
  loop: choice<Loop>({
    name: 'Time, end',
    says: 'What happens at its end',
    default: 'loop',
    options: { loop: 'Begins again', hold: 'Its last picture stays', once: 'It is gone' },
  }),
  parts: text({
    name: 'Time, parts',
    says: 'What of it is kept, in seconds of its own, one part after the other; empty keeps all',
    default: '',
    most: 400,
    pattern: '^$|^\\d+(\\.\\d+)?-\\d+(\\.\\d+)?(, ?\\d+(\\.\\d+)?-\\d+(\\.\\d+)?)*$',
    form: '0.5-2, 4-6.5',
  }),
  keep: choice<Keep>({
    name: 'Time, keep',
    says: 'All of it, or its bright parts alone, one after the other',
    default: 'all',
    options: { all: 'All of it', flashes: 'Only the flashes' },
  }),
  level: percent({ name: 'Time, flash from', says: 'How bright a picture of it must be, of its brightest, to count as a flash', default: 40, min: 1, max: 100, step: 1 }),
  seam: pictures({ name: 'Time, crossfade', says: 'Over so many of its pictures its end runs into its beginning', default: 0, max: 250 }),
};

type PlateValues = Values<typeof settings>;

/** A plate of its own size is so on a picture of so many lines, and as large beside it on any other. */
const REFERENCE_LINES = 1080;

/** Moments may be rounding errors before their picture. */
const ROUNDING = 1e-6;

/** Ranges as they are written: 0.5-2, 4-6.5. */
const partsOf = (text: string): [number, number][] => (text === '' ? [] : text.split(',').map((part) => part.split('-').map(Number) as [number, number]));

/** The pictures of a plate that are kept, in order: of the part that is used all, or those as bright as a flash, and all where no brightness is known or none is so bright. */
const keptOf = perSettings(
  (from: number, to: number, parts: string, keep: Keep, level: number, frames: number, rate: number, light: readonly number[] | undefined): readonly number[] => {
    const first = Math.max(0, Math.min(frames - 1, Math.round(from * rate)));
    const last = to > 0 ? Math.max(first + 1, Math.min(frames, Math.round(to * rate))) : frames;
    const used = Array.from({ length: last - first }, (_, i) => first + i);
    const chosen = partsOf(parts).flatMap(([begin, end]) => used.filter((picture) => picture >= Math.round(begin * rate) && picture < Math.round(end * rate)));
    const all = chosen.length ? chosen : used;
    if (keep === 'all' || !light) return all;
    const least = level * light.reduce((a, b) => Math.max(a, b), 0);
    const bright = all.filter((picture) => (light[picture] ?? 0) >= least);
    return bright.length ? bright : all;
  },
);

/** The pictures of a plate that are seen at a moment, with their shares; none where it is not there. */
export function platePictures(s: PlateValues, at: number, { frames, rate, light }: PlateInfo): readonly { readonly picture: number; readonly share: number }[] {
  const kept = keptOf(s.from, s.to, s.parts, s.keep, s.level, frames, rate, light);
  const count = kept.length;
  const n = Math.floor((at - s.begins) * s.speed * rate + ROUNDING);
  if (s.loop !== 'loop') {
    if (s.loop === 'once' && (n < 0 || n >= count)) return [];
    return [{ picture: kept[Math.max(0, Math.min(count - 1, n))]!, share: 1 }];
  }
  const seam = Math.min(Math.round(s.seam), Math.floor(count / 2));
  const period = count - seam;
  const cycle = Math.floor(n / period);
  const place = n - cycle * period;
  // Before its beginning there is no end that could run into it.
  if (cycle <= 0 || place >= seam) return [{ picture: kept[((n % period) + period) % period]!, share: 1 }];
  const share = (place + 1) / (seam + 1);
  return [
    { picture: kept[place]!, share },
    { picture: kept[period + place]!, share: 1 - share },
  ];
}

/** How bright a plate is at a moment, of its brightest picture; 0 where it is not there or was not measured. */
function brightness(s: PlateValues, at: number, info: PlateInfo | undefined): number {
  if (!info?.light) return 0;
  const most = info.light.reduce((a, b) => Math.max(a, b), 1e-6);
  return platePictures(s, at, info).reduce((sum, { picture, share }) => sum + (share * (info.light![picture] ?? 0)) / most, 0);
}

/** Where a plate stands in a picture that is shown in some shape. */
export function platePlace(s: PlateValues, info: PlateInfo, width: number, height: number, shape: number): PlatePlace {
  const seen = plateSize(info);
  const squeeze = width / (height * shape);
  // In units of the height, as it is seen.
  const [w, h] = [shape, 1];
  const own = seen.width / seen.height;
  const across = s.fit === 'cover' ? Math.max(w, h * own) : s.fit === 'contain' ? Math.min(w, h * own) : s.fit === 'stretch' ? w : (own * info.lines) / REFERENCE_LINES;
  const down = s.fit === 'stretch' ? h : across / own;
  return {
    x: s.x,
    y: s.y,
    wide: across * s.scale * height * squeeze,
    high: down * s.scale * height,
    turn: s.turn,
    flipAcross: s.flipAcross,
    flipDown: s.flipDown,
    squeeze,
  };
}

/** A clip or a still laid over the picture: it wears with what carries it by where it stands in the chain, and is held with it. */
export const plate = trait({
  id: 'plate',
  act: 'screen',
  family: 'laid',
  name: 'Plate',
  says: 'A clip or a still of your own lies over the picture.',
  domain: 'display',
  settings,
  footprint: 'point',
  idle: (s) => s.plate === '' || s.opacity === 0,
  activity: ({ settings: s, seconds: at, plate: info }) => brightness({ ...s, speed: s.speed / 100, level: s.level / 100 }, at, info(s.plate)),
  plates(s, at, info) {
    const known = info(s.plate);
    return known ? platePictures(s, at, known).map(({ picture }) => ({ plate: s.plate, picture })) : [];
  },
  corners({ settings: s, size: { width, height }, shape, plate: infoOf, kernels }) {
    const info = infoOf(s.plate);
    return info ? cornersOf(platePlace(s, info, width, height, shape), kernels).map(([x, y]) => [x / width, y / height] as const) : [];
  },
  prepare({ engine, units, shape, plate: infoOf, platePicture, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const layer = own(new PlateLayer(engine, width, height));
    /** Chooses what is seen at a moment; undefined where that is nothing. The bands of a picture share it. */
    const chosen = perSettings((s: PlateValues, at: number): PlateInfo | undefined => {
      const info = infoOf(s.plate);
      if (!info) return undefined;
      const parts = platePictures(s, at, info);
      if (parts.length === 0) return undefined;
      // Colours that come times their alpha are laid as they come, where they need not be known themselves.
      layer.show({
        key: JSON.stringify([s.plate, parts]),
        parts: parts.map(({ picture, share }) => ({ frame: platePicture(s.plate, picture), share })),
        info,
        place: platePlace(s, info, width, height, shape),
        colours: { black: s.black, white: s.white, tint: s.tint, straight: s.mode !== 'normal' },
      });
      return info;
    });
    return ({ surface, seconds: at, settings: s }) => {
      const info = chosen(s, at);
      if (!info) return;
      const straight = s.mode !== 'normal';
      layer.read(surface);
      const mode = BLENDS.indexOf(s.mode);
      for (let y = surface.top; y < surface.bottom; y++) {
        const frame = layer.frameRow(y);
        let cover = frame;
        if (info.stacked) {
          cover = layer.row(3, y);
          if (frame !== 0) k.timesRow(cover, frame, width);
        }
        for (let i = 0 as 0 | 1 | 2; i < 3; i++) {
          const row = rowAt(surface, i, y);
          const top = layer.row(i, y);
          if (info.stacked && !straight) {
            // What lies past its frame is continued, and is none of it.
            if (frame !== 0) k.timesRow(top, frame, width);
            k.overRow(row, top, cover, width, s.opacity);
          } else k.layBlendedRow(row, top, cover, width, s.opacity, mode);
        }
      }
    };
  },
});
