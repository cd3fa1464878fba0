import { useLights } from '../../parts/top-bar';
import type { Source } from '../../render/protocol';
import { pasteCopied } from '../chain/use-actions';
import { copyUses, useClipboard } from '../state/clipboard';
import { nextMode } from '../state/compare';
import { changeLook, redo, undo, useDocument } from '../state/document';
import { toggleUse, traitUseAt } from '../state/look-edits';
import { goTo, shuttle, stepFrame, toggleLoop, togglePlay } from '../state/playback';
import { toggleLine, toggleScopes } from '../state/scope';
import { panBy, setZoom, toggleView, useSession } from '../state/session';
import { wholeStrip, zoomAtPlayhead } from '../state/strip-view';
import { trimHere } from '../state/trim';

/** Something that is done on the bench by a key, and by the palette. */
export interface Action {
  readonly name: string;
  /** As the hotkeys' package has it; what is shown is made of it. Empty where it has none. */
  readonly keys: string;
  /** Whether it does something now; where it does not, the key stays the browser's. */
  readonly when?: () => boolean;
  run(): void;
}

/** Names that buttons ask for, too, to tell the keys. */
export const [COMPARE, IN, OUT] = ['Compare: alone, wipe, side by side, blink, on all shots', 'In: begin the shot with this frame', 'Out: end the shot with this frame'] as const;

/** Pixels by which a key pans. */
const PAN = 80;

interface Doors {
  readonly onSound: () => void;
  readonly onHelp: () => void;
  readonly onPrint: () => void;
  readonly onPalette: () => void;
}

const enlarged = (): boolean => useSession.getState().zoom === 'full';

/** What is done with the shot that is seen. */
const shotActions = (source: Source, { onSound, onPrint, onPalette }: Doors): Action[] => [
  { name: 'Play and pause', keys: 'space', run: togglePlay },
  { name: 'Play backwards, faster with each press', keys: 'j', run: () => shuttle(source, -1) },
  { name: 'Stop', keys: 'k', run: () => shuttle(source, 0) },
  { name: 'Play, faster with each press', keys: 'l', run: () => shuttle(source, 1) },
  { name: 'One frame back', keys: 'left', run: () => stepFrame(source, -1) },
  { name: 'One frame on', keys: 'right', run: () => stepFrame(source, 1) },
  { name: 'One second back', keys: 'shift+left', run: () => stepFrame(source, -Math.round(source.rate)) },
  { name: 'One second on', keys: 'shift+right', run: () => stepFrame(source, Math.round(source.rate)) },
  { name: 'First frame', keys: 'home', run: () => goTo(source, 0) },
  { name: 'Last frame', keys: 'end', run: () => goTo(source, source.frames - 1) },
  { name: 'Go to a time code', keys: 't', run: () => document.querySelector<HTMLButtonElement>('[data-clock]')?.click() },
  { name: 'Worn or as shot', keys: 'w', run: toggleView },
  { name: COMPARE, keys: 'c', run: nextMode },
  { name: 'Scopes', keys: 'v', run: toggleScopes },
  { name: 'One line as a signal', keys: 'shift+v', run: toggleLine },
  { name: 'Fit the picture', keys: 'f', run: () => setZoom('fit') },
  { name: '1:1, from the original', keys: '1', run: () => setZoom('full') },
  { name: '2:1', keys: '2', run: () => setZoom('full', 2) },
  { name: '4:1', keys: '4', run: () => setZoom('full', 4) },
  { name: 'Pan left, where the picture is enlarged', keys: 'alt+left', when: enlarged, run: () => panBy(PAN, 0) },
  { name: 'Pan right', keys: 'alt+right', when: enlarged, run: () => panBy(-PAN, 0) },
  { name: 'Pan up', keys: 'alt+up', when: enlarged, run: () => panBy(0, PAN) },
  { name: 'Pan down', keys: 'alt+down', when: enlarged, run: () => panBy(0, -PAN) },
  { name: 'Full screen', keys: 'g', run: () => document.querySelector<HTMLButtonElement>('[data-full-screen]')?.click() },
  { name: IN, keys: 'i', run: () => trimHere(source.proxy.frames, 'in') },
  { name: OUT, keys: 'o', run: () => trimHere(source.proxy.frames, 'out') },
  { name: 'Loop two seconds from here', keys: 'shift+l', run: () => toggleLoop(source) },
  { name: 'Longer strip', keys: 'equal', run: () => zoomAtPlayhead(source, 1) },
  { name: 'Shorter strip', keys: 'minus', run: () => zoomAtPlayhead(source, -1) },
  { name: 'All of the shot on the strip', keys: 'shift+f', run: wholeStrip },
  { name: 'Sound', keys: 's', run: onSound },
  { name: 'The chosen trait off and on', keys: 'x', run: toggleChosen },
  { name: 'Copy the chosen trait', keys: 'mod+c', when: mayCopy, run: copyChosen },
  { name: 'Paste what was copied after it', keys: 'mod+v', when: () => useClipboard.getState().uses !== null, run: pasteAfterChosen },
  { name: 'Strike prints', keys: 'mod+p', run: onPrint },
  { name: 'Find anything', keys: 'mod+k', run: onPalette },
];

/** All actions of the bench, in the order in which they are listed. @param source the shot that is seen; null before there is one */
export const benchActions = (source: Source | null, doors: Doors): Action[] => [
  ...(source ? shotActions(source, doors) : []),
  { name: 'Undo', keys: 'mod+z', run: undo },
  { name: 'Redo', keys: 'mod+shift+z', run: redo },
  { name: 'Lights down and up', keys: 'd', run: () => useLights.getState().flip() },
  { name: 'The list of keys', keys: 'shift+slash', run: doors.onHelp },
];

function toggleChosen(): void {
  const { look } = useDocument.getState();
  const { selected } = useSession.getState();
  if (traitUseAt(look, selected)) changeLook(toggleUse(look, selected!));
}

/** Words that are marked are what a person means to copy. */
const mayCopy = (): boolean => useSession.getState().selected !== null && (getSelection()?.isCollapsed ?? true);

function copyChosen(): void {
  const use = traitUseAt(useDocument.getState().look, useSession.getState().selected);
  if (use) copyUses([use]);
}

function pasteAfterChosen(): void {
  const { lives } = useDocument.getState().look;
  const { selected } = useSession.getState();
  if (lives.length > 0) pasteCopied(selected?.life ?? lives.length - 1, selected);
}

const SHOWN: Record<string, string> = {
  space: 'Space',
  left: '←',
  right: '→',
  up: '↑',
  down: '↓',
  alt: 'Alt',
  home: 'Home',
  end: 'End',
  mod: 'Ctrl',
  shift: 'Shift',
  equal: '+',
  minus: '−',
};

/** Keys as they are read: `shift+left` as `Shift ←`. */
export const shownKeys = (keys: string): string =>
  keys === 'shift+slash'
    ? '?'
    : keys
        .split('+')
        .filter(Boolean)
        .map((key) => SHOWN[key] ?? key.toUpperCase())
        .join(' ');
