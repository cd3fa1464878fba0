import { useDeferredValue } from 'react';
import { create } from 'zustand';
import { actOf, type Look } from '@tin-ghost/core';
import { useDocument } from './document';

/** How long parts of the bench stay behind a changed value: while its picture is made, they would take the processor from it. */
export const LATER_MS = 100;

/** What stands on the bench, a moment later than in the document. */
export const lookLater = create<{ readonly look: Look; readonly shotId: string | null }>(() => {
  const { look, shotId } = useDocument.getState();
  return { look, shotId };
});

let waiting: ReturnType<typeof setTimeout> | undefined;

function follow(): void {
  clearTimeout(waiting);
  waiting = undefined;
  const { look, shotId } = useDocument.getState();
  lookLater.setState({ look, shotId });
}

useDocument.subscribe(({ look, shotId }) => {
  const shown = lookLater.getState();
  if (shotId !== shown.shotId || !sameParts(look, shown.look)) follow();
  else if (look !== shown.look) waiting ??= setTimeout(follow, LATER_MS);
});

const sameParts = (a: Look, b: Look): boolean =>
  a.lives.length === b.lives.length &&
  a.lives.every(({ carrier, traits }, i) => {
    const other = b.lives[i]!;
    return (
      carrier === other.carrier && traits.length === other.traits.length && traits.every((use, k) => use.trait === other.traits[k]!.trait && actOf(use) === actOf(other.traits[k]!))
    );
  });

/**
 * The look for parts of the bench that may follow a moment after the picture: a changed value is rendered before they are drawn. Other traits or carriers
 * are shown at once, so that nobody clicks on what is not there any more; what is changed is always the document's own look, never this one.
 */
export function useLookLater(): Look {
  const now = lookLater((s) => s.look);
  const later = useDeferredValue(now);
  return sameParts(now, later) ? later : now;
}
