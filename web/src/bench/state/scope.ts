import { create } from 'zustand';
import type { ScopeData, Worn } from '../../render/protocol';

interface ScopeState {
  readonly open: boolean;
  /** Whether one line is looked at, and which: its place, in shares of the picture's height. */
  readonly lineOpen: boolean;
  readonly line: number;
  /** Of the picture shown. */
  readonly now: ScopeData | null;
  /** Of the reference it is held against. */
  readonly reference: ScopeData | null;
  /** The picture shown, for reading single values. */
  readonly picture: Worn | null;
  /** What lies under the pointer, 0..255, and where (in shares of the picture). */
  readonly pointed: { readonly rgb: readonly [number, number, number]; readonly x: number; readonly y: number } | null;
}

/** Figures are read, not watched: they change no oftener than this. */
export const READINGS_MS = 250;

export const useScopes = create<ScopeState>(() => ({ open: false, lineOpen: false, line: 0.5, now: null, reference: null, picture: null, pointed: null }));

export const toggleScopes = (): void => useScopes.setState((s) => ({ open: !s.open }));
export const setLine = (line: number): void => useScopes.setState({ line });
export const showReference = (reference: ScopeData | null): void => useScopes.setState({ reference });
export const toggleLine = (): void => useScopes.setState((s) => ({ lineOpen: !s.lineOpen }));

declare global {
  interface Window {
    /** Milliseconds of wearing and of counting since the scopes were opened, for `npm run bench`. */
    tinGhostScopes?: { wearing: number; counting: number };
  }
}

/** Takes in a picture that is now shown. */
export function showScope(worn: Worn): void {
  if (worn.scope) {
    const { wearing, counting } = window.tinGhostScopes ?? { wearing: 0, counting: 0 };
    window.tinGhostScopes = { wearing: wearing + worn.milliseconds, counting: counting + worn.counting };
  }
  useScopes.setState(worn.scope ? { now: worn.scope, picture: worn } : { picture: worn });
}

/** Reads the picture at a place, in shares of its width and height. */
export function pointAt(x: number, y: number): void {
  const { picture } = useScopes.getState();
  if (!picture || x < 0 || y < 0 || x >= 1 || y >= 1) return useScopes.setState({ pointed: null });
  const at = (Math.floor(y * picture.height) * picture.width + Math.floor(x * picture.width)) * 4;
  const [r, g, b] = new Uint8Array(picture.pixels, at, 3);
  useScopes.setState((s) => ({ pointed: { rgb: [r!, g!, b!], x, y }, line: s.lineOpen ? y : s.line }));
}
