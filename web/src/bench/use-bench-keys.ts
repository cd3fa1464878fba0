import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useLights } from '../parts/top-bar';
import type { Source } from '../render/protocol';
import { changeUse, removeUse, traitUseAt } from './look-edits';
import { MODES, useCompare } from './compare';
import { deleteEvent } from './lanes';
import { toggleScopes } from './scope-store';
import { changeLook, redo, undo, useBench } from './store';
import { stepFrame, toggleLoop, togglePlay } from './transport';

/** The keys of the bench. */
export function useBenchKeys(source: Source | null, actions: { onSound: () => void; onHelp: () => void }): void {
  // A slider keeps the focus after a drag; it needs the arrows, Home and End itself, every other key is the bench's.
  const anywhere = { enableOnFormTags: ['slider' as const], preventDefault: true };
  const steps = { enabled: source !== null, preventDefault: true };
  const on = { ...anywhere, enabled: source !== null };
  useHotkeys('space', togglePlay, on);
  useHotkeys('left', () => stepFrame(source!, -1), steps);
  useHotkeys('right', () => stepFrame(source!, 1), steps);
  useHotkeys('shift+left', () => stepFrame(source!, -Math.round(source!.rate)), steps);
  useHotkeys('shift+right', () => stepFrame(source!, Math.round(source!.rate)), steps);
  useHotkeys('home', () => stepFrame(source!, -source!.frames), steps);
  useHotkeys('end', () => stepFrame(source!, source!.frames), steps);
  useHotkeys('w', () => useBench.setState((s) => ({ view: s.view === 'worn' ? 'asShot' : 'worn' })), on);
  useHotkeys('f', () => useBench.setState({ zoom: 'fit' }), on);
  useHotkeys('1', () => useBench.setState({ zoom: 'full', playing: false }), on);
  useHotkeys('v', toggleScopes, on);
  useHotkeys('c', () => useCompare.setState((s) => ({ mode: MODES[(MODES.indexOf(s.mode) + 1) % MODES.length]! })), on);
  useHotkeys('g', () => document.querySelector<HTMLButtonElement>('[data-full-screen]')?.click(), on);
  useHotkeys('l', () => toggleLoop(source!), on);
  useHotkeys('s', actions.onSound, on);
  useHotkeys('d', () => useLights.getState().flip(), anywhere);
  useHotkeys('shift+/', actions.onHelp, { ...anywhere, useKey: false });
  useHotkeys('?', actions.onHelp, { ...anywhere, useKey: true });
  useHotkeys('mod+z', undo, anywhere);
  useHotkeys('mod+shift+z, mod+y', redo, anywhere);
  useHotkeys(
    'x',
    () => {
      const { look, selected } = useBench.getState();
      const use = traitUseAt(look, selected);
      if (use) changeLook(changeUse(look, selected!, { on: use.on === false }));
    },
    anywhere,
  );
  useHotkeys(
    'delete, backspace',
    () => {
      const { look, selected } = useBench.getState();
      if (deleteEvent()) return;
      if (traitUseAt(look, selected)) changeLook(removeUse(look, selected!), null);
    },
    anywhere,
  );

  useEffect(() => {
    const held = (event: KeyboardEvent): void => {
      if (event.key.toLowerCase() !== 'b' || event.repeat || event.ctrlKey || event.metaKey || (event.target as HTMLElement).matches?.('input, textarea, select')) return;
      useBench.setState({ held: event.type === 'keydown' });
    };
    const release = (): void => useBench.setState({ held: false });
    window.addEventListener('keydown', held);
    window.addEventListener('keyup', held);
    window.addEventListener('blur', release);
    return () => {
      window.removeEventListener('keydown', held);
      window.removeEventListener('keyup', held);
      window.removeEventListener('blur', release);
    };
  }, []);
}
