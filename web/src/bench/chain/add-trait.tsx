import { useState } from 'react';
import { Popover } from 'radix-ui';
import { Plus } from 'lucide-react';
import { carrierById, lacking, traits, type Act, type AnyTrait, type Setting } from '@tin-ghost/core';
import { PictureCanvas } from '../../render/canvas';
import type { Source } from '../../render/protocol';
import { usePicture } from '../../render/use-picture';
import { addUse, TRIED, tryUse } from '../state/look-edits';
import { changeLook, useDocument } from '../state/document';
import { usePlayback } from '../state/playback';

const THUMB_WIDTH = 176;

/** Whether every word that is looked for stands in what a trait is called, says or can be set to. */
function doesWhat(trait: AnyTrait, wanted: string): boolean {
  const settings = Object.values(trait.settings as Record<string, Setting>).flatMap(({ name, says }) => [name, says]);
  const text = [trait.name, trait.says, trait.act, ...settings].join(' ').toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** What may be put into an act, each seen on this picture; its own traits first. */
export function AddTrait({ life, act, actName, source }: { life: number; act: Act; actName: string; source: Source }) {
  const [open, setOpen] = useState(false);
  const [wanted, setWanted] = useState('');
  const carrierId = useDocument((s) => s.look.lives[life]!.carrier);
  const carrier = carrierById(carrierId)!;
  // What this carrier cannot do is not offered; what is usual on it stands before what is not.
  const fit = traits.filter((t) => !lacking(t, carrier));
  const usual = (t: AnyTrait): boolean => !t.media || carrier.medium === 'none' || t.media.includes(carrier.medium);
  const colour = fit.filter((t) => t.family === 'colour');
  const laid = fit.filter((t) => t.family === 'laid');
  const own = fit.filter((t) => t.act === act && !t.family).sort((a, b) => Number(usual(b)) - Number(usual(a)));
  const others = fit.filter((t) => t.act !== act && !t.family);
  const found = fit.filter((t) => doesWhat(t, wanted));
  const offers = (list: readonly AnyTrait[]) => (
    <div className="grid grid-cols-2 gap-3">
      {list.map((trait) => (
        <Offer key={trait.id} trait={trait} life={life} act={act} source={source} foreign={trait.act !== act && !trait.family} onAdd={() => add(trait)} />
      ))}
    </div>
  );
  const add = (trait: AnyTrait): void => {
    const added = addUse(useDocument.getState().look, life, trait.id, act);
    changeLook(added.look, added.at);
    setOpen(false);
  };
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setWanted('');
      }}
    >
      <Popover.Trigger className="p-0.5 hover:text-oxide" aria-label={`Add to ${actName}`}>
        <Plus size={15} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          className="z-50 max-h-[60vh] overflow-auto rounded-sm border border-rule bg-panel p-3 shadow-lg"
          collisionPadding={8}
          aria-label={`What can be added to ${actName}`}
        >
          <input
            type="search"
            aria-label="Search traits"
            placeholder="Search all acts: dust, line, colour…"
            value={wanted}
            onChange={(e) => setWanted(e.currentTarget.value)}
            className="mb-2.5 w-full rounded-sm border border-rule bg-well px-2 py-1"
          />
          {wanted.trim() ? (
            found.length ? (
              offers(found)
            ) : (
              <p className="w-[380px] text-faint">Nothing does that. Try another word, such as “scratch” or “blur”.</p>
            )
          ) : (
            <>
              {own.length === 0 && <p className="mb-2 max-w-[380px] text-faint">No trait begins in this act yet. Any other may be put here, if it happened at this point.</p>}
              {offers(own)}
              <h3 className="label mt-3 mb-1.5">Laid over</h3>
              {offers(laid)}
              <h3 className="label mt-3 mb-1.5">Colour</h3>
              {offers(colour)}
              <h3 className="label mt-3 mb-1.5">From other acts</h3>
              {offers(others)}
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Offer({ trait, life, act, source, foreign, onAdd }: { trait: AnyTrait; life: number; act: Act; source: Source; foreign: boolean; onAdd: () => void }) {
  const look = useDocument((s) => s.look);
  const frame = usePlayback((s) => s.frame);
  // Far enough in for an event to be under way.
  const shown = Math.max(frame, Math.min(source.frames - 1, Math.ceil(TRIED.age * source.rate)));
  const [tried] = useState(() => tryUse(look, life, trait.id, act, shown / source.rate));
  const height = Math.round((THUMB_WIDTH * 2 * source.height) / source.width);
  const { worn } = usePicture(source, shown, tried, { width: THUMB_WIDTH * 2, height });
  return (
    <button type="button" onClick={onAdd} className="flex w-[190px] flex-col justify-start rounded-sm border border-rule bg-well p-1.5 text-left hover:border-oxide">
      <PictureCanvas worn={worn} label={`${trait.name} on this picture`} className="block w-full bg-surround" style={{ aspectRatio: `${source.width} / ${source.height}` }} />
      <span className="mt-1 flex items-baseline justify-between">
        <span className="font-semibold">{trait.name}</span>
        {foreign && <span className="label !text-[10px]">{trait.act}</span>}
      </span>
      <span className="block text-[13px] text-faint">{trait.says}</span>
    </button>
  );
}
