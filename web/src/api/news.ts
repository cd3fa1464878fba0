import { refresh } from './client';
import { noteMedium, notePrint, type MediumProgress, type PrintProgress } from './live';

type News = ({ type: 'media'; id: string; error: string | null } & MediumProgress) | ({ type: 'print'; id: string } & PrintProgress) | { type: 'reels' };

/**
 * Follows the server's news and fetches anew what they make stale. Only while the page is seen: a browser opens six
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
  if (news.type === 'reels') return void Promise.all([refresh('/reels'), refresh('/references')]);
  const { type, id, ...progress } = news;
  if (type === 'print') {
    const underWay = progress.state === 'striking';
    notePrint(id, underWay ? (progress as PrintProgress) : null);
    if (!underWay) void refresh('/prints');
    return;
  }
  const underWay = progress.state === 'working';
  noteMedium(id, underWay ? (progress as MediumProgress) : null);
  if (!underWay) void Promise.all([refresh('/reels'), refresh('/references')]);
}
