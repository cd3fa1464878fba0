import { beforeAll, beforeEach, expect, test } from '@jest/globals';
import type { Action } from './actions';
import type * as OwnKeys from './own-keys';

// The keys are kept in the browser.
const kept = new Map<string, string>();
let own: typeof OwnKeys;
beforeAll(async () => {
  (globalThis as { localStorage?: unknown }).localStorage = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  };
  own = await import('./own-keys');
});
beforeEach(() => own.resetKeys());

const run = (): void => undefined;
const actions: Action[] = [
  { name: 'Sound', keys: 's', run },
  { name: 'Longer strip', keys: 'equal', run },
  { name: 'All of the shot', keys: 'shift+f', run },
  { name: 'Undo', keys: 'mod+z', run },
  { name: 'Pan left', keys: 'alt+left', run },
  { name: 'Play', keys: 'space', run },
];
const now = (): Record<string, string> => Object.fromEntries(own.withOwnKeys(actions, own.useOwnKeys.getState()).map(({ name, keys }) => [name, keys]));

test('an action has the key that it was given, and its own again after that', () => {
  own.changeKeys('Sound', 'mod+shift+s');
  expect(now().Sound).toBe('mod+shift+s');
  expect([...kept.values()].join()).toContain('mod+shift+s');
  own.changeKeys('Sound');
  expect(now().Sound).toBe('s');
});

test('without letters every key that writes a character does nothing, and all others go on', () => {
  own.turnLetters(false);
  expect(now()).toEqual({ Sound: '', 'Longer strip': '', 'All of the shot': '', Undo: 'mod+z', 'Pan left': 'alt+left', Play: 'space' });
  own.changeKeys('Sound', 'mod+shift+s');
  expect(now().Sound).toBe('mod+shift+s');
});

test('what is pressed is read by its place, as it is listened to', () => {
  const press = (code: string, held: Partial<KeyboardEvent> = {}): string | null =>
    own.pressedKeys({ code, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held });
  expect(press('KeyS')).toBe('s');
  expect(press('Digit4', { shiftKey: true })).toBe('shift+4');
  expect(press('ArrowLeft', { altKey: true, ctrlKey: true, shiftKey: true })).toBe('mod+alt+shift+left');
  expect(press('ShiftLeft', { shiftKey: true })).toBeNull();
  expect(press('Space')).toBe('space');
});

test('a key of another action, or one that means something everywhere, is refused', () => {
  expect(own.keysRefused('mod+z', 'Sound', actions)).toMatch(/the key of “Undo”/);
  expect(own.keysRefused('escape', 'Sound', actions)).toMatch(/stays as it is/);
  expect(own.keysRefused('s', 'Sound', actions)).toBeUndefined();
  expect(own.keysRefused('y', 'Sound', actions)).toBeUndefined();
});
