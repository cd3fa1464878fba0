import { useEffect, type ReactNode } from 'react';
import { Button } from '../../parts/button';
import { texts } from '../../messages/card';
import { dismissHints, followHints, HINTS, useHints, type Hint } from '../state/hints';

const key = (name: string): ReactNode => <kbd className="mono">{name}</kbd>;

const SAYS: Record<Hint, ReactNode> = { open: texts.hintOpen, before: texts.hintBefore(key('B')), add: texts.hintAdd(key('Ctrl K')) };

/** Three hints for the first minute; each goes when it was followed, all when they are dismissed. */
export function Hints() {
  const left = useHints((s) => s.left);
  const some = left.length > 0;
  useEffect(() => (some ? followHints() : undefined), [some]);
  if (!some) return null;
  return (
    <section aria-label={texts.hints} className="border-b border-rule bg-well px-3.5 py-3">
      <ul className="flex flex-col gap-1.5">
        {HINTS.filter((hint) => left.includes(hint)).map((hint) => (
          <li key={hint}>{SAYS[hint]}</li>
        ))}
      </ul>
      <Button kind="bare" className="mt-1 !px-0 text-[13px] text-faint underline" onClick={() => dismissHints(...HINTS)}>
        {texts.dismiss}
      </Button>
    </section>
  );
}
