import { useEffect } from 'react';

/** Names the page in the browser's tabs and its history: what is on it first. */
export function useTitle(...parts: readonly (string | undefined)[]): void {
  const title = [...parts.filter(Boolean), 'Tin Ghost'].join(' · ');
  useEffect(() => {
    document.title = title;
  }, [title]);
}
