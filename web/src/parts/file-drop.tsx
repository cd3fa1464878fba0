import { useEffect, useRef, useState } from 'react';
import { create } from 'zustand';
import { texts } from '../messages/parts';

/** What the screen that is seen does with files that are dropped on it. */
export interface DropTarget {
  /** What happens, as a sentence for the person who holds the files. */
  readonly says: string;
  readonly take: (files: File[]) => void;
}

const useTarget = create<{ target: DropTarget | null }>(() => ({ target: null }));

/** Takes the files that are dropped anywhere on this screen. */
export function useFileDrop(says: string, take: (files: File[]) => void): void {
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  useEffect(() => {
    const target: DropTarget = { says, take: (files) => latest.current(files) };
    useTarget.setState({ target });
    return () => useTarget.setState((s) => (s.target === target ? { target: null } : s));
  }, [says]);
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
      if (!own && files.length) useTarget.getState().target?.take(files);
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
  return (
    <div className="pointer-events-none fixed inset-2 z-50 grid place-items-center border-2 border-dashed border-oxide bg-[#1b1e1f]/55" role="status" data-drop-target>
      <p className="rounded-sm bg-panel px-6 py-4 text-[20px] font-semibold">{target?.says ?? texts.nothingGoesHereDropFootage}</p>
    </div>
  );
}
