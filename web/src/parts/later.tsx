import { startTransition, useEffect, useState, type ReactNode } from 'react';

let pageStands = false;

/**
 * Whether a part may be drawn: false until what stands beside it has been, as a page is first opened, so that what is asked for there is
 * not kept waiting. Later on, as when another shot is opened, true at once.
 */
export function useLater(): boolean {
  const [due, setDue] = useState(pageStands);
  useEffect(() => {
    if (due) pageStands = true;
    else startTransition(() => setDue(true));
  }, [due]);
  return due;
}

/** Parts that are drawn when {@link useLater} says. */
export const Later = ({ children }: { children: ReactNode }) => useLater() && children;
