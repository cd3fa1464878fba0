import { Trash2 } from 'lucide-react';
import { useReels, useReferences } from '../api/client';
import { discardReference } from '../api/references';
import { bringReferences } from '../api/upload';
import { Button } from '../parts/button';
import { MediumState } from '../parts/medium-state';
import { Section } from './section';
import { texts } from '../messages/stockroom';

/** Stills and clips of the real thing: those that ship and those of all reels. */
export function References() {
  const { data: references } = useReferences();
  const { data: reels } = useReels();
  return (
    <Section words={texts.references} accept="image/*,video/*,.mxf,.mkv" bring={bringReferences}>
      {references?.map((reference) => (
        <li key={reference.id} className="rounded-sm border border-rule bg-tin p-2">
          {reference.medium.state === 'ready' ? (
            <img draggable={false} src={`/api/media/${reference.medium.id}/poster`} alt={reference.name} className="block aspect-video w-full bg-surround object-cover" />
          ) : (
            <div className="aspect-video w-full bg-well">
              <MediumState medium={reference.medium} />
            </div>
          )}
          <div className="mt-1.5 flex items-baseline gap-2">
            <h3 className="flex-1 truncate text-[16px] font-semibold">{reference.name}</h3>
            <span className="label">{reference.shipped ? texts.builtIn : (reels?.find((r) => r.id === reference.reelId)?.name ?? texts.yours)}</span>
            {!reference.shipped && (
              <Button kind="bare" className="!p-0" aria-label={texts.deleteName(reference.name)} title={texts.delete} onClick={() => discardReference(reference.id)}>
                <Trash2 size={14} />
              </Button>
            )}
          </div>
        </li>
      ))}
    </Section>
  );
}
