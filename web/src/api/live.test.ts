import { beforeEach, describe, expect, test } from '@jest/globals';
import type { Medium, Print } from '@tin-ghost/contract';
import { livePrints, liveShots, noteMedium, notePrint, useLive } from './live';

const print = (id: string, state: Print['state']): Print => ({ id, state, done: 0, total: 50, perSecond: 0, secondsLeft: 0, error: null }) as Print;
const shot = (id: string, state: Medium['state']) => ({ name: 'Depot', medium: { id, state, progress: 0 } as Medium });
const striking = { state: 'striking' as const, done: 12, total: 50, perSecond: 8, secondsLeft: 5, error: null };

beforeEach(() => useLive.setState({ media: {}, prints: {} }));

describe('news beside what has been fetched', () => {
  test('a print under way tells how far it is; one that has ended does not go back', () => {
    notePrint('a', striking);
    notePrint('b', striking);
    const [a, b, c] = livePrints([print('a', 'waiting'), print('b', 'done'), print('c', 'striking')], useLive.getState().prints);
    expect(a).toMatchObject({ state: 'striking', done: 12, secondsLeft: 5 });
    expect(b!.state).toBe('done');
    expect(c!.done).toBe(0);
  });

  test('news that came before the first answer is there when the answer comes', () => {
    notePrint('a', striking);
    expect(livePrints([], useLive.getState().prints)).toEqual([]);
    expect(livePrints([print('a', 'waiting')], useLive.getState().prints)[0]!.done).toBe(12);
  });

  test('footage being imported shows its share until it is ready', () => {
    noteMedium('m', { state: 'working', progress: 0.4, error: null });
    expect(liveShots([shot('m', 'waiting')], useLive.getState().media)[0]!.medium).toMatchObject({ state: 'working', progress: 0.4 });
    expect(liveShots([shot('m', 'ready')], useLive.getState().media)[0]!.medium).toMatchObject({ state: 'ready', progress: 0 });
    noteMedium('m', null);
    expect(useLive.getState().media).toEqual({});
  });
});
