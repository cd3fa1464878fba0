import { beforeEach, describe, expect, test } from '@jest/globals';
import type { Medium, Print } from '@tin-ghost/contract';
import { liveMedium, livePrint, noteMedium, notePrint, useLive } from './live';

const print = (id: string, state: Print['state']): Print => ({ id, state, done: 0, total: 50, perSecond: 0, secondsLeft: 0, error: null }) as Print;
const medium = (state: Medium['state']): Medium => ({ id: 'm', name: 'Depot', state, progress: 0, error: null }) as Medium;
const striking = { state: 'striking' as const, done: 12, total: 50, perSecond: 8, secondsLeft: 5, error: null };
const working = (progress: number) => ({ state: 'working' as const, progress, error: null });

beforeEach(() => useLive.setState({ media: {}, prints: {} }));

describe('news beside what has been fetched', () => {
  test('a print under way tells how far it is; one that has ended does not go back', () => {
    notePrint('a', striking);
    const told = useLive.getState().prints['a'];
    expect(livePrint(print('a', 'waiting'), told)).toMatchObject({ state: 'striking', done: 12, secondsLeft: 5 });
    expect(livePrint(print('a', 'done'), told).state).toBe('done');
    expect(livePrint(print('a', 'striking'), undefined).done).toBe(0);
  });

  test('footage being imported shows its share until it is ready', () => {
    noteMedium('m', working(0.4));
    const told = useLive.getState().media['m'];
    expect(liveMedium(medium('waiting'), told)).toEqual({ ...medium('working'), progress: 0.4 });
    expect(liveMedium(medium('ready'), told)).toEqual(medium('ready'));
    noteMedium('m', null);
    expect(useLive.getState().media).toEqual({});
  });

  test('an import is counted from where it was first told, and anew where it begins anew', () => {
    const first = (): number => useLive.getState().media['m']!.first.progress;
    for (const progress of [0.2, 0.3, 0.7]) {
      noteMedium('m', working(progress));
      expect(first()).toBe(0.2);
    }
    noteMedium('m', working(0.1));
    expect(first()).toBe(0.1);
  });

  test('news of one thing leave what is known of the others as it is', () => {
    noteMedium('m', working(0.2));
    notePrint('a', striking);
    const { media, prints } = useLive.getState();
    noteMedium('other', working(0.5));
    notePrint('b', striking);
    expect(useLive.getState().media['m']).toBe(media['m']);
    expect(useLive.getState().prints['a']).toBe(prints['a']);
  });
});
