import { toast } from 'sonner';
import { UNDO_MS } from '../../api/told';
import { texts } from '../../messages/chain';
import { sameWork, undo, useDocument } from './document';
import { workOf } from './keeper';

/** One sentence stays no longer: it lies over the strip, and the toolbar has Undo, too. */
const SHORT_MS = 8000;

/** Says what was just done to the shot on the bench, with the way back. It goes with the next change: its Undo would take back that one. */
export function noteWithUndo(text: string, description?: string): void {
  const done = workOf(useDocument.getState());
  const note = toast(text, {
    description,
    duration: description ? UNDO_MS : SHORT_MS,
    action: { label: texts.undo, onClick: undo },
    onAutoClose: () => forget(),
    onDismiss: () => forget(),
  });
  const forget = useDocument.subscribe((now) => {
    if (sameWork(now, done)) return;
    forget();
    toast.dismiss(note);
  });
}
