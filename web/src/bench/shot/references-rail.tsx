import clsx from 'clsx';
import { X } from 'lucide-react';
import type { Reel, Reference } from '@tin-ghost/contract';
import { bringReferences } from '../../api/upload';
import { discardReference } from '../../api/references';
import { FileButton } from '../../parts/file-button';
import { pinReference, useCompare } from '../state/compare';
import { MediumState } from '../../parts/medium-state';
import { texts } from '../../messages/shot';

/** Stills and clips of the real thing, narrow, under the shots. */
export function ReferencesRail({ reel, references }: { reel: Reel; references: readonly Reference[] }) {
  const pinned = useCompare((s) => s.pinned);
  const discard = (reference: Reference): void => {
    if (pinned === reference.id) pinReference(null);
    discardReference(reference.id);
  };
  return (
    <section aria-label={texts.references} className="mt-4 border-t border-rule pt-2.5">
      <h2 className="label mb-1.5">{texts.references}</h2>
      <ul className="flex flex-col gap-2">
        {references.map((reference) => (
          <li key={reference.id} className="relative" data-own-delete>
            <button
              type="button"
              aria-pressed={pinned === reference.id}
              title={texts.pinBesidePicture(reference.name)}
              onClick={() => pinReference(reference.id)}
              className={clsx('block w-full border bg-tin text-left', pinned === reference.id ? 'border-oxide outline-1 outline-oxide' : 'border-rule')}
            >
              {reference.medium.state === 'ready' ? (
                <img draggable={false} src={`/api/media/${reference.medium.id}/poster`} alt="" className="block aspect-video w-full bg-surround object-cover" />
              ) : (
                <MediumState medium={reference.medium} />
              )}
              <span className="block truncate px-1 text-[12px]">{reference.name}</span>
            </button>
            {!reference.shipped && (
              <button
                type="button"
                aria-label={texts.discardReferenceName(reference.name)}
                className="absolute top-0 right-0 bg-[#1b1e1f] p-0.5 text-[#e6e8e7]"
                onClick={() => discard(reference)}
              >
                <X size={11} />
              </button>
            )}
          </li>
        ))}
      </ul>
      {references.length === 0 && <p className="text-[13px] text-faint">{texts.stillsOrClipsOfReal}</p>}
      <FileButton
        className="mt-2 w-full justify-center"
        label={texts.referenceFile}
        accept="image/*,video/*,.mxf,.mkv"
        onFile={(chosen) => void bringReferences([chosen], reel.id)}
      >
        {texts.addOne}
      </FileButton>
    </section>
  );
}
