import { beforeEach, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, type Look } from '@tin-ghost/core';
import type { Shot } from '@tin-ghost/contract';

// The bench keeps its drafts in the browser's store; here in memory.
const stored = new Map<string, string>();
globalThis.localStorage = {
  getItem: (key: string) => stored.get(key) ?? null,
  setItem: (key: string, value: string) => void stored.set(key, value),
  removeItem: (key: string) => void stored.delete(key),
} as unknown as Storage;
globalThis.fetch = async () => new Response('{"revision":1}');
const { abandonGesture, beginGesture, changeLook, changePreparation, endGesture, openShot, redo, settleContest, undo, useDocument } = await import('./document');
const { select, selectEvent, selectShot, useSession } = await import('./session');

const look = (name: string): Look => ({ ...EMPTY_LOOK, name, lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }, { trait: 'dust' }] }] });
const shot = (revision = 3): Shot => ({ id: 's', reelId: 'r', look: look('kept'), preparation: {}, revision, touchedAt: '2026-01-01T00:00:00Z' }) as Shot;
const name = (): string => useDocument.getState().look.name;

beforeEach(() => {
  // Leaving a shot sends what was changed on it.
  openShot({ ...shot(), id: 'before' });
  stored.clear();
  openShot(shot());
});

describe('undo', () => {
  test('takes back one change after another, of look and preparation, and gives them again', () => {
    changeLook(look('one'));
    changePreparation({ speed: 0.5 });
    changeLook(look('two'));
    undo();
    expect([name(), useDocument.getState().preparation]).toEqual(['one', { speed: 0.5 }]);
    undo();
    expect(useDocument.getState().preparation).toEqual({});
    undo();
    undo();
    expect(name()).toBe('kept');
    redo();
    redo();
    expect([name(), useDocument.getState().preparation]).toEqual(['one', { speed: 0.5 }]);
  });

  test('a gesture is one step, however many values it passes; undo in the middle of one ends it', () => {
    beginGesture();
    for (const step of ['a', 'b', 'c']) changeLook(look(step));
    endGesture();
    undo();
    expect(name()).toBe('kept');
    beginGesture();
    changeLook(look('d'));
    undo();
    expect(name()).toBe('kept');
    redo();
    expect(name()).toBe('d');
  });

  test('a gesture that is abandoned leaves nothing, whatever the hand still does; the next one counts', () => {
    changeLook(look('one'));
    beginGesture();
    for (const step of ['a', 'b']) changeLook(look(step));
    expect(abandonGesture()).toBe(true);
    expect(name()).toBe('one');
    changeLook(look('c'));
    expect([name(), abandonGesture()]).toEqual(['one', false]);
    endGesture();
    beginGesture();
    changeLook(look('d'));
    endGesture();
    undo();
    expect(name()).toBe('one');
    undo();
    expect(name()).toBe('kept');
    redo();
    redo();
    expect(name()).toBe('d');
  });

  test('a gesture that changed nothing is no step, and leaves what can be made again', () => {
    changeLook(look('one'));
    undo();
    beginGesture();
    endGesture();
    redo();
    expect(name()).toBe('one');
  });

  test('leaves the shot’s own card open', () => {
    selectShot();
    changePreparation({ speed: 0.5 });
    undo();
    expect(useSession.getState().shotOpen).toBe(true);
  });

  test('never goes back to another shot', () => {
    changeLook(look('one'));
    openShot({ ...shot(), id: 'other', look: look('other') });
    undo();
    expect(name()).toBe('other');
  });
});

describe('steps', () => {
  test('are there again when a shot is visited again, and when the page is loaded anew', () => {
    const visited = { ...shot(), id: 'visited' };
    openShot(visited);
    for (const step of ['one', 'two', 'three']) changeLook(look(step));
    undo();
    openShot({ ...shot(), id: 'between', look: look('between') });
    undo();
    expect(name()).toBe('between');
    openShot({ ...visited, look: look('two'), revision: 9 });
    expect(name()).toBe('two');
    undo();
    expect(name()).toBe('one');
    redo();
    redo();
    expect(name()).toBe('three');
  });

  test('are dropped where the shot was changed elsewhere meanwhile: they would lead from another place', () => {
    const visited = { ...shot(), id: 'elsewhere' };
    openShot(visited);
    changeLook(look('mine'));
    openShot({ ...shot(), id: 'between' });
    stored.clear();
    openShot({ ...visited, look: look('theirs'), revision: 9 });
    undo();
    expect(name()).toBe('theirs');
  });
});

describe('what a browser still holds', () => {
  const draft = (revision: number) => stored.set('tin-ghost/draft/s', JSON.stringify({ ...{ look: look('draft'), preparation: {} }, revision }));

  test('of the revision that is kept comes back, and can be undone', () => {
    draft(3);
    openShot(shot());
    expect(name()).toBe('draft');
    undo();
    expect(name()).toBe('kept');
  });

  test('of a newer program stays there, and the shot opens as it is kept', () => {
    const newer = JSON.stringify({ look: { ...look('newer'), schema: 'tin-ghost/look@99' }, preparation: {}, revision: 3 });
    stored.set('tin-ghost/draft/s', newer);
    openShot(shot());
    expect([name(), stored.get('tin-ghost/draft/s')]).toEqual(['kept', newer]);
  });

  test('on top of what was sent and is kept now comes back: nobody else was there', () => {
    const sent = [{ look: look('kept'), preparation: {}, versions: [] }];
    stored.set('tin-ghost/draft/s', JSON.stringify({ look: look('draft'), preparation: {}, versions: [], revision: 2, sent }));
    openShot(shot());
    expect(name()).toBe('draft');
    expect(useDocument.getState().keeping.state).toBe('keeping');
  });

  test('of an older one stands against what is kept, until one is chosen', () => {
    draft(2);
    openShot(shot());
    expect(useDocument.getState().keeping).toMatchObject({ state: 'contested', revision: 3, work: { look: { name: 'kept' } } });
    settleContest('theirs');
    expect(name()).toBe('kept');
    expect([...stored.keys()].filter((key) => key.includes('/draft/'))).toEqual([]);
  });
});

test('choosing: a use keeps its event while it is open, another has none; without a value a setting of the shot goes back', () => {
  const [grain, dust] = [
    { life: 0, index: 0 },
    { life: 0, index: 1 },
  ];
  selectEvent(dust, '4.1');
  select(dust);
  expect(useSession.getState()).toMatchObject({ selected: dust, event: '4.1' });
  select(grain);
  expect(useSession.getState()).toMatchObject({ selected: grain, event: null });
  changePreparation({ speed: 2, mirror: true });
  changePreparation({ speed: undefined });
  expect(useDocument.getState().preparation).toEqual({ mirror: true });
});
