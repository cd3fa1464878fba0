import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { PRINTS_NOTE, useOrdered } from '../api/ordered';

const many = (n: number): string => (n === 1 ? 'The print is' : `All ${n} prints are`);

/** A word on every screen when what was ordered is done; by the browser, too, where it may and another page is in front. */
export function EndedPrints() {
  const navigate = useNavigate();
  useEffect(
    () =>
      useOrdered.subscribe(({ waiting, ended }, before) => {
        if (ended.length <= before.ended.length) return;
        const all = waiting.length + ended.length;
        const failed = ended.filter(({ state }) => state === 'failed').length;
        const action = { label: 'To the prints', onClick: () => void navigate('/prints') };
        if (waiting.length) return void toast(`${ended.length} of ${all} prints are done`, { id: PRINTS_NOTE, action });
        const words = failed ? `${failed} of ${all} prints could not be finished` : `${many(all)} done`;
        (failed ? toast.error : toast.success)(words, { id: PRINTS_NOTE, duration: 20_000, action });
        if (document.visibilityState === 'hidden' && 'Notification' in window && Notification.permission === 'granted') new Notification('Tin Ghost', { body: words });
      }),
    [navigate],
  );
  return null;
}
