import { describe, expect, test } from '@jest/globals';
import { checkLook, EMPTY_LOOK, type Look } from '@tin-ghost/core';
import { editEvent, isChanged, muteEvent, nearest, pinEvent, restoreEvent } from './event-edits';

const LOOK: Look = { ...EMPTY_LOOK, lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }, { trait: 'splices' }] }] };
const AT = { life: 0, index: 1 };
const use = (look: Look) => look.lives[0]!.traits[1]!;

describe('an event', () => {
  test('is moved, muted and put back; nothing of it stays in the look', () => {
    const moved = editEvent(editEvent(LOOK, AT, { id: '3.0', pinned: false }, { at: 2.5 }), AT, { id: '3.0', pinned: false }, { scale: 0.5 });
    expect(use(moved).events).toEqual({ changed: { '3.0': { at: 2.5, scale: 0.5 } } });
    expect(isChanged(use(moved), '3.0')).toBe(true);
    const muted = muteEvent(moved, AT, '3.0', true);
    expect(use(muted).events!.muted).toEqual(['3.0']);
    expect(() => checkLook(muted)).not.toThrow();
    expect(use(muteEvent(muted, AT, '3.0', false)).events).toEqual(use(moved).events);
    expect(restoreEvent(muted, AT, '3.0')).toEqual(LOOK);
    expect(use(LOOK).events).toBeUndefined();
  });

  test('is pinned by hand under a name of its own, edited, and taken away', () => {
    const one = pinEvent(LOOK, AT, 1.2);
    const two = pinEvent(one.look, AT, -4);
    expect([one.id, two.id]).toEqual(['hand-1', 'hand-2']);
    expect(use(two.look).events!.pinned).toEqual([
      { id: 'hand-1', at: 1.2 },
      { id: 'hand-2', at: 0 },
    ]);
    expect(() => checkLook(two.look)).not.toThrow();
    const edited = editEvent(two.look, AT, { id: 'hand-1', pinned: true }, { x: 0.2, y: 0.8 });
    expect(use(edited).events!.pinned![0]).toEqual({ id: 'hand-1', at: 1.2, x: 0.2, y: 0.8 });
    expect(restoreEvent(restoreEvent(edited, AT, 'hand-1'), AT, 'hand-2')).toEqual(LOOK);
    expect(pinEvent(restoreEvent(edited, AT, 'hand-1'), AT, 3).id).toBe('hand-1');
  });

  test('is found where the hand is: under way, or near; the later one lies on top', () => {
    const events = [
      { id: 'a', at: 1, length: 2 },
      { id: 'b', at: 2, length: 0 },
      { id: 'c', at: 5, length: 0 },
    ];
    expect(nearest(events, 2, 0.1)?.id).toBe('b');
    expect(nearest(events, 2.6, 0.1)?.id).toBe('a');
    expect(nearest(events, 4.95, 0.1)?.id).toBe('c');
    expect(nearest(events, 4.5, 0.1)).toBeUndefined();
  });
});
