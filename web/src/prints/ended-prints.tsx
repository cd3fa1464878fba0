import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { PRINTS_NOTE, useOrdered } from '../api/ordered';
import { texts } from '../messages/prints';

/** A word on every screen when what was ordered is done; by the browser, too, where it may and another page is in front. */
export function EndedPrints() {
  const navigate = useNavigate();
  useEffect(
    () =>
      useOrdered.subscribe(({ waiting, ended }, before) => {
        if (ended.length <= before.ended.length) return;
        const all = waiting.length + ended.length;
        const failed = ended.filter(({ state }) => state === 'failed').length;
        const action = { label: texts.toPrints, onClick: () => void navigate('/prints') };
        if (waiting.length) return void toast(texts.someAreDone(ended.length, all), { id: PRINTS_NOTE, action });
        const words = failed ? texts.someFailed(failed, all) : texts.printsAreDone(all);
        (failed ? toast.error : toast.success)(words, { id: PRINTS_NOTE, duration: 20_000, action });
        if (document.visibilityState === 'hidden' && 'Notification' in window && Notification.permission === 'granted') new Notification('Tin Ghost', { body: words });
      }),
    [navigate],
  );
  return null;
}
