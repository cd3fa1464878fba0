import { useEffect, useRef, type ReactNode } from 'react';
import { useLater } from '../parts/later';
import { footHeight, keepFootHeight } from './state/foot-height';

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
    // What is held open for a while says nothing of the next time.
    if (!due || least > 0) return;
    const observer = new ResizeObserver(([entry]) => keepFootHeight(entry!.contentRect.height));
    observer.observe(foot.current!);
    return () => observer.disconnect();
  }, [due, least]);
  return (
    <div ref={foot} className="relative shrink-0" style={{ minHeight: due ? least : footHeight() }}>
      {due && children}
    </div>
  );
}
