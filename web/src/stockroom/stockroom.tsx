import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { ACTS, LookError, parseLook } from '@tin-ghost/core';
import { api, refresh, useLooks, useReels } from '../api/client';
import { bringPlates, bringReferences } from '../api/upload';
import { FileButton } from '../parts/file-button';
import { useFileDrop } from '../parts/file-drop';
import { Page } from '../parts/page';
import { sourceOf } from '../render/source';
import { LookCard } from './look-card';
import { ALL_LOOKS, isShown, type LookFilter } from './look-filter';
import { Plates } from './plates';
import { References } from './references';
import { ACT_NAMES } from '../messages/acts';
import { texts } from '../messages/stockroom';

const MEDIA: readonly (readonly [NonNullable<LookFilter['medium']>, string])[] = [
  ['film', texts.film],
  ['tape', texts.tape],
  ['air', texts.broadcastAndCable],
];
const COLOURS: readonly (readonly [NonNullable<LookFilter['colour']>, string])[] = [
  ['colour', texts.inColour],
  ['black and white', texts.blackAndWhite],
];
const SELECT = 'rounded-sm border border-rule bg-well px-2 py-1';

interface NarrowProps<T extends string> {
  label: string;
  /** What stands there where all are shown. */
  any: string;
  options: readonly (readonly [T, string])[];
  value: T | null;
  onChange: (value: T | null) => void;
}

/** A list of what the looks are narrowed to. */
function Narrow<T extends string>({ label, any, options, value, onChange }: NarrowProps<T>) {
  return (
    <select aria-label={label} value={value ?? ''} onChange={(e) => onChange((e.currentTarget.value || null) as T | null)} className={SELECT}>
      <option value="">{any}</option>
      {options.map(([id, name]) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** The library: looks, live on a picture of one's own. */
export function Stockroom() {
  const { data: looks, error } = useLooks();
  const { data: reels } = useReels();
  const shots = useMemo(() => reels?.flatMap((reel) => reel.shots).filter((s) => s.medium.state === 'ready') ?? [], [reels]);
  const [chosen, setChosen] = useState<string | null>(null);
  // The first that was seen stays, whatever is touched elsewhere meanwhile.
  if (chosen === null && shots[0]) setChosen(shots[0].id);
  const shot = shots.find((s) => s.id === chosen) ?? shots[0];
  const [filter, setFilter] = useState<LookFilter>(ALL_LOOKS);
  const narrow = (more: Partial<LookFilter>): void => setFilter((f) => ({ ...f, ...more }));
  const shown = useMemo(() => looks?.filter(({ look }) => isShown(look, filter)) ?? [], [looks, filter]);
  /** Look files are looks wherever they are dropped. */
  const dropped = (others: (files: File[]) => Promise<unknown>) => (files: File[]) => {
    const looks = files.filter((file) => file.name.toLowerCase().endsWith('.json'));
    if (looks.length) void bringLooks(looks);
    void others(files.filter((one) => !looks.includes(one)));
  };
  useFileDrop(texts.dropLookFilesOrPlates, dropped(bringPlates), { says: texts.dropReferences, take: dropped(bringReferences) });
  // eslint-disable-next-line react-hooks/exhaustive-deps -- made anew only for other footage
  const source = useMemo(() => (shot ? sourceOf(shot.medium) : null), [shot?.id, shot?.medium.id]);
  return (
    <Page
      title={texts.stockroom}
      heading={texts.looks}
      error={error}
      beside={
        <label className="flex items-center gap-2">
          <span className="text-faint">{texts.seenOn}</span>
          <select
            aria-label={texts.pictureLooksAreSeenOn}
            value={shot?.id ?? ''}
            onChange={(e) => setChosen(e.currentTarget.value)}
            className="rounded-sm border border-rule bg-well px-2 py-1"
          >
            {reels?.map((reel) => (
              <optgroup key={reel.id} label={reel.name}>
                {reel.shots
                  .filter((s) => s.medium.state === 'ready')
                  .map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.name}
                    </option>
                  ))}
              </optgroup>
            ))}
          </select>
        </label>
      }
    >
      <div className="mb-4 flex flex-wrap items-center gap-2.5" role="search" aria-label={texts.looks}>
        <input
          type="search"
          aria-label={texts.searchLooks}
          placeholder={texts.searchNameGaugeTrait}
          value={filter.words}
          onChange={(e) => narrow({ words: e.currentTarget.value })}
          className={`${SELECT} w-[260px]`}
        />
        <Narrow label={texts.carrier} any={texts.anyCarrier} options={MEDIA} value={filter.medium} onChange={(medium) => narrow({ medium })} />
        <Narrow label={texts.act} any={texts.anyAct} options={ACTS.map((act) => [act, ACT_NAMES[act]] as const)} value={filter.act} onChange={(act) => narrow({ act })} />
        <Narrow label={texts.colour} any={texts.colourOrNot} options={COLOURS} value={filter.colour} onChange={(colour) => narrow({ colour })} />
        <span className="mono text-faint" role="status">
          {looks ? texts.shownOfAll(shown.length, looks.length) : ''}
        </span>
        <span className="flex-1" />
        <FileButton label={texts.lookFiles} accept=".json" onFiles={(files) => void bringLooks(files)}>
          {texts.importLooks}
        </FileButton>
      </div>
      {looks && shown.length === 0 && (
        <p className="mb-4 text-faint">
          {texts.noLookIsLikeThat}{' '}
          <button type="button" className="text-oxide underline" onClick={() => setFilter(ALL_LOOKS)}>
            {texts.showAll}
          </button>
        </p>
      )}
      <ul className="grid grid-cols-3 gap-5 max-[901px]:grid-cols-2">
        {shown.map((stored) => (
          <LookCard key={stored.id} stored={stored} source={source} />
        ))}
      </ul>
      <Plates />
      <References />
    </Page>
  );
}

/** Adds look files to the stockroom; what is none is told by its name and its fault. */
async function bringLooks(files: File[]): Promise<void> {
  for (const file of files) {
    try {
      const look = parseLook(await file.text());
      await api('/looks', { method: 'POST', body: look });
      toast(texts.nameAdded(look.name));
    } catch (error) {
      toast.error(`${file.name}: ${error instanceof LookError ? error.problems.map((p) => `${p.path} ${p.message}`.trim()).join('; ') : (error as Error).message}`);
    }
  }
  await refresh('/looks');
}
