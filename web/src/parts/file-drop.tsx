import { useEffect, useRef, useState } from 'react';
import { create } from 'zustand';
import { texts } from '../messages/parts';

/** What the screen that is seen does with files that are dropped on it. */
export interface DropTarget {
  /** What happens, as a sentence for the person who holds the files. */
  readonly says: string;
  readonly take: (files: File[]) => void;
  /** What happens with those that are dropped on the right half, where that is something else. */
  readonly right?: { readonly says: string; readonly take: (files: File[]) => void };
}

const useTarget = create<{ target: DropTarget | null }>(() => ({ target: null }));

/** Takes the files that are dropped anywhere on this screen, or on either half of it. */
export function useFileDrop(says: string, take: (files: File[]) => void, right?: DropTarget['right']): void {
  const latest = useRef({ take, right });
  useEffect(() => {
    latest.current = { take, right };
  });
  const rightSays = right?.says;
  useEffect(() => {
    const target: DropTarget = {
      says,
      take: (files) => latest.current.take(files),
      ...(rightSays !== undefined && { right: { says: rightSays, take: (files: File[]) => latest.current.right?.take(files) } }),
    };
    useTarget.setState({ target });
    return () => useTarget.setState((s) => (s.target === target ? { target: null } : s));
  }, [says, rightSays]);
}

const holdsFiles = (event: DragEvent): boolean => event.dataTransfer?.types.includes('Files') ?? false;

/**
 * Files dropped anywhere go to the screen that is seen, or nowhere: the browser never opens them in place of the application. What is dragged from
 * the page itself, such as one of its pictures, is no file.
 */
export function FileDrop() {
  const target = useTarget((s) => s.target);
  const [over, setOver] = useState(false);
  useEffect(() => {
    let own = false;
    let leaving: ReturnType<typeof setTimeout> | undefined;
    const begin = (): void => {
      own = true;
    };
    const end = (): void => {
      own = false;
    };
    const move = (event: DragEvent): void => {
      if (!holdsFiles(event)) return;
      event.preventDefault();
      const { target: now } = useTarget.getState();
      event.dataTransfer!.dropEffect = own || !now ? 'none' : 'copy';
      // Told again and again while they are held over the page; when it is no longer told, they have gone.
      clearTimeout(leaving);
      leaving = setTimeout(() => setOver(false), 300);
      setOver(!own);
    };
    const drop = (event: DragEvent): void => {
      if (!holdsFiles(event)) return;
      event.preventDefault();
      clearTimeout(leaving);
      setOver(false);
      const files = [...event.dataTransfer!.files];
      const { target: now } = useTarget.getState();
      if (!own && files.length) (now?.right && event.clientX > innerWidth / 2 ? now.right : now)?.take(files);
    };
    window.addEventListener('dragstart', begin);
    window.addEventListener('dragend', end);
    window.addEventListener('dragenter', move);
    window.addEventListener('dragover', move);
    window.addEventListener('drop', drop);
    return () => {
      clearTimeout(leaving);
      window.removeEventListener('dragstart', begin);
      window.removeEventListener('dragend', end);
      window.removeEventListener('dragenter', move);
      window.removeEventListener('dragover', move);
      window.removeEventListener('drop', drop);
    };
  }, []);
  if (!over) return null;
  const says = [target?.says ?? texts.nothingGoesHereDropFootage, ...(target?.right ? [target.right.says] : [])];
  return (
    <div className="pointer-events-none fixed inset-2 z-50 flex gap-2" role="status" data-drop-target>
      {says.map((one) => (
        <div key={one} className="grid flex-1 place-items-center border-2 border-dashed border-oxide bg-[#1b1e1f]/55">
          <p className="max-w-[80%] rounded-sm bg-panel px-6 py-4 text-[20px] font-semibold">{one}</p>
        </div>
      ))}
    </div>
  );
}
