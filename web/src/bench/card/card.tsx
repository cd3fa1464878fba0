import { Fragment, useMemo, type KeyboardEvent } from 'react';
import { Switch } from 'radix-ui';
import { RotateCcw, Trash2 } from 'lucide-react';
import { actOf, keyed, MID_GREY_SIGNAL, tintOf, tooColourful, traitById, type Colour, type Look, type Setting, type TraitUse, type Value } from '@tin-ghost/core';
import { Button } from '../../parts/button';
import { Tool, Toolbar } from '../../parts/toolbar';
import { decimalsOf } from '../../parts/scale';
import { plainNumber } from '../../parts/plain-number';
import type { ScopeData, Source } from '../../render/protocol';
import { usePicture } from '../../render/use-picture';
import { CdlFiles } from './cdl-files';
import { EventPanel } from './event-panel';
import { removeTold } from '../chain/use-actions';
import { ACT_NAMES } from '../../messages/acts';
import { cannotAct, changeUse, lookBefore, toggleUse, traitUseAt, type UseAt } from '../state/look-edits';
import { changeValue } from '../state/motion-edits';
import { LackingCharacters } from './lacking-characters';
import { MotionPanel } from './motion-panel';
import { MotionSign } from './motion-sign';
import { Presets } from './presets';
import { PlateField } from './plate-field';
import { partsOf } from './setting-name';
import { NumberRow, SettingRow } from './setting-row';
import { changeLook, useDocument } from '../state/document';
import { TintChart } from './tint-chart';
import { WhenPanel } from './when-panel';
import { ZonePanel } from './zone-panel';
import { explain, openMotion, singleOut, useSession } from '../state/session';
import { usePlayback } from '../state/playback';
import { texts } from '../../messages/card';

const STRENGTH = plainNumber(texts.strength, texts.howMuchOfTraitShows, '%', { default: 100 });

/** The card of the chosen trait, made from its declaration. */
export function Card({ source }: { source: Source }) {
  const look = useDocument((s) => s.look);
  const selected = useSession((s) => s.selected);
  const use = traitUseAt(look, selected);
  if (!use || !selected) return null;
  return <UseCard key={`${selected.life}-${selected.index}-${use.trait}`} use={use} at={selected} source={source} />;
}

