import { mutate } from 'swr';
import { refresh, type Medium, type Print, type Reel, type ReelSummary } from './client';

type News =
  | { type: 'media'; id: string; state: Medium['state']; progress: number; error: string | null }
  | ({ type: 'print'; id: string } & Pick<Print, 'state' | 'done' | 'total' | 'perSecond' | 'secondsLeft' | 'error'>)
  | { type: 'reels' };

/**
 * Follows the server's news and lays them into what has been fetched. Only while the page is seen: a browser opens six
 * connections to a server at most, and pages in the background (or kept for going back) would use them up.
 * @returns a function that ends it
 */
export function followNews(): () => void {
  let source: EventSource | undefined;
  const close = (): void => {
    source?.close();
    source = undefined;
  };
  const follow = (): void => {
    if (document.visibilityState === 'hidden') return close();
    if (source) return;
    source = new EventSource('/api/events');
    source.onmessage = (event) => apply(JSON.parse(event.data as string) as News);
    // After a break something may have been missed.
    source.onopen = () => void refresh('/');
  };
  follow();
  document.addEventListener('visibilitychange', follow);
  window.addEventListener('pagehide', close);
  window.addEventListener('pageshow', follow);
  return () => {
    close();
    document.removeEventListener('visibilitychange', follow);
    window.removeEventListener('pagehide', close);
    window.removeEventListener('pageshow', follow);
  };
}

function apply(news: News): void {
  if (news.type === 'reels') return void refresh('/reels');
  if (news.type === 'print') {
    if (['done', 'failed', 'waiting'].includes(news.state)) void refresh('/prints');
    void mutate<Print[]>('/prints', (prints) => prints?.map((p) => (p.id === news.id && p.state !== 'stopped' ? { ...p, ...news } : p)), { revalidate: false });
    return;
  }
  if (news.state === 'ready' || news.state === 'failed') return void refresh('/reels');
  const touched = <T extends { medium: Medium }>(shot: T): T =>
    shot.medium.id === news.id ? { ...shot, medium: { ...shot.medium, state: news.state, progress: news.progress } } : shot;
  void mutate<Reel | ReelSummary[]>(
    (key) => typeof key === 'string' && key.startsWith('/reels'),
    (held) => {
      if (!held) return held;
      return Array.isArray(held) ? held.map((reel) => ({ ...reel, shots: reel.shots.map(touched) })) : { ...held, shots: held.shots.map(touched) };
    },
    { revalidate: false },
  );
}
