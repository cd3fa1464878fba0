import { useEffect, useRef, type ReactNode } from 'react';
import { useLater } from '../parts/later';

const NAME = 'tin-ghost foot';
/** Of a look with a few events, in pixels. */
const USUAL = 290;

interface Props {
  /** How high it is at the least, in pixels. */
  least: number;
  children: ReactNode;
}

/**
 * What stands below the picture. As a page is opened it is drawn after it, in as much room as it took last in this browser: the picture does
 * not shrink when it comes.
 */
export function Foot({ least, children }: Props) {
  const due = useLater();
  const foot = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!due) return;
    const observer = new ResizeObserver(([entry]) => localStorage.setItem(NAME, String(Math.round(entry!.contentRect.height))));
    observer.observe(foot.current!);
    return () => observer.disconnect();
  }, [due]);
  return (
    <div ref={foot} className="relative shrink-0" style={{ minHeight: due ? least : Number(localStorage.getItem(NAME)) || USUAL }}>
      {due && children}
    </div>
  );
}
