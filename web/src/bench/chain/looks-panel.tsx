import { memo, useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Look } from '@tin-ghost/core';
import { api, refresh, useLooks } from '../../api/client';
import { Button } from '../../parts/button';
import { saveFile } from '../../parts/save-file';
import { useNear } from '../../parts/use-near';
import { PictureCanvas } from '../../render/canvas';
import { preview } from '../../render/preview';
import type { Source } from '../../render/protocol';
import { usePicture } from '../../render/use-picture';
import { changeLook, useDocument } from '../state/document';
import { useLookLater } from '../state/look-later';
import { MixBar } from './mix-bar';
import { usePlayback } from '../state/playback';
import { texts } from '../../messages/chain';

const THUMB = 300;
const REST_MS = 700;
/** Points a side of a look's table. */
const CUBE_POINTS = 33;

/** The look of the shot as a whole, and others to put in its place, seen on this picture. */
export const LooksPanel = ({ source }: { source: Source }) => <PanelOf look={useLookLater()} source={source} />;

const PanelOf = memo(function PanelOf({ look, source }: { look: Look; source: Source }) {
  const { data: looks } = useLooks();
  const putAway = (): void => {
    api('/looks', { method: 'POST', body: useDocument.getState().look }).then(
      () => {
        void refresh('/looks');
        toast(texts.nameIsInStockroom(look.name));
      },
      (error: Error) => toast.error(error.message),
    );
  };
  const cubeFile = async (): Promise<void> => {
    try {
      const { text, left } = await preview().ask({ kind: 'cube', look: useDocument.getState().look, points: CUBE_POINTS });
      saveFile(`${look.name}.cube`, text);
      if (left.length) toast(texts.tableHoldsColour(left.join(', ')), { duration: 10_000 });
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  const written = JSON.stringify(look);
  return (
    <section aria-label={texts.look} className="border-t border-rule px-3.5 py-3">
      <h3 className="label">{texts.look}</h3>
      <div className="mt-1.5 flex items-center gap-2">
        <NameField key={look.name} />
        <label className="mono flex items-center gap-1 text-faint">
          {texts.seed}
          <input
            aria-label={texts.seedHeading}
            className="w-[72px] rounded-sm border border-rule bg-well px-1 text-right text-ink"
            type="number"
            min={0}
            max={4294967295}
            value={look.seed}
            onChange={(e) =>
              Number.isInteger(e.currentTarget.valueAsNumber) &&
              e.currentTarget.valueAsNumber >= 0 &&
              e.currentTarget.valueAsNumber <= 4294967295 &&
              changeLook({ ...useDocument.getState().look, seed: e.currentTarget.valueAsNumber })
            }
          />
        </label>
      </div>
      <div className="mt-2 flex flex-wrap gap-2 whitespace-nowrap">
        <Button onClick={putAway}>{texts.putInStockroom}</Button>
        <a
          className="inline-flex items-center rounded-sm border border-rule bg-tin px-3 py-1 hover:bg-well"
          download={`${look.name}.json`}
          href={`data:application/json,${encodeURIComponent(JSON.stringify(look, null, 2))}`}
        >
          {texts.exportLook}
        </a>
        <Button onClick={() => void cubeFile()} title={texts.pointWiseColourOfLook}>
          {texts.exportLut}
        </Button>
      </div>
      <MixBar looks={looks ?? []} />
      <h3 className="label mt-4">{texts.tryAnother}</h3>
      <div className="mt-1.5 grid grid-cols-2 gap-2">
        {looks?.map((stored) => (
          <LookThumb key={stored.id} look={stored.look} source={source} chosen={JSON.stringify(stored.look) === written} />
        ))}
      </div>
    </section>
  );
});

function NameField() {
  const look = useDocument((s) => s.look);
  const [name, setName] = useState(look.name);
  const commit = (): void => {
    const next = name.trim().slice(0, 120);
    if (next && next !== look.name) changeLook({ ...look, name: next });
    else setName(look.name);
  };
  return (
    <input
      aria-label={texts.nameOfLook}
      className="w-0 flex-1 border-b border-rule bg-transparent text-[16px] font-semibold outline-none focus:border-oxide"
      value={name}
      onChange={(e) => setName(e.currentTarget.value)}
      onBlur={commit}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
}

function LookThumb({ look, source, chosen }: { look: Look; source: Source; chosen: boolean }) {
  const place = useRef<HTMLButtonElement>(null);
  const near = useNear(place);
  const frame = useRested(usePlayback((s) => (s.playing ? -1 : s.frame)));
  const height = Math.round((THUMB * source.height) / source.width);
  const { worn } = usePicture(near && frame >= 0 ? source : null, frame, look, { width: THUMB, height });
  return (
    <button
      ref={place}
      type="button"
      aria-pressed={chosen}
      onClick={() => changeLook(look, null)}
      className="rounded-sm border border-rule bg-well p-1 text-left hover:border-oxide aria-pressed:border-oxide"
    >
      <PictureCanvas worn={worn} label={texts.nameOnThisPicture(look.name)} className="block w-full bg-surround" style={{ aspectRatio: `${source.width} / ${source.height}` }} />
      <span className="mt-0.5 block truncate text-[13px]">{look.name}</span>
    </button>
  );
}

/** A number once it has rested: while one moves through a shot, the picture has the workers to itself. */
function useRested(value: number): number {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), REST_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}
