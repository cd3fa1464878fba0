import { useState } from 'react';
import { toast } from 'sonner';
import type { Medium, StoredPlate } from '@tin-ghost/contract';
import { api, refresh, usePlates } from '../../api/client';
import { useLiveMedium } from '../../api/live';
import { bringPlates } from '../../api/upload';
import { FileButton } from '../../parts/file-button';
import { proposedBlend } from './plate-blend';
import { texts } from '../../messages/card';

interface Props {
  label: string;
  value: string;
  /** With the blend that is proposed for it. */
  onChange: (id: string, blend: string) => void;
}

/** How often an import is looked at. */
const LOOK_MS = 400;

/** A plate once it has been imported, or has failed to be; undefined where it is gone. */
async function settledPlate(medium: string): Promise<StoredPlate | undefined> {
  for (;;) {
    const plate = (await api<StoredPlate[]>('/plates')).find((one) => one.medium.id === medium);
    if (!plate || plate.medium.state === 'ready' || plate.medium.state === 'failed') return plate;
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
}

/** A plate: one that ships, one that is kept, or one from a file. */
export function PlateField({ label, value, onChange }: Props) {
  const { data: plates } = usePlates();
  /** The medium of a file that was sent, until it can be laid. */
  const [coming, setComing] = useState<string | null>(null);
  const take = (plate: StoredPlate): void => void proposedBlend(plate).then((blend) => onChange(plate.key!, blend));
  const bring = async (files: File[]): Promise<void> => {
    // Of several the first is laid; all are in the stockroom.
    const [medium] = await bringPlates(files);
    if (!medium) return;
    setComing(medium);
    const plate = await settledPlate(medium);
    setComing(null);
    await refresh('/plates');
    if (plate?.key) take(plate);
    else toast.error(`${plate?.name ?? files[0]!.name}: ${plate?.medium.error ?? texts.itIsNotThereAnyMore}`, { duration: 15_000 });
  };
  const arrived = plates?.find(({ medium }) => medium.id === coming);
  const ready = plates?.filter((plate) => plate.key !== null) ?? [];
  const chosen = ready.find((plate) => plate.key === value);
  const lost = plates !== undefined && value !== '' && !chosen;
  return (
    <div className="mb-1" role="group" aria-label={label}>
      <div className="flex min-h-7 items-center gap-1.5">
        <span className="w-[86px] shrink-0">{label}</span>
        <select
          aria-label={label}
          className="min-w-0 flex-1 rounded-sm border border-rule bg-well px-1 py-0.5"
          value={value}
          onChange={(e) => {
            const plate = ready.find(({ key }) => key === e.currentTarget.value);
            if (plate) take(plate);
            else onChange('', '');
          }}
        >
          <option value="">{texts.none}</option>
          {ready.map((plate) => (
            <option key={plate.id} value={plate.key!}>
              {plate.name}
            </option>
          ))}
          {lost && <option value={value}>{texts.notOnThisMachine}</option>}
        </select>
        <FileButton
          kind="bare"
          label={texts.fileOf(label)}
          accept="image/*,video/*,.mov,.mxf,.mkv,.zip"
          title={texts.importClipStillOrImages}
          onFiles={(files) => void bring(files)}
        >
          {texts.file}
        </FileButton>
      </div>
      {chosen && (
        <img draggable={false} src={`/api/media/${chosen.medium.id}/poster`} alt="" className="mt-1 block max-h-24 w-full border border-rule bg-[#6d7273] object-contain" />
      )}
      {coming && (
        <p role="status" className="text-[13px] text-faint">
          {arrived ? <ImportedShare medium={arrived.medium} /> : texts.importingPlate(null)}
        </p>
      )}
      {lost && (
        <p role="status" className="text-[13px] text-oxide">
          {texts.thisPlateIsNot}
        </p>
      )}
    </div>
  );
}

const ImportedShare = ({ medium }: { medium: Medium }) => texts.importingPlate(Math.round(useLiveMedium(medium).progress * 100));
