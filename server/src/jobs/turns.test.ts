import { expect, test } from '@jest/globals';
import { Turns } from './turns';

const never = new AbortController().signal;

/** Work that is done when it is told to be. */
function held(log: string[], name: string): { work: () => Promise<string>; end: () => void; fail: () => void } {
  let end = (): void => undefined;
  let fail = (): void => undefined;
  const done = new Promise<string>((resolve, reject) => {
    end = () => resolve(name);
    fail = () => reject(new Error(name));
  });
  done.catch(() => undefined);
  const work = (): Promise<string> => {
    log.push(name);
    return done;
  };
  return { work, end, fail };
}
/** Long enough for all that is due to have run. */
const settle = (): Promise<void> => new Promise((done) => setTimeout(done, 5));

test('one runs at a time, in the order asked; one that fails does not hold up the next', async () => {
  const turns = new Turns();
  const log: string[] = [];
  const [a, b, c] = [held(log, 'a'), held(log, 'b'), held(log, 'c')];
  const results = [turns.take(a.work, never), turns.take(b.work, never), turns.take(c.work, never)];
  results[1]!.catch(() => undefined);
  await settle();
  expect(log).toEqual(['a']);
  a.end();
  await settle();
  expect(log).toEqual(['a', 'b']);
  b.fail();
  await settle();
  expect(log).toEqual(['a', 'b', 'c']);
  c.end();
  await expect(results[0]).resolves.toBe('a');
  await expect(results[1]).rejects.toThrow('b');
  await expect(results[2]).resolves.toBe('c');
});

test('what is given up while it waits ends at once, is never done, and lets nobody past what still runs', async () => {
  const turns = new Turns();
  const log: string[] = [];
  const [a, b, c] = [held(log, 'a'), held(log, 'b'), held(log, 'c')];
  const stop = new AbortController();
  const first = turns.take(a.work, never);
  const second = turns.take(b.work, stop.signal);
  const third = turns.take(c.work, never);
  stop.abort(new Error('given up'));
  await expect(second).rejects.toThrow('given up');
  await settle();
  expect(log).toEqual(['a']);
  a.end();
  c.end();
  expect(await Promise.all([first, third])).toEqual(['a', 'c']);
  expect(log).toEqual(['a', 'c']);
  // One that was given up before it asked is not done either.
  await expect(turns.take(b.work, stop.signal)).rejects.toThrow('given up');
  expect(log).toEqual(['a', 'c']);
});
