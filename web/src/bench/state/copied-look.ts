import { create } from 'zustand';
import type { Look } from '@tin-ghost/core';

/** The look that was copied, for any shot of any reel; null before. */
export const useCopiedLook = create<{ readonly look: Look | null }>(() => ({ look: null }));

export const copyLook = (look: Look): void => useCopiedLook.setState({ look });
