import { toast } from 'sonner';
import { cdlText, traitById, type Cdl, type CdlKind, type NumberSetting, type TraitUse, type Value } from '@tin-ghost/core';
import { FileButton } from '../../parts/file-button';
import { texts } from '../../messages/card';

const CHANNELS = [texts.red, texts.green, texts.blue] as const;
const KINDS: readonly CdlKind[] = ['cdl', 'ccc', 'cc'];

/** The settings of the trait as a correction. */
export function cdlOf(use: TraitUse): Cdl {
  const of = (key: string, rest: number): number => (use.settings?.[key] as number | undefined) ?? rest;
  const three = (part: string, rest: number) => CHANNELS.map((c) => of(`${part}${c}`, rest)) as unknown as Cdl['slope'];
  return { id: use.name ?? 'tin-ghost', slope: three('slope', 1), offset: three('offset', 0), power: three('power', 1), saturation: of('saturation', 1) };
}

/**
 * A correction as settings of the trait.
 * @throws Error that names each number the trait cannot hold
 */
export function settingsOf({ slope, offset, power, saturation }: Cdl): Record<string, number> {
  const parts = { slope, offset, power };
  const settings: Record<string, number> = {
    ...Object.fromEntries(Object.entries(parts).flatMap(([part, values]) => CHANNELS.map((c, i) => [`${part}${c}`, values[i]!]))),
    saturation,
  };
  const wrong = Object.entries(traitById('cdl')!.settings as Record<string, NumberSetting>)
    .filter(([key, { min, max }]) => !(settings[key]! >= min && settings[key]! <= max))
    .map(([key, { name, min, max }]) => texts.isOutOfRange(name, settings[key], min, max));
  if (wrong.length) throw new Error(wrong.join('; '));
  return settings;
}

/** Corrections in and out as .cdl, .ccc and .cc files. */
export function CdlFiles({ use, onTake }: { use: TraitUse; onTake: (settings: Record<string, Value>, name: string) => void }) {
  const read = async (chosen: File): Promise<void> => {
    try {
      // What reads XML is loaded where it is needed.
      const [text, { parseCdl }] = await Promise.all([chosen.text(), import('./cdl-reader')]);
      const [first, ...rest] = parseCdl(text);
      onTake(settingsOf(first!), first!.id || chosen.name.replace(/\.[^.]+$/, ''));
      if (rest.length) toast(texts.holdsCorrections(chosen.name, rest.length + 1));
    } catch (error) {
      toast.error(`${chosen.name}: ${(error as Error).message}`, { duration: 15_000 });
    }
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      <FileButton label={texts.fileOfCorrections} accept=".cdl,.ccc,.cc" onFile={(chosen) => void read(chosen)}>
        {texts.openFile}
      </FileButton>
      <span className="text-faint">{texts.as}</span>
      {KINDS.map((kind) => (
        <a
          key={kind}
          className="mono rounded-sm border border-rule bg-tin px-2 py-1 hover:bg-well"
          download={`${use.name ?? 'correction'}.${kind}`}
          href={`data:application/xml,${encodeURIComponent(cdlText([cdlOf(use)], kind))}`}
        >
          .{kind}
        </a>
      ))}
    </div>
  );
}
