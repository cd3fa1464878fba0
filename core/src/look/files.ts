import type { Preparation } from '../shot/preparation';
import { charactersFor, joinedFor } from '../text/fields';
import { traitById } from '../traits/known';
import type { Setting } from '../traits/settings';
import type { Look, TraitUse } from './look';

/** What a use's settings of one kind are set to. */
const valuesIn = (use: TraitUse, kind: Setting['kind']): string[] =>
  Object.entries((traitById(use.trait)?.settings ?? {}) as Record<string, Setting>)
    .filter(([, s]) => s.kind === kind)
    .map(([key, s]) => (use.settings?.[key] ?? s.default) as string);

const usesOf = (look: Look): TraitUse[] => look.lives.flatMap((life) => life.traits);
const identities = (ids: readonly (string | undefined)[]): string[] => [...new Set(ids.filter((id): id is string => id !== undefined && id !== ''))];

/** Identities of the tables that a look and a preparation refer to. */
export const tableIds = (look: Look, preparation: Preparation): string[] => identities([...usesOf(look).flatMap((use) => valuesIn(use, 'table')), preparation.table]);

/** Identities of the plates that a look refers to. */
export const plateIds = (look: Look): string[] => identities(usesOf(look).flatMap((use) => valuesIn(use, 'plate')));

/** The fonts that a look refers to: by identity, the characters its texts need of each. */
export function fontsOf(look: Look): Record<string, string> {
  const texts: Record<string, string[]> = {};
  for (const use of usesOf(look))
    for (const font of valuesIn(use, 'font')) (texts[font] ??= []).push(...valuesIn(use, 'text').map((written) => charactersFor(written) + joinedFor(written)));
  return Object.fromEntries(Object.entries(texts).map(([font, of]) => [font, of.join('\n')]));
}
