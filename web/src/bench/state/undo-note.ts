import { toast } from 'sonner';
import { texts } from '../../messages/chain';
import { sameWork, undo, useDocument } from './document';
import { workOf } from './keeper';

/** So long what was done can be taken back by its note, if nothing else is done. */
const NOTE_MS = 8000;

/** Says what was just done to the shot on the bench, with the way back. It goes with the next change: its Undo would take back that one. */
export function noteWithUndo(text: string, description?: string): void {
  const done = workOf(useDocument.getState());
  const note = toast(text, { description, duration: NOTE_MS, action: { label: texts.undo, onClick: undo }, onAutoClose: () => forget(), onDismiss: () => forget() });
  const forget = useDocument.subscribe((now) => {
    if (sameWork(now, done)) return;
    forget();
    toast.dismiss(note);
  });
}
