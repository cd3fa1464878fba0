import { actOf, carrierById, traitById, type Act, type Carrier, type Look } from '@tin-ghost/core';
import { texts } from '../messages/stockroom';

/** What looks are shown: each part narrows it further; null leaves a part open. */
export interface LookFilter {
  readonly words: string;
  readonly medium: Carrier['medium'] | null;
  readonly act: Act | null;
  readonly colour: 'colour' | 'black and white' | null;
}

export const ALL_LOOKS: LookFilter = { words: '', medium: null, act: null, colour: null };

/** A look in words: its carriers, and what they did to the picture. */
export const inWords = (look: Look): string =>
  look.lives
    .map((life) => `${carrierById(life.carrier)?.name ?? life.carrier}: ${life.traits.map((t) => traitById(t.trait)?.name ?? t.trait).join(', ') || texts.nothingYet}`)
    .join('; then ') || texts.leavesPictureAsItIs;

const STOCKS_OF_SILVER: readonly unknown[] = ['panchro', 'orthochro'];

const GREY_PROCESSES: readonly unknown[] = ['plain', 'sepia'];

/** Whether a look takes the colour out: by a stock of silver, a process or a carrier without colour, or saturation at nothing. */
export const isGrey = (look: Look): boolean =>
  look.lives.some(
    ({ carrier, traits }) =>
      carrier.startsWith('closed-circuit') ||
      traits.some(
        ({ trait, settings = {}, on, strength }) =>
          on !== false &&
          (strength ?? 1) === 1 &&
          ((trait === 'dyes' && STOCKS_OF_SILVER.includes(settings.stock)) ||
            (trait === 'process' && GREY_PROCESSES.includes(settings.kind)) ||
            (trait === 'saturation' && settings.amount === 0)),
      ),
  );

/** Whether a look is shown; every word must stand in its name, its carriers or its traits. */
export function isShown(look: Look, { words, medium, act, colour }: LookFilter): boolean {
  const text = `${look.name} ${inWords(look)}`.toLowerCase();
  if (
    !words
      .toLowerCase()
      .split(/\s+/)
      .every((word) => text.includes(word))
  )
    return false;
  if (medium && !look.lives.some(({ carrier }) => carrierById(carrier)?.medium === medium)) return false;
  if (act && !look.lives.some(({ traits }) => traits.some((use) => actOf(use) === act))) return false;
  return colour === null || isGrey(look) === (colour === 'black and white');
}
