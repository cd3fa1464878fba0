import { CircleDashed, Diamond } from 'lucide-react';
import clsx from 'clsx';
import { BLEND_NAMES, traitById, zoneAt, type TraitUse, type Zone } from '@tin-ghost/core';
import { Button } from '../../parts/button';
import { plainNumber } from '../../parts/plain-number';
import type { Source } from '../../render/protocol';
import { changeLook, useDocument } from '../state/document';
import { changeUse, type UseAt } from '../state/look-edits';
import { usePlayback } from '../state/playback';
import { drawZone, useSession } from '../state/session';
import { hasZoneKey, setSoftness, setTones, setZoneKind, toggleZoneKey, tonesOf, type Tones } from '../state/zone-edits';
import { ChoiceField, NumberRow } from './setting-row';
import { texts } from '../../messages/card';

const WHERE: Readonly<Record<Zone['kind'], string>> = { all: texts.everywhere, edges: texts.towardEdges, ellipse: texts.inEllipse, quiet: texts.allButEllipse };
const TONE_NAMES: Readonly<Record<Tones, string>> = {
  all: texts.allTones,
  shadows: texts.shadows,
  midtones: texts.midtones,
  highlights: texts.highlights,
  own: texts.asFileHasThem,
};
const { own: _own, ...NAMED } = TONE_NAMES;
/** All that can be chosen; those of a file cannot be made here. */
const NAMED_TONES: Readonly<Record<Tones, string>> = NAMED as Record<Tones, string>;
const SOFT = plainNumber(texts.softBorder, texts.shareOfRadiusOverWhichBorderFades, '%');

/** Where a trait acts, in which tones, and how it is laid over what is there. */
export function ZonePanel({ at, use, source }: { at: UseAt; use: TraitUse; source: Source }) {
  const seconds = usePlayback((s) => s.frame / source.rate);
  const now = () => useDocument.getState().look;
  const drawing = useSession((s) => s.drawing);
  const { zone } = use;
  const kind = zone?.kind ?? 'all';
  const tones = tonesOf(zone);
  const keyed = hasZoneKey(zone, seconds);
  const lies = zone && zoneAt(zone, seconds);
  const count = zone?.keys?.length ?? 0;
  return (
    <div className="mt-1" role="group" aria-label={texts.whereItActs}>
      <div className="flex items-center gap-1">
        <div className="min-w-0 flex-1">
          <ChoiceField label={texts.where} value={kind} options={WHERE} onChange={(v) => changeLook(setZoneKind(now(), at, v))} />
        </div>
        <Button
          kind="bare"
          className="aria-pressed:text-oxide"
          aria-pressed={drawing}
          title={kind === 'all' ? texts.drawWhatStaysClean : texts.drawZoneOnPicture}
          onClick={() => drawZone(!drawing)}
        >
          <CircleDashed size={13} /> {texts.draw}
        </Button>
      </div>
      {drawing && (
        <p role="status" className="text-[13px] text-faint">
          {texts.dragOnPictureToDraw}
        </p>
      )}
      {lies && (
        <div className="mb-1 border-l-2 border-rule pl-2">
          <NumberRow setting={SOFT} value={Math.round(lies.soft * 100)} onChange={(v) => changeLook(setSoftness(now(), at, v === undefined ? undefined : v / 100))} />
          <div className="flex items-center justify-between text-[13px]">
            <span className="flex-1 text-faint">{texts.restsOrMoves(count)}</span>
            <Button
              kind="bare"
              aria-pressed={keyed}
              aria-label={keyed ? texts.removeZonesKeyHere : texts.keyZoneHere}
              title={keyed ? texts.removeItsKeyAtThisPicture : texts.setKeyAtThisPicture}
              onClick={() => changeLook(toggleZoneKey(now(), at, seconds))}
            >
              <Diamond size={13} className={clsx(keyed && 'fill-oxide text-oxide')} /> {texts.key}
            </Button>
          </div>
        </div>
      )}
      <ChoiceField label={texts.tones} value={tones} options={tones === 'own' ? TONE_NAMES : NAMED_TONES} onChange={(v) => changeLook(setTones(now(), at, v))} />
      {/* What is laid over the picture has a blend of its own. */}
      {traitById(use.trait)?.family !== 'laid' && (
        <ChoiceField
          label={texts.blend}
          value={use.blend ?? 'normal'}
          options={BLEND_NAMES}
          onChange={(blend) => changeLook(changeUse(now(), at, { blend: blend === 'normal' ? undefined : blend }))}
        />
      )}
    </div>
  );
}
