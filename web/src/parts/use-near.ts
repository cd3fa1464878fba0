import { useEffect, useState } from 'react';

/** Things this far out of sight are made ready, so that scrolling finds them there. */
const MARGIN = '80px';

/** Whether a thing is in sight or nearly so: what is not need not be rendered. */
export function useNear(place: React.RefObject<Element | null>): boolean {
  const [near, setNear] = useState(false);
  useEffect(() => {
    const observer = new IntersectionObserver((entries) => setNear(entries.at(-1)!.isIntersecting), { rootMargin: MARGIN });
    observer.observe(place.current!);
    return () => observer.disconnect();
  }, [place]);
  return near;
}
