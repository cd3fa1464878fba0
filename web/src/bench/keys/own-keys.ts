import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import type { Action } from './actions';
import { texts } from '../../messages/keys';

interface OwnKeys {
  /** Whether keys that write a character do something by themselves. */
  readonly letters: boolean;
  /** Keys that were given to actions, by the actions' names; an empty one takes its key away. */
  readonly changed: Readonly<Record<string, string>>;
}

/** The keys as a person has set them, in this browser. */
export const useOwnKeys = create<OwnKeys>()(persist((): OwnKeys => ({ letters: true, changed: {} }), { name: 'tin-ghost keys', storage: createJSONStorage(() => localStorage) }));

const { getState, setState } = useOwnKeys;

export const turnLetters = (letters: boolean): void => void setState({ letters });
export const resetKeys = (): void => void setState({ letters: true, changed: {} });

/** Gives an action other keys; its own again without them. */
export function changeKeys(action: string, keys?: string): void {
  const { [action]: _before, ...rest } = getState().changed;
  setState({ changed: keys === undefined ? rest : { ...rest, [action]: keys } });
}

/** Keys that write a character, which people dictate to a browser as well as press. */
export const isLetter = (keys: string): boolean =>
  !/(^|\+)(mod|alt)\+/.test(keys) && /^(.|equal|minus|slash|comma|period|semicolon|quote|backslash|bracketleft|bracketright)$/.test(keys.split('+').at(-1)!);

/** Actions with the keys that they have now; none where they have none. */
export const withOwnKeys = (actions: readonly Action[], { letters, changed }: OwnKeys): Action[] =>
  actions.map((action) => {
    const keys = changed[action.name] ?? action.keys;
    return { ...action, keys: !letters && isLetter(keys) ? '' : keys };
  });

/** Of these the browser, or what has the focus, knows better. */
const TAKEN = new Set(['escape', 'tab', 'enter', 'delete', 'backspace', 'mod+w', 'mod+t', 'mod+n', 'mod+r', 'mod+q', 'mod+l', 'mod+shift+t', 'mod+shift+n', 'mod+shift+w', 'b']);

/**
 * What was pressed, as the hotkeys' package has it: by the place on the keyboard, as the package listens to it.
 * @returns null as long as only Ctrl, Alt or Shift is down
 */
export function pressedKeys({ code, ctrlKey, metaKey, altKey, shiftKey }: Pick<KeyboardEvent, 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string | null {
  if (!code || /^(Control|Meta|Alt|Shift|OS)/.test(code)) return null;
  const key = code.replace(/^(Key|Digit|Arrow)/, '').toLowerCase();
  return [...(ctrlKey || metaKey ? ['mod'] : []), ...(altKey ? ['alt'] : []), ...(shiftKey ? ['shift'] : []), key].join('+');
}

/** Why an action cannot have keys, in words; undefined where it can. */
export function keysRefused(keys: string, action: string, actions: readonly Action[]): string | undefined {
  if (TAKEN.has(keys)) return texts.thatKeyMeansSomethingEverywhere;
  const other = actions.find(({ name, keys: held }) => held === keys && name !== action);
  return other && texts.thatIsKeyOf(other.name);
}
