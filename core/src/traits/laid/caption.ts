import { FIELD_NAMES, filledIn, unknownFields, type FieldSettings, type Moment } from '../../text/fields';
import { layOut } from '../../text/layout';
import { Sprite, type Drawn } from '../../text/sprite';
import { bell } from '../../random/random';
import { choice, colour, degrees, font, hertz, percent, percentOfHeight, percentOfWidth, perSecond, seconds, share, text } from '../settings';
import { perSettings, trait, type Values } from '../trait';

/** Characters of a caption at the most. */
const MOST_CHARACTERS = 10_000;

const settings = {
  text: text({ name: 'Text', says: 'Of one line or several; fields in braces run with the picture', default: 'The last tram', most: MOST_CHARACTERS, fields: FIELD_NAMES }),
  font: font({ name: 'Font', says: 'A built-in one, or one of your own', default: 'grotesque' }),
  size: percentOfHeight({ name: 'Size', says: 'Height of a capital', default: 7, min: 0.5, max: 60 }),
  colour: colour({ name: 'Colour', says: 'Of the letters', default: [0.96, 0.93, 0.85] }),
  opacity: share({ name: 'Opacity', says: 'Of all of it', default: 1 }),
  x: percentOfWidth({ name: 'Place, across', says: 'From the left edge of the picture to the text’s left, middle or right', default: 50, min: -50, max: 150 }),
  y: percentOfHeight({ name: 'Place, down', says: 'From the top edge of the picture to the text’s middle', default: 50, min: -50, max: 150 }),
  align: choice<'left' | 'middle' | 'right'>({
    name: 'Place, align',
    says: 'Which side of the text stands at its place',
    default: 'middle',
    options: { left: 'Left', middle: 'Middle', right: 'Right' },
  }),
  turn: degrees({ name: 'Place, turn', says: 'Clockwise', default: 0, min: -180, max: 180 }),
  jitter: percentOfHeight({ name: 'Place, jitter', says: 'How far it jumps from picture to picture, RMS in each direction', default: 0, max: 5 }),
  stretch: percent({ name: 'Letters, stretch', says: 'Their width over what the font says', default: 100, min: 20, max: 400 }),
  spacing: percent({ name: 'Letters, spacing', says: 'Added between them, of a capital’s height', default: 0, min: -50, max: 300 }),
  leading: percent({ name: 'Letters, leading', says: 'From line to line, of a capital’s height', default: 160, min: 50, max: 600 }),
  outline: percentOfHeight({ name: 'Outline, width', says: 'Of the border about the letters', default: 0, max: 5 }),
  outlineColour: colour({ name: 'Outline, colour', says: 'Of the border, and of the copies behind it', default: [0.05, 0.04, 0.04] }),
  copies: share({ name: 'Depth, copies', says: 'Behind the text, each farther away', default: 0, max: 60, step: 1 }),
  copyStep: percentOfHeight({ name: 'Depth, step', says: 'From each copy to the next', default: 0.3, max: 5 }),
  copyWay: degrees({ name: 'Depth, direction', says: '0 to the right, 90 down', default: 45, min: -180, max: 180 }),
  copyShade: share({ name: 'Depth, shade', says: 'What the farthest copy keeps of the colour', default: 0.35 }),
  shadow: share({ name: 'Shadow, opacity', says: 'Of a shadow on the picture', default: 0 }),
  shadowAway: percentOfHeight({ name: 'Shadow, distance', says: 'From the text', default: 0.8, max: 20 }),
  shadowWay: degrees({ name: 'Shadow, direction', says: '0 to the right, 90 down', default: 45, min: -180, max: 180 }),
  shadowBlur: percentOfHeight({ name: 'Shadow, blur', says: 'Sigma of its soft edge', default: 0.4, max: 10 }),
  box: share({ name: 'Box, opacity', says: 'Of a box behind the text', default: 0 }),
  boxColour: colour({ name: 'Box, colour', says: 'Of the box', default: [0, 0, 0] }),
  boxMargin: percentOfHeight({ name: 'Box, margin', says: 'About the text', default: 2, max: 30 }),
  typed: perSecond({ name: 'Typed, rate', says: 'Characters that appear a second; 0 shows all at once', default: 0, max: 100 }),
  typedFrom: seconds({ name: 'Typed, from', says: 'When the first one appears', default: 0, max: 36_000 }),
  blink: hertz({ name: 'Typed, blink', says: 'How often it goes out; 0 never', default: 0, max: 10 }),
  clockFrom: text({
    name: 'Fields, clock from',
    says: 'What {clock} shows at the first picture',
    default: '21:04:00',
    most: 8,
    pattern: '^([01]?\\d|2[0-3]):[0-5]\\d(:[0-5]\\d)?$',
    form: 'h:mm or h:mm:ss',
  }),
  clockForm: choice<FieldSettings['clockForm']>({
    name: 'Fields, clock',
    says: 'How {clock} is written',
    default: '24',
    options: { '24': '21:04:00', '24 short': '21:04', '12': '9:04:00 PM', '12 short': '9:04 PM' },
  }),
  dateFrom: text({
    name: 'Fields, date from',
    says: 'What {date} shows at the first picture; it goes over at the clock’s midnight',
    default: '1987-10-03',
    most: 10,
    pattern: '^\\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\\d|3[01])$',
    form: 'yyyy-mm-dd',
  }),
  dateForm: choice<FieldSettings['dateForm']>({
    name: 'Fields, date',
    says: 'How {date} is written',
    default: 'day month',
    options: { iso: '1987-10-03', 'day month': '3 OCT 1987', 'month day': 'OCT 3 1987', dots: '03.10.1987', slashes: '10/03/87' },
  }),
  counterFrom: text({
    name: 'Fields, counter from',
    says: 'What {counter} shows at the first picture',
    default: '0:00:00',
    most: 10,
    pattern: '^-?\\d{1,3}:[0-5]\\d:[0-5]\\d$',
    form: 'h:mm:ss',
  }),
  counterForm: choice<FieldSettings['counterForm']>({ name: 'Fields, counter', says: 'How {counter} is written', default: 'time', options: { time: '0:12:34', digits: '0754' } }),
  timecodeFrom: text({
    name: 'Fields, timecode from',
    says: 'What {timecode} shows at the first picture; it counts the carrier’s pictures',
    default: '10:00:00:00',
    most: 12,
    pattern: '^\\d{2}:[0-5]\\d:[0-5]\\d:\\d{2,3}$',
    form: 'hh:mm:ss:ff',
  }),
};