function UseCard({ use, at, source }: { use: TraitUse; at: UseAt; source: Source }) {
  const look = useDocument((s) => s.look);
  const trait = traitById(use.trait)!;
  const settings = Object.entries(trait.settings as Record<string, Setting>);
  const on = use.on !== false;
  const cannot = cannotAct(look, at);
  const keyedHere = Object.values(use.motions ?? {}).some((motion) => motion.motion === 'keys');
  // The card follows the picture only where a value stands between keys.
  const frame = usePlayback((s) => (keyedHere ? s.frame : 0));
  const moving = useSession((s) => s.moving);
  const singled = useSession((s) => s.singled);
  const explained = useSession((s) => s.explained);
  const set = (key: string, value: Value | undefined): void => changeLook(changeValue(useDocument.getState().look, at, key, value, usePlayback.getState().frame / source.rate));
  const carrier = look.lives[at.life]!.carrier;
  const valueOf = (key: string): Value => use.settings?.[key] ?? (trait.settings as Record<string, Setting>)[key]!.default;
  /** What a row shows: between keys the value at the picture that is seen. */
  const shownOf = (key: string): Value => {
    const motion = use.motions?.[key];
    if (motion?.motion !== 'keys') return valueOf(key);
    const parts = typeof motion.keys[0]!.value === 'number' ? [0] : [0, 1, 2];
    const setting = (trait.settings as Record<string, Setting>)[key]!;
    const digits = setting.kind === 'number' ? decimalsOf(setting.step) : 3;
    const now = parts.map((part) => Number(keyed(motion.keys, frame / source.rate, part, motion.loop).toFixed(digits)));
    return now.length === 1 ? now[0]! : (now as unknown as Colour);
  };
  const setAll = (more: Record<string, Value>): void => {
    const now = useDocument.getState().look;
    changeLook(changeUse(now, at, { settings: { ...traitUseAt(now, at)?.settings, ...more } }));
  };
  const before = useBefore(
    source,
    at,
    settings.some(([, s]) => s.kind === 'curve'),
  );
  const strength = Math.round((use.strength ?? 1) * 1000) / 10;
  // Back to where it was opened. In a field, Escape is for what is typed there.
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key === 'Escape' && !event.defaultPrevented && !(event.target as Element).closest('input, textarea, select'))
      document.querySelector<HTMLElement>(`[data-use="${at.life} ${at.index}"]`)?.focus();
  };
  return (
    <section data-card aria-label={texts.cardOfName(trait.name)} className="px-3.5 py-3" onKeyDown={onKeyDown}>
      <div className="flex items-center gap-2">
        <h2 className="flex-1 text-[20px] font-semibold">{use.name ?? trait.name}</h2>
        <Switch.Root
          checked={on}
          disabled={!on && cannot !== undefined}
          onCheckedChange={() => changeLook(toggleUse(useDocument.getState().look, at))}
          aria-label={texts.nameOn(trait.name)}
          className="relative h-[17px] w-[32px] rounded-full border border-ink bg-well data-[state=checked]:border-oxide data-[state=checked]:bg-oxide"
        >
          <Switch.Thumb className="block h-[11px] w-[11px] translate-x-[2px] rounded-full bg-ink data-[state=checked]:translate-x-[17px] data-[state=checked]:bg-oxide-ink" />
        </Switch.Root>
      </div>
      <p className="mt-1 mb-2 text-faint">
        {trait.says}{' '}
        <Button kind="bare" className="!p-0 underline aria-pressed:text-oxide" aria-pressed={explained} onClick={explain} title={texts.sayWhatEachSettingDoes}>
          {texts.explain}
        </Button>
      </p>
      <Toolbar className="mb-2 flex flex-wrap gap-2" label={texts.howItIsSeen}>
        <Tool>
          <Button aria-pressed={singled === 'only'} onClick={() => singleOut('only')} title={texts.pictureWithThisTraitAlone}>
            {texts.onlyThisTrait}
          </Button>
        </Tool>
        <Tool>
          <Button aria-pressed={singled === 'changes'} onClick={() => singleOut('changes')} title={texts.differenceThatItMakesStrengthened}>
            {texts.whatItChanges}
          </Button>
        </Tool>
      </Toolbar>
      {actOf(use) !== trait.act && !trait.family && <p className="mb-2 text-[13px] text-faint">{texts.itWasMoved(ACT_NAMES[actOf(use)], ACT_NAMES[trait.act])}</p>}
      {cannot && (
        <p role="status" className="mb-2 text-oxide">
          {texts.settingsAreKept(cannot)}
        </p>
      )}
      <NumberRow setting={STRENGTH} value={strength} onChange={(v) => changeLook(changeUse(useDocument.getState().look, at, { strength: (v ?? 100) / 100 }))} />
      {explained && <Says setting={STRENGTH} />}
      <WhenPanel at={at} use={use} source={source} />
      <ZonePanel at={at} use={use} source={source} />
      <div className="my-2 border-t border-rule" />
      <Presets trait={trait} use={use} onTake={(settings) => changeLook(changeUse(useDocument.getState().look, at, { settings }))} />
      {trait.events && <EventPanel at={at} use={use} source={source} />}
      {settings.map(([key, s], i) => {
        const { group } = partsOf(s.name);
        const begins = group !== null && (i === 0 || partsOf(settings[i - 1]![1].name).group !== group);
        const head = begins && <h3 className="label mt-2 !text-[11px]">{group}</h3>;
        const moves = s.kind === 'number' || s.kind === 'colour';
        const sign = moves && <MotionSign name={s.name} motion={use.motions?.[key]} open={moving === key} onToggle={() => openMotion(moving === key ? null : key)} />;
        const row =
          s.kind === 'plate' ? (
            <PlateField label={s.name} value={valueOf(key) as string} onChange={(id, mode) => setAll(id ? { [key]: id, mode } : { [key]: '' })} />
          ) : (
            <>
              <SettingRow setting={s} value={shownOf(key)} carrier={trait.family === 'colour' ? carrier : undefined} before={before} sign={sign} onChange={(v) => set(key, v)} />
              {explained && <Says setting={s} />}
              {moves && moving === key && (
                <MotionPanel at={at} settingKey={key} setting={s} value={valueOf(key)} shown={shownOf(key)} motion={use.motions?.[key]} source={source} />
              )}
            </>
          );
        if (s.kind !== 'number' || !s.hueIn)
          return (
            <Fragment key={key}>
              {head}
              {row}
            </Fragment>
          );
        const { hueIn } = s;
        return (
          <Fragment key={key}>
            {head}
            <TintChart
              name={s.name}
              hue={valueOf(hueIn) as number}
              share={(valueOf(key) as number) / s.max}
              most={s.max / 100}
              onChange={(hue, share) => setAll({ [hueIn]: hue, [key]: Math.round(share * s.max * 100) / 100 })}
            />
            {row}
            <TintWarning hue={valueOf(hueIn) as number} size={(valueOf(key) as number) / 100} carrier={carrier} />
          </Fragment>
        );
      })}
      <LackingCharacters settings={settings} valueOf={valueOf} />
      {trait.tells && <p className="mt-1 text-[13px] text-faint">{trait.tells(Object.fromEntries(settings.map(([key]) => [key, valueOf(key)])), source.width / source.height)}</p>}
      {trait.files === 'cdl' && <CdlFiles use={use} onTake={(taken, name) => changeLook(changeUse(useDocument.getState().look, at, { settings: taken, name }))} />}
      <div className="mt-3 flex flex-wrap gap-2 border-t border-rule pt-3">
        <Button onClick={() => changeLook(changeUse(look, at, { seed: ((use.seed ?? 0) + 1) % 1000 }))} title={texts.sameWearFallenDifferently}>
          {texts.anotherSeed}
        </Button>
        <Button onClick={() => changeLook(changeUse(look, at, { settings: {}, strength: 1 }))} title={texts.allSettingsBackToTheir}>
          <RotateCcw size={14} /> {texts.defaults}
        </Button>
        <Button onClick={() => removeTold(at)} aria-label={texts.removeName(trait.name)} title={texts.removeDelete}>
          <Trash2 size={14} />
        </Button>
      </div>
    </section>
  );
}

