import { create } from 'zustand';
import type { Look, Motion, TraitUse } from '@tin-ghost/core';

interface Clipboard {
  readonly look: Look | null;
  /** A trait, or those of an act, in their order. */
  readonly uses: readonly TraitUse[] | null;
  readonly motion: { readonly kind: 'number' | 'colour'; readonly motion: Motion } | null;
}

/** What was copied last of each kind, for any shot of any reel. */
export const useClipboard = create<Clipboard>(() => ({ look: null, uses: null, motion: null }));

export const copyLook = (look: Look): void => useClipboard.setState({ look });
export const copyUses = (uses: readonly TraitUse[]): void => useClipboard.setState({ uses });
export const copyMotion = (kind: 'number' | 'colour', motion: Motion): void => useClipboard.setState({ motion: { kind, motion } });
