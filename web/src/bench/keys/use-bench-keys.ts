import { useEffect } from 'react';
import { useHotkeys, type HotkeyCallback, type Options } from 'react-hotkeys-hook';
import { pressable, wasClicked } from '../../parts/clicked';
import { leadsInToolbar } from '../../parts/toolbar';
import { removeTold } from '../chain/use-actions';
import { abandonGesture, changeLook, redo, useDocument } from '../state/document';
import { muteEvent, restoreEvent } from '../state/event-edits';
import { traitUseAt } from '../state/look-edits';
import { holdBefore, selectEvent, useSession } from '../state/session';
import type { Action } from './actions';
import { useOwnKeys } from './own-keys';

/** Which of what has the focus keeps some keys for itself: what is moved by them, what is pressed by them, what is written in. */
type Unless = 'moves' | 'presses' | 'text' | 'nothing';

function unlessOf(keys: string): Unless {
  if (/(^|\+)mod\+/.test(keys)) return 'text';
  const key = keys.split('+').at(-1)!;
  if (['left', 'right', 'up', 'down', 'home', 'end', 'pageup', 'pagedown'].includes(key)) return 'moves';
  return key === 'space' ? 'presses' : 'nothing';
}

/** Stands where there are no keys of a kind: it is on no keyboard. */
const NO_KEY = 'f24';

/** The keys of the bench. */
export function useBenchKeys(actions: readonly Action[]): void {
  // One key may do one thing or another, by what there is to do: it is listened to once.
  const keys = (unless: Unless): string =>
    [...new Set(actions.filter((action) => action.keys && unlessOf(action.keys) === unless).map((action) => action.keys))].join(',') || NO_KEY;
  const actionOf = (hotkey: string): Action | undefined => actions.find(({ keys, when }) => keys === hotkey && (when?.() ?? true));
  const run: HotkeyCallback = (_event, { hotkey }) => actionOf(hotkey)?.run();
  const enabled: Options = { preventDefault: (_event, { hotkey }) => actionOf(hotkey) !== undefined };
  // A slider keeps the focus after a drag; it needs the arrows, Home and End itself, every other key is the bench's.
  const anywhere = { ...enabled, enableOnFormTags: ['slider' as const] };
  useHotkeys(keys('moves'), run, { ...enabled, ignoreEventWhen: leadsInToolbar });
  useHotkeys(keys('nothing'), run, anywhere);
  useHotkeys(keys('presses'), run, { ...anywhere, ignoreEventWhen: (event) => takesSpace(event.target) });
  // In a number there is no text worth taking back; in other text the browser takes back what was typed.
  useHotkeys(keys('text'), run, { ...enabled, enableOnFormTags: true as const, ignoreEventWhen: (event) => isText(event.target) });
  // By what is written on the key, too: not every keyboard has it beside the right Shift.
  useHotkeys('?', () => actionOf('shift+slash')?.run(), { ...anywhere, preventDefault: true, useKey: true });
  useHotkeys('mod+y', redo, { preventDefault: true, enableOnFormTags: true as const, ignoreEventWhen: (event) => isText(event.target) });
  useHotkeys('delete, backspace', deleteChosen, { ...anywhere, preventDefault: true, ignoreEventWhen: (event) => isElsewhere(event.target) });

  useEffect(() => {
    // Before any dialog or field hears of it: as long as a hand holds on, Escape is for what it does.
    const escape = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape' || !abandonGesture()) return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener('keydown', escape, true);
    return () => window.removeEventListener('keydown', escape, true);
  }, []);

  useEffect(() => {
    const held = (event: KeyboardEvent): void => {
      if (
        event.key.toLowerCase() !== 'b' ||
        !useOwnKeys.getState().letters ||
        event.repeat ||
        event.ctrlKey ||
        event.metaKey ||
        (event.target as HTMLElement).matches?.('input, textarea, select')
      )
        return;
      holdBefore(event.type === 'keydown');
    };
    const release = (): void => holdBefore(false);
    window.addEventListener('keydown', held);
    window.addEventListener('keyup', held);
    window.addEventListener('blur', release);
    return () => {
      window.removeEventListener('keydown', held);
      window.removeEventListener('keyup', held);
      window.removeEventListener('blur', release);
    };
  }, []);
}

const closest = (target: EventTarget | null, selector: string): boolean => target instanceof Element && target.closest(selector) !== null;

/** Whether what has the focus takes Space for itself: it is pressed, ticked or opened by it. What was only clicked does not. */
function takesSpace(target: EventTarget | null): boolean {
  const found = pressable(target);
  return found !== null && (!wasClicked(found) || found.matches('input, textarea, select'));
}

/** Whether what has the focus is text of a person's own. */
const isText = (target: EventTarget | null): boolean =>
  closest(target, 'textarea, [contenteditable="true"], input:not([inputmode="decimal"]):not([type="checkbox"]):not([type="range"])');

/** Whether what has the focus is a thing of its own that Delete would mean: a shot, a reference. */
const isElsewhere = (target: EventTarget | null): boolean => closest(target, '[data-own-delete]');

/** Mutes the chosen event, else removes the chosen trait. */
function deleteChosen(): void {
  const { selected } = useSession.getState();
  if (!deleteEvent() && selected) removeTold(selected);
}

/** Delete on a chosen event: one that was generated is turned off, or on again; a pinned one is taken away. */
function deleteEvent(): boolean {
  const { look } = useDocument.getState();
  const { selected, event } = useSession.getState();
  const use = traitUseAt(look, selected);
  if (!use || !selected || !event) return false;
  if (use.events?.pinned?.some((pin) => pin.id === event)) {
    changeLook(restoreEvent(look, selected, event));
    selectEvent(selected, null);
  } else changeLook(muteEvent(look, selected, event, !use.events?.muted?.includes(event)));
  return true;
}
