import { charactersFor, joinedFor, lackingOf, type Setting, type Value } from '@tin-ghost/core';
import { useFonts } from '../../api/client';
import { texts } from '../../messages/card';

/** So many are named. */
const NAMED = 12;

/** Says which characters of a text its font has not: they are drawn as empty boxes. */
export function LackingCharacters({ settings, valueOf }: { settings: readonly (readonly [string, Setting])[]; valueOf: (key: string) => Value }) {
  const { data: fonts } = useFonts();
  const of = (fits: (s: Setting) => boolean): string | undefined => {
    const found = settings.find(([, s]) => fits(s));
    return found && (valueOf(found[0]) as string);
  };
  const font = fonts?.find(({ id }) => id === of((s) => s.kind === 'font'));
  const text = of((s) => s.kind === 'text' && s.fields !== undefined);
  if (!font || !text) return null;
  const lacking = lackingOf(charactersFor(text), font.characters);
  if (lacking.length === 0)
    return lackingOf(joinedFor(text), font.characters).length > 0 ? (
      <p role="status" className="mt-1 text-[13px] text-oxide">
        {texts.thisFontHasNoJoined}
      </p>
    ) : null;
  return (
    <p role="status" className="mt-1 text-[13px] text-oxide">
      {texts.notInThisFont} {lacking.slice(0, NAMED).join(' ')}
      {lacking.length > NAMED && texts.andMore(lacking.length - NAMED)}
    </p>
  );
}
