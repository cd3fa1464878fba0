import { useNavigate } from 'react-router';
import { api } from '../../api/client';
import { told } from '../../api/told';
import { Button } from '../../parts/button';
import type { Shot } from '@tin-ghost/contract';
import { texts } from '../../messages/shot';

/** Ends the import of a shot's footage: the shot goes with it. */
export function CancelImport({ shot, className }: { shot: Pick<Shot, 'id' | 'reelId'>; className?: string }) {
  const navigate = useNavigate();
  return (
    <Button className={className} onClick={() => void told(api(`/shots/${shot.id}`, { method: 'DELETE' })).then((done) => done && navigate(`/reels/${shot.reelId}`))}>
      {texts.cancelImport}
    </Button>
  );
}