/** What a setting does. */
const Says = ({ setting: { says } }: { setting: Setting }) => <p className="mb-1.5 text-[13px] leading-[1.25] text-faint">{says}</p>;

/** Warns where a tint makes of mid-grey a colour that the carrier could not hold. */
function TintWarning({ hue, size, carrier }: { hue: number; size: number; carrier: string }) {
  const colour = tintOf(Math, (hue * Math.PI) / 180, size).map((v) => Math.max(0, Math.min(1, MID_GREY_SIGNAL + v))) as unknown as Colour;
  const warning = tooColourful(colour, carrier);
  if (!warning) return null;
  return (
    <p role="status" className="mb-1 text-[13px] text-oxide">
      {texts.onMidGrey(warning)}
    </p>
  );
}

/** Width at which the picture before a trait is measured. */
const MEASURED = 320;

/** The picture as it comes to a trait, measured, while it stands still. */
function useBefore(source: Source, at: UseAt, wanted: boolean): ScopeData | undefined {
  const look = useDocument((s) => s.look);
  const frame = usePlayback((s) => (s.playing ? -1 : s.frame));
  // By what it says: a setting of the trait itself changes nothing of what comes to it.
  const text = JSON.stringify(lookBefore(look, at));
  const before = useMemo(() => JSON.parse(text) as Look, [text]);
  const size = useMemo(() => ({ width: MEASURED, height: Math.max(2, Math.round((source.height * MEASURED) / source.width)) }), [source]);
  const { worn } = usePicture(wanted && frame >= 0 ? source : null, frame, before, size, { scope: true });
  return worn?.scope;
}
