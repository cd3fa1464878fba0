import { useMemo } from 'react';
import { create } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { actOf, EMPTY_LOOK, showsAlike, type Act, type Look } from '@tin-ghost/core';
import type { Reference } from '@tin-ghost/contract';
import type { Source } from '../../render/protocol';
import { traitUseAt, type UseAt } from './look-edits';
import { sourceOf } from '../../render/source';
import { ACT_NAMES } from '../../messages/acts';
import { texts } from '../../messages/state';

export const MODES = ['off', 'wipe', 'side', 'blink', 'shots'] as const;
export type Mode = (typeof MODES)[number];

/** What the picture is held against. */
export type Against =
  | { readonly kind: 'clean' }
  | { readonly kind: 'trait' }
  | { readonly kind: 'act' }
  | { readonly kind: 'opened' }
  | { readonly kind: 'remembered' }
  | { readonly kind: 'look'; readonly look: Look }
  | { readonly kind: 'reference' };

interface CompareState {
  readonly mode: Mode;
  readonly against: Against;
  /** The wiping line: through this place (shares of the picture), at an angle (degrees, 0 upright, clockwise). */
  readonly line: { readonly x: number; readonly y: number; readonly angle: number };
  /** The reference pinned beside the picture. */
  readonly pinned: string | null;
  /** The look as the shot was opened, and as it was remembered. */
  readonly opened: Look | null;
  readonly remembered: Look | null;
}

export const useCompare = create<CompareState>(() => ({
  mode: 'off',
  against: { kind: 'clean' },
  line: { x: 0.5, y: 0.5, angle: 0 },
  pinned: null,
  opened: null,
  remembered: null,
}));

/** What is held against the picture, still or playing. */
export interface Other {
  readonly source: Source;
  readonly look: Look;
}

export const compareAs = (mode: Mode): void => useCompare.setState({ mode });
export const nextMode = (): void => useCompare.setState((s) => ({ mode: MODES[(MODES.indexOf(s.mode) + 1) % MODES.length]! }));
export const moveWipe = (more: Partial<CompareState['line']>): void => useCompare.setState((s) => ({ line: { ...s.line, ...more } }));
export const remember = (look: Look): void => useCompare.setState({ remembered: look });
/** Another shot lies on the bench: it is alone, and this is how its look was. */
export const beginCompare = (opened: Look): void => useCompare.setState({ opened, remembered: null, mode: 'off' });

/** Pins a reference beside the picture, or takes it down. */
export function pinReference(id: string | null): void {
  useCompare.setState((s) => {
    if (id === null || s.pinned === id)
      return { pinned: null, mode: s.against.kind === 'reference' ? 'off' : s.mode, against: s.against.kind === 'reference' ? { kind: 'clean' } : s.against };
    return { pinned: id, against: { kind: 'reference' }, mode: s.mode === 'off' ? 'side' : s.mode };
  });
}

export const compareWith = (against: Against): void => useCompare.setState((s) => ({ against, mode: s.mode === 'off' || s.mode === 'shots' ? 'wipe' : s.mode }));

/** The look it would be without one use, or without an act of one life. */
export function lookWithout(look: Look, at: UseAt, act?: Act): Look {
  return {
    ...look,
    lives: look.lives.map((life, l) =>
      l === at.life ? { ...life, traits: life.traits.map((use, i) => ((act ? actOf(use) === act : i === at.index) ? { ...use, on: false } : use)) } : life,
    ),
  };
}

/** The last look without something, kept while no picture of it would be another: what is off may be set and dragged meanwhile. */
let lastWithout: Look | undefined;
function keptWithout(look: Look, at: UseAt, act?: Act): Look {
  const without = lookWithout(look, at, act);
  if (!lastWithout || !showsAlike(lastWithout, without)) lastWithout = without;
  return lastWithout;
}

/** The look with one use alone. */
export const lookOnly = (look: Look, at: UseAt): Look => ({
  ...look,
  lives: look.lives.map((life, l) => ({ ...life, traits: life.traits.map((use, i) => (l === at.life && i === at.index ? use : { ...use, on: false })) })),
});

/** In words, for the button and for who cannot see it. */
export function againstName(against: Against, look: Look, selected: UseAt | null, reference: Reference | undefined, traitName: (use: UseAt) => string): string {
  switch (against.kind) {
    case 'clean':
      return texts.asShot;
    case 'trait':
      return selected ? texts.withoutName(traitName(selected)) : texts.withoutChosenTrait;
    case 'act': {
      const use = traitUseAt(look, selected);
      return use ? texts.withoutName(ACT_NAMES[actOf(use)]) : texts.withoutChosenAct;
    }
    case 'opened':
      return texts.asItWasOpened;
    case 'remembered':
      return texts.asRemembered;
    case 'look':
      return against.look.name;
    case 'reference':
      return reference ? reference.name : texts.pinnedReference;
  }
}

/** The picture that is held against the one shown; null where there is none. @param changes whether it is to tell what the chosen use changes */
export function useOther(source: Source | null, look: Look, selected: UseAt | null, reference: Reference | undefined, changes: boolean): Other | null {
  const { mode, against, opened, remembered } = useCompare(useShallow(({ mode, against, opened, remembered }) => ({ mode, against, opened, remembered })));
  const medium = reference?.medium;
  const referenceSource = useMemo(() => (medium ? sourceOf(medium) : null), [medium]);
  return useMemo(() => {
    const use = traitUseAt(look, selected);
    if (changes && source && use) return { source, look: keptWithout(look, selected!) };
    if (mode === 'off' || mode === 'shots' || !source) return null;
    switch (against.kind) {
      case 'clean':
        return { source, look: EMPTY_LOOK };
      case 'trait':
        return { source, look: use ? keptWithout(look, selected!) : EMPTY_LOOK };
      case 'act':
        return { source, look: use ? keptWithout(look, selected!, actOf(use)) : EMPTY_LOOK };
      case 'opened':
        return { source, look: opened ?? EMPTY_LOOK };
      case 'remembered':
        return { source, look: remembered ?? opened ?? EMPTY_LOOK };
      case 'look':
        return { source, look: against.look };
      case 'reference':
        return referenceSource ? { source: referenceSource, look: EMPTY_LOOK } : null;
    }
  }, [changes, mode, against, source, look, selected, opened, remembered, referenceSource]);
}

/** Corners of the part of a unit square that lies to the right of a line through (x, y) at an angle, as a clip path. */
export function wipePath({ x, y, angle }: CompareState['line'], shape: number): string {
  const a = (angle * Math.PI) / 180;
  // Along the line, in shares of a picture `shape` times as wide as high.
  const [dx, dy] = [Math.sin(a) / shape, -Math.cos(a)];
  const [nx, ny] = [Math.cos(a) / shape, Math.sin(a)];
  const far = 4 * Math.max(1, 1 / shape);
  const corner = (along: number, across: number): string => `${(100 * (x + along * dx + across * nx)).toFixed(2)}% ${(100 * (y + along * dy + across * ny)).toFixed(2)}%`;
  return `polygon(${[corner(far, 0), corner(far, far), corner(-far, far), corner(-far, 0)].join(', ')})`;
}
