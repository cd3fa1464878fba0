import { create } from 'zustand';
import { useDocument } from './document';
import { useSession } from './session';

const KEY = 'tin-ghost/hints';
export const HINTS = ['open', 'before', 'add'] as const;
export type Hint = (typeof HINTS)[number];

function stored(): readonly Hint[] {
  try {
    return HINTS.filter((hint) => !(JSON.parse(localStorage.getItem(KEY) ?? '[]') as unknown[]).includes(hint));
  } catch {
    return HINTS;
  }
}

/** What somebody new has not yet done on the bench; nothing any more once it was done or dismissed. */
export const useHints = create<{ left: readonly Hint[] }>(() => ({ left: typeof localStorage === 'undefined' ? [] : stored() }));

export function dismissHints(...which: readonly Hint[]): void {
  const { left } = useHints.getState();
  const still = left.filter((hint) => !which.includes(hint));
  if (still.length === left.length) return;
  useHints.setState({ left: still });
  try {
    localStorage.setItem(KEY, JSON.stringify(HINTS.filter((hint) => !still.includes(hint))));
  } catch {
    // The browser's store is full or shut: they come back with the next page.
  }
}

const traitsIn = (lives: readonly { readonly traits: readonly unknown[] }[]): number => lives.reduce((sum, { traits }) => sum + traits.length, 0);

/** Lets a hint go as soon as what it says is done. @returns a function that ends it */
export function followHints(): () => void {
  const ends = [
    useSession.subscribe(({ selected, held }) => {
      if (selected) dismissHints('open');
      if (held) dismissHints('before');
    }),
    useDocument.subscribe((now, before) => {
      if (now.shotId === before.shotId && traitsIn(now.look.lives) === traitsIn(before.look.lives) + 1) dismissHints('add');
    }),
  ];
  return () => ends.forEach((end) => end());
}
