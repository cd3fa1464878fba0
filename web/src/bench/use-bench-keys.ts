import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useLights } from '../parts/top-bar';
import type { Source } from '../render/protocol';
import { changeUse, removeUse, traitUseAt } from './look-edits';
import { changeLook, redo, undo, useBench } from './store';
import { stepFrame, toggleLoop, togglePlay } from './transport';

/** The keys of the bench. */
export function useBenchKeys(source: Source | null, actions: { onSound: () => void; onHelp: () => void }): void {
  const on = { enabled: source !== null, preventDefault: true };
  useHotkeys('space', togglePlay, on);
  useHotkeys('left', () => stepFrame(source!, -1), on);
  useHotkeys('right', () => stepFrame(source!, 1), on);
  useHotkeys('shift+left', () => stepFrame(source!, -Math.round(source!.rate)), on);
  useHotkeys('shift+right', () => stepFrame(source!, Math.round(source!.rate)), on);
  useHotkeys('home', () => stepFrame(source!, -source!.frames), on);
  useHotkeys('end', () => stepFrame(source!, source!.frames), on);
  useHotkeys('w', () => useBench.setState((s) => ({ view: s.view === 'worn' ? 'asShot' : 'worn' })), on);
  useHotkeys('f', () => useBench.setState({ zoom: 'fit' }), on);
  useHotkeys('1', () => useBench.setState({ zoom: 'full', playing: false }), on);
  useHotkeys('l', () => toggleLoop(source!), on);
  useHotkeys('s', actions.onSound, on);
  useHotkeys('d', () => useLights.getState().flip());
  useHotkeys('shift+/', actions.onHelp, { useKey: false });
  useHotkeys('?', actions.onHelp, { useKey: true });
  useHotkeys('mod+z', undo, { preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', redo, { preventDefault: true });
  useHotkeys('x', () => {
    const { look, selected } = useBench.getState();
    const use = traitUseAt(look, selected);
    if (use) changeLook(changeUse(look, selected!, { on: use.on === false }));
  });
  useHotkeys('delete, backspace', () => {
    const { look, selected } = useBench.getState();
    if (traitUseAt(look, selected)) changeLook(removeUse(look, selected!), null);
  });

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
