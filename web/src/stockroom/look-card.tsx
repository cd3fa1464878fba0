import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { DropdownMenu } from 'radix-ui';
import type { Reel, ReelSummary, StoredLook } from '@tin-ghost/contract';
import { api, refresh, useReels } from '../api/client';
import { UNDO_MS } from '../api/told';
import { lookToShots } from '../bench/shot/shot-actions';
import { Button } from '../parts/button';
import { NameField } from '../parts/name-field';
import { useNear } from '../parts/use-near';
import { useWidth } from '../parts/use-width';
import { PictureCanvas } from '../render/canvas';
import type { Source } from '../render/protocol';
import { usePicture } from '../render/use-picture';
import { inWords } from './look-filter';
import { texts } from '../messages/stockroom';

/** Thumbnails are worn at the width at which they are seen, held to steps, so that a window that is drawn larger does not wear them anew all the way. */
const STEP = 40;

/** A look, live on a picture, and what can be done with it. */
export function LookCard({ stored, source }: { stored: StoredLook; source: Source | null }) {
  const { look } = stored;
  const { data: reels } = useReels();
  const [naming, setNaming] = useState(false);
  const place = useRef<HTMLLIElement>(null);
  const near = useNear(place);
  const seen = Math.ceil((useWidth(place) * devicePixelRatio) / STEP) * STEP;
  const width = source ? Math.min(source.width, seen) : 0;
  const height = source ? Math.round((width * source.height) / source.width) : 0;
  const { worn } = usePicture(near && width ? source : null, source ? Math.floor(source.frames / 3) : 0, look, { width, height });
  const changed = (work: Promise<unknown>): Promise<unknown> =>
    work.then(
      () => refresh('/looks'),
      (error: Error) => toast.error(error.message),
    );
  const store = (): void => void changed(api('/looks', { method: 'POST', body: look }));
  const applyTo = async (reel: ReelSummary): Promise<void> => {
    const shots = await api<Reel>(`/reels/${reel.id}`);
    await lookToShots(look, shots.shots);
  };
  const remove = (): void =>
    void api(`/looks/${stored.id}`, { method: 'DELETE' }).then(
      () => {
        toast(texts.nameRemoved(look.name), { duration: UNDO_MS, action: { label: texts.undo, onClick: store } });
        return refresh('/looks');
      },
      (error: Error) => toast.error(error.message),
    );
  return (
    <li ref={place} className="rounded-sm border border-rule bg-tin p-2.5">
      {/* A layer of its own, so that each picture that comes does not have the page around it drawn anew. */}
      <PictureCanvas
        worn={worn}
        label={texts.nameOnYourPicture(look.name)}
        className="block w-full bg-surround will-change-transform"
        style={{ aspectRatio: source ? `${source.width} / ${source.height}` : '16 / 9' }}
      />
      <div className="mt-2 flex items-baseline gap-2">
        {naming ? (
          <NameField
            name={look.name}
            className="min-w-0 flex-1 bg-well text-[17px]"
            onDone={(name) => {
              setNaming(false);
              if (name) void changed(api(`/looks/${stored.id}`, { method: 'PATCH', body: { name } }));
            }}
          />
        ) : (
          <h2 className="flex-1 truncate text-[17px] font-semibold" title={look.name}>
            {look.name}
          </h2>
        )}
        <span className="label">{stored.shipped ? texts.builtIn : texts.yours}</span>
      </div>
      <p className="text-faint">{inWords(look)}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="inline-flex items-center rounded-sm border border-rule bg-panel px-3 py-0.5 hover:bg-well" aria-label={texts.applyToReel(look.name)}>
            {texts.applyTo}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content className="z-50 max-h-[60vh] overflow-auto rounded-sm border border-rule bg-panel p-1.5 shadow-lg" align="start" sideOffset={4}>
              {reels?.map((reel) => (
                <DropdownMenu.Item
                  key={reel.id}
                  disabled={reel.shots.length === 0}
                  className="cursor-pointer px-2 py-1 outline-none data-[disabled]:opacity-45 data-[highlighted]:bg-well"
                  onSelect={() => void applyTo(reel)}
                >
                  {reel.name}, {texts.shots(reel.shots.length)}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <Button onClick={store} aria-label={texts.duplicateName(look.name)}>
          {texts.duplicate}
        </Button>
        <a className="inline-flex items-center rounded-sm border border-rule bg-panel px-3 py-0.5 hover:bg-well" download={`${look.name}.json`} href={`/api/looks/${stored.id}`}>
          {texts.file}
        </a>
        {!stored.shipped && (
          <Button onClick={() => setNaming(true)} aria-label={texts.renameName(look.name)}>
            {texts.rename}
          </Button>
        )}
        {!stored.shipped && (
          <Button onClick={remove} aria-label={texts.removeName(look.name)}>
            {texts.remove}
          </Button>
        )}
      </div>
    </li>
  );
}
