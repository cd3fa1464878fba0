import { DOMAIN_ROWS } from '../../frame/domain-rows';
import { LUMA_WEIGHTS } from '../../frame/encoding';
import { rowAt } from '../../frame/surface';
import { choice, milliseconds, readySettings } from '../settings';
import { perSettings, trait, type Values } from '../trait';

/** Light of each tube, of which the strongest channel is 1: a yellowish green and an amber of data terminals, and white of 9300 K (x 0.283, y 0.297). */
const TUBES = {
  colour: { name: 'Colour', light: undefined },
  white: { name: 'White', light: [1, 1, 1] },
  'blue-white': { name: 'Blue-white', light: [0.63, 0.752, 1] },
  green: { name: 'Green', light: [0.08, 1, 0.2] },
  amber: { name: 'Amber', light: [1, 0.46, 0.02] },
} as const satisfies Record<string, { name: string; light: readonly number[] | undefined }>;
type Tube = keyof typeof TUBES;

const names = Object.fromEntries(Object.entries(TUBES).map(([id, { name }]) => [id, name])) as Record<Tube, string>;

const decay = (name: string, value: number) => milliseconds({ name, says: 'Time in which its light falls to a tenth', default: value, max: 400, step: 0.1, min: 0.1 });
const settings = {
  tube: choice<Tube>({ name: 'Tube', says: 'Three phosphors, or one and its colour', default: 'colour', options: names }),
  red: decay('Red decay', 60),
  green: decay('Green decay', 45),
  blue: decay('Blue decay', 30),
};
type S = Values<typeof settings>;

/** What is left of a picture after so many decays to a tenth is shown no more: a two-hundredth. */
const DECADES = 2.301;
/** Shares of a picture that are not seen. */
const UNSEEN = 1e-5;
/** Below this nothing is left at the next picture, at whatever rate. */
const AT_ONCE = 3;

const decays = ({ tube, red, green, blue }: S): readonly [number, number, number] => (tube === 'colour' ? [red, green, blue] : [green, green, green]);

/**
 * Phosphor glows on after the beam has passed: its light falls away exponentially, so a picture shows what is left of those before it (figures: 1 ms and less for
 * the phosphors of colour tubes, 50 to 200 ms for long persistence). What is shown in a picture's time is its share of all its light, so a still one stays as bright as it was.
 * A tube of one phosphor shows luma by BT.601, as it was made for. One phosphor decays as `green` says.
 */
export const phosphor = trait({
  id: 'phosphor',
  act: 'screen',
  name: 'Phosphor',
  says: 'The light of the tube fades slowly, and has the colour of its phosphor.',
  domain: 'linear',
  settings,
  footprint: 'area',
  idle: (s) => s.tube === 'colour' && Math.max(...decays(s)) <= AT_ONCE,
  tells: (s) => (s.tube === 'colour' ? '' : 'One phosphor: it fades as Green decay says.'),
  remembers: (s, picturesPerSecond) => Math.max(1, Math.ceil((DECADES * picturesPerSecond * Math.max(...decays(s))) / 1000)),
  presets: readySettings({ red: 20, green: 15, blue: 10 }, { red: 300, green: 260, blue: 200 }),
  prepare({ engine, rate, reserve, units }) {
    const k = engine.kernels;
    const { kr, kb } = LUMA_WEIGHTS.bt601;
    const luma = reserve((units.width + 8) * 4);
    /** By channel, the share of each picture: this one first. */
    const shares = perSettings((s: S, pictures: number) =>
      decays(s).map((ms) => {
        const left = k.exp((-Math.LN10 * 1000) / (rate * ms));
        const falling: number[] = [1];
        for (let i = 1; i < pictures; i++) falling.push(falling[i - 1]! * left);
        const sum = falling.reduce((a, b) => a + b, 0);
        return falling.map((share) => share / sum);
      }),
    );
    return ({ surface, settings: s, earlier, remembered }) => {
      const { width, height } = surface;
      const of = shares(s, remembered);
      // Row by row, so that what is added up stays in cache.
      for (let plane = 0; plane < 3; plane++) {
        for (let y = 0; y < height; y++) {
          const row = rowAt(surface, plane, y);
          const [own, ...before] = of[plane]!;
          if (own! < 1) k.affineRow(row, width, own!, 0);
          before.forEach((share, i) => {
            if (share > UNSEEN) k.addHalvesRow(row, earlier(i + 1, plane, y), width, share);
          });
        }
      }
      const { light } = TUBES[s.tube];
      if (!light) return;
      for (let y = 0; y < height; y++) {
        const rows = [0, 1, 2].map((plane) => rowAt(surface, plane, y)) as [number, number, number];
        for (const row of rows) DOMAIN_ROWS['linear>display'](k, row, width);
        k.lumaRow(luma, ...rows, width, kr, kb);
        DOMAIN_ROWS['display>linear'](k, luma, width);
        rows.forEach((row, plane) => {
          k.copy(row, luma, width * 4);
          k.affineRow(row, width, light[plane]!, 0);
        });
      }
    };
  },
});
