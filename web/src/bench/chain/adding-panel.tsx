import { useState } from 'react';
import { Dialog } from 'radix-ui';
import { X } from 'lucide-react';
import { carrierById, lacking, traits, type Act, type AnyTrait, type Setting, type TraitUse } from '@tin-ghost/core';
import type { Source } from '../../render/protocol';
import { changeLook, useDocument } from '../state/document';
import { addUse } from '../state/look-edits';
import { offerTo, useSession } from '../state/session';
import { ACT_NAMES } from '../../messages/acts';
import { Offer } from './offer';
import { texts } from '../../messages/chain';

/** Whether every word that is looked for stands in what a trait is called, says or can be set to. */
function doesWhat(trait: AnyTrait, wanted: string): boolean {
  const settings = Object.values(trait.settings as Record<string, Setting>).flatMap(({ name, says }) => [name, says]);
  const text = [trait.name, trait.says, trait.act, ...settings].join(' ').toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** What may be put into an act, each seen on this picture: over the chain and the strip, so that the picture it is about stays in sight. */
export function AddingPanel({ source }: { source: Source }) {
  const adding = useSession((s) => s.adding);
  const life = useDocument((s) => adding && s.look.lives[adding.life]);
  const close = (): void => offerTo(null);
  if (!adding || !life) return null;
  return (
    <Dialog.Root open modal={false} onOpenChange={(open) => !open && close()}>
      <Dialog.Content
        className="absolute inset-0 z-30 flex flex-col bg-panel"
        aria-label={texts.whatCanBeAddedToAct(ACT_NAMES[adding.act])}
        aria-describedby={undefined}
        // The picture may be moved, played and compared meanwhile.
        onInteractOutside={(event) => {
          if ((event.target as Element).closest('[data-picture-room]')) event.preventDefault();
        }}
        onCloseAutoFocus={(event) => {
          event.preventDefault();
          document.querySelector<HTMLElement>(`[data-add="${adding.life} ${adding.act}"]`)?.focus();
        }}
      >
        <Dialog.Title className="sr-only">{texts.whatCanBeAddedToAct(ACT_NAMES[adding.act])}</Dialog.Title>
        <Offers key={`${adding.life} ${adding.act}`} life={adding.life} act={adding.act} carrierId={life.carrier} source={source} />
      </Dialog.Content>
    </Dialog.Root>
  );
}

function Offers({ life, act, carrierId, source }: { life: number; act: Act; carrierId: string; source: Source }) {
  const [wanted, setWanted] = useState('');
  const carrier = carrierById(carrierId)!;
  // What this carrier cannot do is not offered; what is usual on it stands before what is not.
  const fit = traits.filter((t) => !lacking(t, carrier));
  const usual = (t: AnyTrait): boolean => !t.media || carrier.medium === 'none' || t.media.includes(carrier.medium);
  const add = (trait: AnyTrait, settings: TraitUse['settings']): void => {
    const added = addUse(useDocument.getState().look, life, trait.id, act, settings);
    changeLook(added.look, added.at);
    offerTo(null);
  };
  const groups: (readonly [string, readonly AnyTrait[]])[] = wanted.trim()
    ? [[texts.found, fit.filter((t) => doesWhat(t, wanted))]]
    : [
        [ACT_NAMES[act], fit.filter((t) => t.act === act && !t.family).sort((a, b) => Number(usual(b)) - Number(usual(a)))],
        [texts.laidOver, fit.filter((t) => t.family === 'laid')],
        [texts.colour, fit.filter((t) => t.family === 'colour')],
        [texts.fromOtherActs, fit.filter((t) => t.act !== act && !t.family)],
      ];
  return (
    <>
      <div className="flex items-center gap-3 border-b border-rule px-3 py-1.5">
        <span className="font-semibold">{texts.addToAct(ACT_NAMES[act])}</span>
        <input
          type="search"
          aria-label={texts.searchTraits}
          placeholder={texts.searchAllActsDustLineColour}
          value={wanted}
          onChange={(e) => setWanted(e.currentTarget.value)}
          className="min-w-0 flex-1 rounded-sm border border-rule bg-well px-2 py-0.5"
        />
        <span className="text-[13px] text-faint max-[1100px]:hidden">{texts.pointAtOnePictureShows}</span>
        <Dialog.Close className="p-1 hover:text-oxide" aria-label={texts.close}>
          <X size={16} />
        </Dialog.Close>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
        {groups.map(([name, list]) =>
          list.length === 0 && name !== texts.found ? null : (
            <section key={name} aria-label={name}>
              <h3 className="label mt-2.5 mb-1.5">{name}</h3>
              {list.length === 0 && <p className="text-faint">{texts.nothingDoesThatTryAnother}</p>}
              <ul className="grid grid-cols-[repeat(auto-fill,minmax(152px,1fr))] gap-2">
                {list.map((trait) => (
                  <Offer key={trait.id} trait={trait} life={life} act={act} source={source} onAdd={(settings) => add(trait, settings)} />
                ))}
              </ul>
            </section>
          ),
        )}
      </div>
    </>
  );
}
