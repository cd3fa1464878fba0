import { refresh } from './client';
import type { News } from '@tin-ghost/contract';
import { noteMedium, notePrint } from './live';
import { askAfterOrdered, noteEnd, useOrdered } from './ordered';

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
    // A page that waits for prints says so when they are done, also from behind others.
    if (document.visibilityState === 'hidden' && useOrdered.getState().waiting.length === 0) return close();
    if (source) return;
    source = new EventSource('/api/events');
    source.onmessage = (event) => apply(JSON.parse(event.data as string) as News);
    // After a break something may have been missed.
    source.onopen = () => void Promise.all([refresh('/'), askAfterOrdered()]);
  };
  follow();
  const unsubscribe = useOrdered.subscribe(follow);
  document.addEventListener('visibilitychange', follow);
  window.addEventListener('pagehide', close);
  window.addEventListener('pageshow', follow);
  return () => {
    unsubscribe();
    close();
    document.removeEventListener('visibilitychange', follow);
    window.removeEventListener('pagehide', close);
    window.removeEventListener('pageshow', follow);
  };
}

function apply(news: News): void {
  if (news.type === 'reels') return void Promise.all([refresh('/reels'), refresh('/references'), refresh('/plates'), refresh('/bin')]);
  if (news.type === 'machines') return void refresh('/machines');
  if (news.type === 'print') {
    const underWay = news.state === 'striking';
    noteEnd(news.id, news.state);
    notePrint(news.id, underWay ? news : null);
    if (!underWay) void refresh('/prints');
    return;
  }
  const underWay = news.state === 'working';
  noteMedium(news.id, underWay ? news : null);
  if (!underWay) void Promise.all([refresh('/reels'), refresh('/references'), refresh('/plates'), refresh('/bin')]);
}
