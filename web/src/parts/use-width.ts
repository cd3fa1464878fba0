import { useEffect, useState, type RefObject } from 'react';

/** How wide the inside of a thing is, in CSS pixels; 0 until it has been laid out. */
export function useWidth(place: RefObject<Element | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    observer.observe(place.current!);
    return () => observer.disconnect();
  }, [place]);
  return width;
}