/** Letters of a recorder's display: light, with the dark edge of their generator. */
const DISPLAY = { colour: [0.95, 0.95, 0.9], outline: 0.22, outlineColour: [0, 0, 0] } as const;

/** Settings that decide how it is drawn, but for its words and its place. */
const DRAWN_BY = [
  'font',
  'size',
  'align',
  'turn',
  'stretch',
  'spacing',
  'leading',
  'outline',
  'copies',
  'copyStep',
  'copyWay',
  'shadowAway',
  'shadowWay',
  'shadowBlur',
  'boxMargin',
] as const;
const COLOURED_BY = ['colour', 'outlineColour', 'copyShade', 'shadow', 'box', 'boxColour'] as const;

type CaptionValues = Values<typeof settings>;

/** Samples across for one down, in a picture that is shown in some shape. */
const squeezeOf = (width: number, height: number, shape: number): number => width / (height * shape);

/** What stands there at a moment: fields filled in, and as many characters as have been typed. */
function wordsAt(s: CaptionValues, moment: Moment): string {
  const words = filledIn(s.text, s, moment);
  if (s.typed === 0) return words;
  return [...words].slice(0, Math.max(0, Math.floor((moment.seconds - s.typedFrom) * s.typed + 1e-6))).join('');
}

/** A title or a recorder's display: it wears with what carries it by where it stands in the chain. */
export const caption = trait({
  id: 'caption',
  act: 'lens',
  family: 'laid',
  name: 'Caption',
  says: 'Words in the picture: a title, or a display with clock, date and counter.',
  domain: 'display',
  settings,
  footprint: 'point',
  presets: {
    'Title, heavy': { font: 'condensed', size: 14, outline: 0.5, copies: 10, copyStep: 0.2, copyWay: 50 },
    'Title, by hand': { font: 'script', size: 13, shadow: 0.6 },
    'Title card, typed': { font: 'typewriter', size: 6, leading: 190, typed: 9 },
    Subtitle: { font: 'grotesque', size: 4, y: 90, outline: 0.25, leading: 170 },
    'Recorder, playing': { text: 'PLAY {play}\n{counter}', font: 'display', size: 4.4, x: 9, y: 14, align: 'left', leading: 150, ...DISPLAY },
    'Camera, recording': { text: '{rec} REC   {battery}\n{counter}', font: 'display', size: 4.4, x: 91, y: 14, align: 'right', leading: 150, ...DISPLAY },
    'Camera, date and clock': { text: '{date}\n{clock}', font: 'display', size: 4.4, x: 9, y: 86, align: 'left', leading: 150, clockForm: '24 short', ...DISPLAY },
    'Watching camera': {
      text: 'CAM 2  {date}  {clock}',
      font: 'mono',
      size: 3,
      x: 5,
      y: 94,
      align: 'left',
      dateForm: 'iso',
      box: 0.75,
      boxMargin: 1.2,
      colour: [0.92, 0.94, 0.92],
    },
    'Timecode window': { text: '{timecode}', font: 'mono', size: 4, y: 88, box: 0.8, boxMargin: 1.6, colour: [1, 1, 1] },
  },
  idle: (s) => s.text.trim() === '' || s.opacity === 0,
  tells(s) {
    const unknown = unknownFields(s.text);
    return unknown.length ? `There is no field {${unknown[0]}}; there are ${FIELD_NAMES.map((name) => `{${name}}`).join(', ')}.` : '';
  },
  corners({ settings: s, picture, seconds: at, rate, shape, size: { width, height }, font: fontOf, kernels }) {
    const outlines = fontOf(s.font);
    if (!outlines) return [];
    const words = filledIn(s.text, s, { picture, seconds: at, rate });
    const { block, place } = layOut(words, outlines, { ...s, squeeze: squeezeOf(width, height, shape) }, kernels);
    return (
      [
        [block.left, block.top],
        [block.right, block.top],
        [block.right, block.bottom],
        [block.left, block.bottom],
      ] as const
    ).map((corner) => {
      const [x, y] = place(...corner);
      return [x / width, y / height] as const;
    });
  },
  prepare({ engine, units, seed, rate, shape, font: fontOf, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const squeeze = squeezeOf(width, height, shape);
    const sprite = own(new Sprite(engine, width, height));
    /** Draws what is seen at a picture; false where that is nothing. Its bands share it. */
    const drawn = perSettings((s: CaptionValues, picture: number, at: number): boolean => {
      const outlines = fontOf(s.font);
      if (!outlines || (s.blink > 0 && (at * s.blink) % 1 >= 0.5)) return false;
      const words = wordsAt(s, { seconds: at, picture, rate });
      if (words.trim() === '') return false;
      const jump = (way: number): number => s.jitter * bell(seed, picture, way);
      const [x, y] = s.jitter > 0 ? [s.x + jump(0) * squeeze, s.y + jump(1)] : [s.x, s.y];
      const draw = (): Drawn => ({
        laid: layOut(words, outlines, { ...s, x, y, squeeze }, k),
        squeeze,
        outline: s.outline,
        depth: { copies: Math.round(s.copies), x: s.copyStep * k.cos(s.copyWay), y: s.copyStep * k.sin(s.copyWay) },
        ...(s.shadow > 0 && { shadow: { x: s.shadowAway * k.cos(s.shadowWay), y: s.shadowAway * k.sin(s.shadowWay), blur: s.shadowBlur } }),
        ...(s.box > 0 && { box: s.boxMargin }),
      });
      sprite.make(JSON.stringify([words, x, y, s.shadow > 0, s.box > 0, ...DRAWN_BY.map((key) => s[key])]), draw, JSON.stringify(COLOURED_BY.map((key) => s[key])), {
        fill: s.colour,
        outline: s.outlineColour,
        shade: s.copyShade,
        shadow: s.shadow,
        box: s.boxColour,
        boxShare: s.box,
      });
      return true;
    });
    return ({ surface, picture, seconds: at, settings: s }) => {
      if (drawn(s, picture, at)) sprite.lay(surface, s.opacity);
    };
  },
});
