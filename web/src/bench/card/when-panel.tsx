import { Plus, X } from 'lucide-react';
import type { NumberSetting, Span, TraitUse } from '@tin-ghost/core';
import { Button } from '../../parts/button';
import { NumberField } from '../../parts/number-field';
import type { Source } from '../../render/protocol';
import { changeLook, onGesture, useDocument } from '../state/document';
import type { UseAt } from '../state/look-edits';
import { usePlayback } from '../state/playback';
import { addSpell, changeSpell, setSpells } from '../state/spell-edits';
import { texts } from '../../messages/card';

const PARTS: readonly (readonly [keyof Span, string])[] = [
  ['from', texts.from],
  ['to', texts.spellTo],
  ['in', texts.fadeIn],
  ['out', texts.fadeOut],
];

const timeOf = (name: string, most: number): NumberSetting => ({
  kind: 'number',
  unit: 'seconds',
  sign: 's',
  name,
  says: '',
  default: 0,
  min: 0,
  max: most,
  step: 0.01,
  resolve: (v) => v,
});

/** When a trait acts: always, or in spells that it fades into and out of. */
export function WhenPanel({ at, use, source }: { at: UseAt; use: TraitUse; source: Source }) {
  const seconds = source.frames / source.rate;
  const spells = use.when ?? [];
  const add = (): void => changeLook(addSpell(useDocument.getState().look, at, usePlayback.getState().frame / source.rate, seconds, source.rate));
  return (
    <div className="mt-1" role="group" aria-label={texts.whenItActs}>
      <div className="flex h-7 items-center justify-between">
        <span>{texts.when}</span>
        <span className="flex items-center gap-1">
          {spells.length === 0 && <span className="text-faint">{texts.always}</span>}
          <Button kind="bare" onClick={add} title={texts.letItActInSpell}>
            <Plus size={13} /> {texts.spell}
          </Button>
        </span>
      </div>
      {spells.map((spell, i) => (
        <div key={i} className="mb-1 grid grid-cols-2 gap-x-2 border-l-2 border-rule pl-2" data-spell={i}>
          {PARTS.map(([key, name]) => (
            <label key={key} className="flex flex-col text-[13px]">
              <span>{name}</span>
              <NumberField
                setting={timeOf(name, seconds)}
                value={Math.round((spell[key] ?? 0) * 100) / 100}
                label={texts.spellSetting(i + 1, name.toLowerCase())}
                onChange={(v) => changeLook(changeSpell(useDocument.getState().look, at, i, { [key]: v }, seconds, source.rate))}
                onGesture={onGesture}
              />
            </label>
          ))}
          <Button
            kind="bare"
            className="col-span-2 justify-self-end !py-0 text-[13px]"
            aria-label={texts.removeSpell(i + 1)}
            onClick={() =>
              changeLook(
                setSpells(
                  useDocument.getState().look,
                  at,
                  spells.filter((_, other) => other !== i),
                ),
              )
            }
          >
            <X size={12} /> {texts.remove}
          </Button>
        </div>
      ))}
    </div>
  );
}
