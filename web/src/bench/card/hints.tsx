import { useEffect, type ReactNode } from 'react';
import { Button } from '../../parts/button';
import { dismissHints, followHints, HINTS, useHints, type Hint } from '../state/hints';

const SAYS: Record<Hint, ReactNode> = {
  open: 'Click a tag under the picture: its card opens here, and every change is seen at once.',
  before: (
    <>
      Hold <kbd className="mono">B</kbd> to see the picture as it was shot.
    </>
  ),
  add: (
    <>
      The + of an act offers what can be added there, seen on this picture. <kbd className="mono">Ctrl K</kbd> finds anything.
    </>
  ),
};

/** Three hints for the first minute; each goes when it was followed, all when they are dismissed. */
export function Hints() {
  const left = useHints((s) => s.left);
  const some = left.length > 0;
  useEffect(() => (some ? followHints() : undefined), [some]);
  if (!some) return null;
  return (
    <section aria-label="Hints" className="border-b border-rule bg-well px-3.5 py-3">
      <ul className="flex flex-col gap-1.5">
        {HINTS.filter((hint) => left.includes(hint)).map((hint) => (
          <li key={hint}>{SAYS[hint]}</li>
        ))}
      </ul>
      <Button kind="bare" className="mt-1 !px-0 text-[13px] text-faint underline" onClick={() => dismissHints(...HINTS)}>
        Dismiss
      </Button>
    </section>
  );
}
