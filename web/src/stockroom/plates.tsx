import { useState } from 'react';
import { Trash2 } from 'lucide-react';
import { toast } from 'sonner';
import type { StoredPlate } from '@tin-ghost/contract';
import { api, refresh, usePlates } from '../api/client';
import { bringPlates } from '../api/upload';
import { Button } from '../parts/button';
import { MediumState } from '../parts/medium-state';
import { Section } from './section';
import { texts } from '../messages/stockroom';

/** Clips and stills that looks lay over pictures: those that ship, and one's own. */
export function Plates() {
  const { data: plates } = usePlates();
  return (
    <Section words={texts.plates} accept="image/*,video/*,.mov,.mxf,.mkv,.zip" bring={bringPlates}>
      {plates?.map((plate) => (
        <PlateCard key={plate.id} plate={plate} />
      ))}
    </Section>
  );
}

function PlateCard({ plate }: { plate: StoredPlate }) {
  const { medium, shipped } = plate;
  const [name, setName] = useState<string | null>(null);
  const rename = (): void => {
    const wanted = name?.trim();
    setName(null);
    if (!wanted || wanted === plate.name) return;
    api(`/plates/${plate.id}`, { method: 'PATCH', body: { name: wanted } }).then(
      () => refresh('/plates'),
      (error: Error) => toast.error(error.message),
    );
  };
  const discard = (): void =>
    void api(`/plates/${plate.id}`, { method: 'DELETE' }).then(
      () => refresh('/plates'),
      (error: Error) => toast.error(error.message),
    );
  const { footage } = medium;
  return (
    <li className="rounded-sm border border-rule bg-tin p-2">
      {medium.state === 'ready' ? (
        <img draggable={false} src={`/api/media/${medium.id}/poster`} alt={plate.name} className="block aspect-video w-full bg-[#6d7273] object-contain" />
      ) : (
        <div className="aspect-video w-full bg-well">
          <MediumState medium={medium} />
        </div>
      )}
      <div className="mt-1.5 flex items-baseline gap-2">
        {shipped ? (
          <h3 className="flex-1 truncate text-[16px] font-semibold">{plate.name}</h3>
        ) : (
          <input
            aria-label={texts.nameOfName(plate.name)}
            className="min-w-0 flex-1 border-b border-transparent bg-transparent text-[16px] font-semibold hover:border-rule focus:border-ink"
            value={name ?? plate.name}
            onChange={(e) => setName(e.currentTarget.value)}
            onBlur={rename}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          />
        )}
        <span className="label">{shipped ? texts.builtIn : texts.yours}</span>
        {!shipped && (
          <Button kind="bare" className="!p-0" aria-label={texts.deleteName(plate.name)} title={texts.delete} onClick={discard}>
            <Trash2 size={14} />
          </Button>
        )}
      </div>
      {footage && (
        <p className="mono text-[12px] text-faint">
          {footage.width} x {footage.stacked ? footage.height / 2 : footage.height}
          {footage.kind === 'still' ? texts.still : `, ${(footage.frames / (footage.rate.num / footage.rate.den)).toFixed(1)} s`}
          {footage.stacked && texts.alpha}
        </p>
      )}
    </li>
  );
}
