import type { Preparation } from '../shot/preparation';
import { charactersFor } from '../text/fields';
import { traitById } from '../traits/known';
import type { Setting } from '../traits/settings';
import type { Look, TraitUse } from './look';

/** Of a look's uses, the values of settings of one kind, with the use. */
function valuesOfKind(look: Look, kind: Setting['kind']): { value: string; use: TraitUse }[] {
  return look.lives.flatMap((life) =>
    life.traits.flatMap((use) =>
      Object.entries((traitById(use.trait)?.settings ?? {}) as Record<string, Setting>)
        .filter(([, s]) => s.kind === kind)
        .map(([key, s]) => ({ value: (use.settings?.[key] ?? s.default) as string, use })),
    ),
  );
}

/** Identities of the tables that a look and a preparation refer to. */
export function tableIds(look: Look, preparation: Preparation): string[] {
  const ids = valuesOfKind(look, 'table').map(({ value }) => value);
  return [...new Set([...ids, preparation.table].filter((id): id is string => typeof id === 'string' && id !== ''))];
}

/** The fonts that a look refers to: by identity, the characters its texts need of each. */
export function fontsOf(look: Look): Record<string, string> {
  const texts: Record<string, string> = {};
  for (const { value: font, use } of valuesOfKind(look, 'font')) {
    const own: Look = { ...look, lives: [{ carrier: 'none', traits: [use] }] };
    const text = valuesOfKind(own, 'text').map(({ value }) => charactersFor(value));
    texts[font] = [texts[font], ...text].filter((t) => t !== undefined).join('\n');
  }
  return texts;
}

/** Identities of the plates that a look refers to. */
export const plateIds = (look: Look): string[] => [...new Set(valuesOfKind(look, 'plate').map(({ value }) => value))].filter((id) => id !== '');
