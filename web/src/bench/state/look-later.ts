import { useDeferredValue } from 'react';
import { dequal } from 'dequal';
import { create } from 'zustand';
import type { Look } from '@tin-ghost/core';
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

/** What a hand drags: on a card, on the strip, on the picture. */
const DRAGGED = { settings: null, strength: null, motions: null, zone: null, events: null };
const withoutValues = (look: Look) => ({ ...look, lives: look.lives.map((life) => ({ ...life, traits: life.traits.map((use) => ({ ...use, ...DRAGGED })) })) });

/** Whether two looks differ in values alone. */
const sameParts = (a: Look, b: Look): boolean => a === b || dequal(withoutValues(a), withoutValues(b));

/**
 * The look for parts of the bench that may follow a moment after the picture: a changed value is rendered before they are drawn. All else, as other traits, a name or what is
 * off, is shown at once: a control shows what it was told, and nobody clicks on what is not there any more. What is changed is always the document's own look, never this one.
 */
export function useLookLater(): Look {
  const now = lookLater((s) => s.look);
  const later = useDeferredValue(now);
  return sameParts(now, later) ? later : now;
}
