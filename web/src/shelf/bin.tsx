import { Dialog } from 'radix-ui';
import { addDays, formatDistanceToNowStrict } from 'date-fns';
import { BIN_DAYS, type Medium } from '@tin-ghost/contract';
import { api, useBin } from '../api/client';
import { told } from '../api/told';
import { Button } from '../parts/button';
import { texts } from '../messages/shelf';

/** What was deleted: each is put back by a button, until its time is over. */
export function Bin() {
  const { data: bin } = useBin();
  if (!bin || bin.reels.length + bin.shots.length === 0) return null;
  return (
    <section aria-label={texts.bin} className="mt-10">
      <div className="mb-2 flex items-end justify-between">
        <h2 className="text-[20px] font-semibold">{texts.bin}</h2>
        <Empty count={bin.reels.length + bin.shots.length} />
      </div>
      <ul className="flex flex-col">
        {bin.reels.map(({ id, name, shots, discardedAt, medium }) => (
          <Entry
            key={id}
            name={name}
            says={texts.reelOfShots(shots)}
            discardedAt={discardedAt}
            medium={medium}
            onBack={() => void told(api(`/reels/${id}/restore`, { method: 'POST' }))}
          />
        ))}
        {bin.shots.map(({ id, name, reel, discardedAt, medium }) => (
          <Entry
            key={id}
            name={name}
            says={texts.shotOfReel(reel)}
            discardedAt={discardedAt}
            medium={medium}
            onBack={() => void told(api(`/shots/${id}/restore`, { method: 'POST' }))}
          />
        ))}
      </ul>
    </section>
  );
}

function Entry({ name, says, discardedAt, medium, onBack }: { name: string; says: string; discardedAt: string; medium: Medium | null; onBack: () => void }) {
  const until = formatDistanceToNowStrict(addDays(new Date(discardedAt), BIN_DAYS), { unit: 'day' });
  return (
    <li className="flex items-center gap-3 border-t border-rule py-1.5">
      {medium?.state === 'ready' ? (
        <img draggable={false} src={`/api/media/${medium.id}/poster`} alt="" className="h-9 w-16 bg-surround object-cover" />
      ) : (
        <span className="h-9 w-16 bg-surround" />
      )}
      <span className="min-w-0 flex-1 truncate">
        <span className="font-semibold">{name}</span> <span className="text-faint">{says}</span>
      </span>
      <span className="text-faint">{texts.removedIn(until)}</span>
      <Button onClick={onBack} aria-label={texts.putBackName(name)}>
        {texts.putBack}
      </Button>
    </li>
  );
}

function Empty({ count }: { count: number }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button kind="bare" className="text-[13px] text-faint">
          {texts.emptyBin}
        </Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#1b1e1f]/55" />
        <Dialog.Content className="fixed top-32 left-1/2 z-50 w-[400px] -translate-x-1/2 rounded-sm border border-rule bg-panel p-5 shadow-xl" aria-describedby={undefined}>
          <Dialog.Title className="text-[18px] font-semibold">{texts.emptyTheBin}</Dialog.Title>
          <p className="mt-2">{texts.emptyingRemoves(count)}</p>
          <div className="mt-4 flex justify-end gap-2">
            <Dialog.Close asChild>
              <Button>{texts.cancel}</Button>
            </Dialog.Close>
            <Dialog.Close asChild>
              <Button kind="live" onClick={() => void told(api('/bin', { method: 'DELETE' }))}>
                {texts.removeForGood}
              </Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
