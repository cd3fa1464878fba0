import { cornersOf, PlateLayer, plateSize, type PlateInfo, type PlatePlace } from '../../frame/plate';
import { rowAt } from '../../frame/surface';
import { BLEND_NAMES, BLENDS, type Blend } from '../../look/blends';
import { choice, colour, degrees, percent, percentOfHeight, percentOfWidth, pictures, plate as plateOf, seconds, share, text, toggle } from '../settings';
import { perSettings, trait, type Values } from '../trait';

type Fit = 'cover' | 'contain' | 'stretch' | 'own';
type Loop = 'loop' | 'hold' | 'once';
type Keep = 'all' | 'flashes';

const SECONDS = '\\d{1,5}(\\.\\d+)?';
const PART = `${SECONDS}-${SECONDS}(@${SECONDS})?`;

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
    says: 'What of it is kept, in seconds of its own, one part after the other or at a moment of its pass after @; empty keeps all',
    default: '',
    most: 8000,
    pattern: `^$|^${PART}(, ?${PART})*$`,
    form: '0.5-2, 4-6.5@8',
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

/** A part of a plate that is kept, in its pictures: from one up to another, shown from one of its pass on. */
export interface PlatePart {
  readonly from: number;
  readonly to: number;
  readonly at: number;
}

/** Parts as they are written, in seconds: 0.5-2, 4-6.5@8; what follows @ is when it is shown, else it follows the last one. */
const writtenParts = (text: string): { from: number; to: number; at: number | undefined }[] =>
  (text === '' ? [] : text.split(',')).map((part) => {
    const [range, at] = part.split('@');
    const [from, to] = range!.split('-').map(Number);
    return { from: from!, to: to!, at: at === undefined ? undefined : Number(at) };
  });

/** Parts, in seconds, as `parts` of a plate takes them. */
export const writeParts = (parts: readonly { readonly from: number; readonly to: number; readonly at: number }[]): string => {
  let last = 0;
  return parts
    .map(({ from, to, at }) => {
      const follows = Math.abs(at - last) < 5e-4;
      last = at + to - from;
      return `${round3(from)}-${round3(to)}${follows ? '' : `@${round3(at)}`}`;
    })
    .join(', ');
};
const round3 = (v: number): number => Math.round(v * 1000) / 1000;

/** Runs of the pictures of a part that are as bright as a flash. */
function flashesIn({ from, to }: { from: number; to: number }, light: readonly number[], least: number): { from: number; to: number }[] {
  const runs: { from: number; to: number }[] = [];
  for (let picture = from; picture < to; picture++) {
    if ((light[picture] ?? 0) < least) continue;
    const last = runs.at(-1);
    if (last?.to === picture) last.to++;
    else runs.push({ from: picture, to: picture + 1 });
  }
  return runs;
}

/** What of a plate is kept, and when in its pass: of the part that is used all, or those parts that are written, or the runs of it as bright as a flash; all where no brightness is known or none is so bright. */
export const partsKept = perSettings(
  (from: number, to: number, parts: string, keep: Keep, level: number, frames: number, rate: number, light: readonly number[] | undefined): readonly PlatePart[] => {
    const first = Math.max(0, Math.min(frames - 1, Math.round(from * rate)));
    const last = to > 0 ? Math.max(first + 1, Math.min(frames, Math.round(to * rate))) : frames;
    const written = writtenParts(parts)
      .map((part) => ({
        from: Math.max(first, Math.round(part.from * rate)),
        to: Math.min(last, Math.round(part.to * rate)),
        at: part.at === undefined ? undefined : Math.round(part.at * rate),
      }))
      .filter((part) => part.to > part.from);
    const used: { from: number; to: number; at: number | undefined }[] = written.length ? written : [{ from: first, to: last, at: undefined }];
    const least = light && keep === 'flashes' ? level * light.reduce((a, b) => Math.max(a, b), 0) : 0;
    const bright = least > 0 ? used.flatMap((part) => flashesIn(part, light!, least).map((run, i) => ({ ...run, at: i === 0 ? part.at : undefined }))) : [];
    let end = 0;
    return (bright.length ? bright : used).map((part) => {
      const at = part.at ?? end;
      end = at + part.to - part.from;
      return { from: part.from, to: part.to, at };
    });
  },
);

/** The picture of a plate at a place of its pass; undefined where none of its parts is shown. Of two at once the later one is. */
function pictureAt(parts: readonly PlatePart[], place: number): number | undefined {
  const part = parts.findLast(({ from, to, at }) => place >= at && place < at + to - from);
  return part && part.from + place - part.at;
}

/** How many pictures a pass of a plate has. */
export const passLength = perSettings((parts: readonly PlatePart[]): number => parts.reduce((most, { from, to, at }) => Math.max(most, at + to - from), 0));

/** The pictures of a plate that are seen at a moment, with their shares; none where it is not there. */
export function platePictures(s: PlateValues, at: number, { frames, rate, light }: PlateInfo): readonly { readonly picture: number; readonly share: number }[] {
  const parts = partsKept(s.from, s.to, s.parts, s.keep, s.level, frames, rate, light);
  const count = passLength(parts);
  const n = Math.floor((at - s.begins) * s.speed * rate + ROUNDING);
  const alone = (place: number): readonly { picture: number; share: number }[] => {
    const picture = pictureAt(parts, place);
    return picture === undefined ? [] : [{ picture, share: 1 }];
  };
  if (s.loop !== 'loop') {
    if (s.loop === 'once' && (n < 0 || n >= count)) return [];
    return alone(Math.max(0, Math.min(count - 1, n)));
  }
  const seam = Math.min(Math.round(s.seam), Math.floor(count / 2));
  const period = count - seam;
  const cycle = Math.floor(n / period);
  const place = n - cycle * period;
  // Before its beginning there is no end that could run into it.
  if (cycle <= 0 || place >= seam) return alone(place);
  const [begins, ends] = [pictureAt(parts, place), pictureAt(parts, period + place)];
  // Where one of the two shows nothing the other is seen as it is.
  if (begins === undefined) return alone(period + place);
  if (ends === undefined) return alone(place);
  const share = (place + 1) / (seam + 1);
  return [
    { picture: begins, share },
    { picture: ends, share: 1 - share },
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
