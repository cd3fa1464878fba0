import type { AnyTrait, Setting, TraitUse, Value } from '@tin-ghost/core';
import { texts } from '../../messages/card';

interface Props {
  trait: AnyTrait;
  use: TraitUse;
  onTake: (settings: Record<string, Value>) => void;
}

/** The presets of a trait; a text of the user's stays where they bring none. */
export function Presets({ trait, use, onTake }: Props) {
  const { presets } = trait;
  if (!presets) return null;
  const take = (name: string): void => {
    const chosen = (presets as Record<string, Record<string, Value>>)[name];
    if (!chosen) return;
    const written = Object.entries(trait.settings as Record<string, Setting>).flatMap(([key, s]) =>
      s.kind === 'text' && !s.pattern && use.settings?.[key] !== undefined ? [[key, use.settings[key]] as const] : [],
    );
    onTake({ ...Object.fromEntries(written), ...chosen });
  };
  return (
    <label className="flex h-8 items-center gap-1.5" title={texts.takesPlaceOfAllSettings}>
      <span className="w-[86px] shrink-0">{texts.preset}</span>
      <select aria-label={texts.preset} value="" onChange={(e) => take(e.currentTarget.value)} className="min-w-0 flex-1 rounded-sm border border-rule bg-well px-1 py-0.5">
        <option value="">{texts.choose}</option>
        {Object.keys(presets).map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </label>
  );
}
