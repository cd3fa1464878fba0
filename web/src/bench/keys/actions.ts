import { useLights } from '../../parts/top-bar';
import type { Source } from '../../render/protocol';
import { pasteCopied } from '../chain/use-actions';
import { copyUses, useClipboard } from '../state/clipboard';
import { nextMode } from '../state/compare';
import { changeLook, redo, undo, useDocument } from '../state/document';
import { isEventChosen, stepChosenEvent } from '../state/events';
import { toggleUse, traitUseAt } from '../state/look-edits';
import { goTo, shuttle, stepFrame, toggleDraft, toggleLoop, togglePlay } from '../state/playback';
import { toggleLine, toggleScopes } from '../state/scope';
import { panBy, setZoom, toggleView, useSession } from '../state/session';
import { wholeStrip, zoomAtPlayhead } from '../state/strip-view';
import { trimHere } from '../state/trim';
import { actionNames } from '../../messages/actions';

/** Something that is done on the bench by a key, and by the palette. */
export interface Action {
  readonly name: string;
  /** As the hotkeys' package has it; what is shown is made of it. Empty where it has none. */
  readonly keys: string;
  /** Whether it does something now; where it does not, the key stays the browser's. */
  readonly when?: () => boolean;
  run(): void;
}

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
  { name: actionNames.playAndPause, keys: 'space', run: togglePlay },
  { name: actionNames.playBackwardsFasterWithEachPress, keys: 'j', run: () => shuttle(source, -1) },
  { name: actionNames.stop, keys: 'k', run: () => shuttle(source, 0) },
  { name: actionNames.playFasterWithEachPress, keys: 'l', run: () => shuttle(source, 1) },
  { name: actionNames.oneFrameBack, keys: 'left', run: () => stepFrame(source, -1) },
  { name: actionNames.oneFrameOn, keys: 'right', run: () => stepFrame(source, 1) },
  { name: actionNames.oneSecondBack, keys: 'shift+left', run: () => stepFrame(source, -Math.round(source.rate)) },
  { name: actionNames.oneSecondOn, keys: 'shift+right', run: () => stepFrame(source, Math.round(source.rate)) },
  { name: actionNames.firstFrame, keys: 'home', run: () => goTo(source, 0) },
  { name: actionNames.lastFrame, keys: 'end', run: () => goTo(source, source.frames - 1) },
  { name: actionNames.goToTimeCode, keys: 't', run: () => document.querySelector<HTMLButtonElement>('[data-clock]')?.click() },
  { name: actionNames.wornOrAsShot, keys: 'w', run: toggleView },
  { name: actionNames.compare, keys: 'c', run: nextMode },
  { name: actionNames.scopes, keys: 'v', run: toggleScopes },
  { name: actionNames.oneLineAsSignal, keys: 'shift+v', run: toggleLine },
  { name: actionNames.fitPicture, keys: 'f', run: () => setZoom('fit') },
  { name: actionNames.fromOriginal, keys: '1', run: () => setZoom('full') },
  { name: '2:1', keys: '2', run: () => setZoom('full', 2) },
  { name: '4:1', keys: '4', run: () => setZoom('full', 4) },
  { name: actionNames.chosenEventOneFrameEarlier, keys: 'alt+left', when: isEventChosen, run: () => stepChosenEvent(source, -1) },
  { name: actionNames.chosenEventOneFrameLater, keys: 'alt+right', when: isEventChosen, run: () => stepChosenEvent(source, 1) },
  { name: actionNames.panLeftWherePictureIsEnlarged, keys: 'alt+left', when: enlarged, run: () => panBy(PAN, 0) },
  { name: actionNames.panRight, keys: 'alt+right', when: enlarged, run: () => panBy(-PAN, 0) },
  { name: actionNames.panUp, keys: 'alt+up', when: enlarged, run: () => panBy(0, PAN) },
  { name: actionNames.panDown, keys: 'alt+down', when: enlarged, run: () => panBy(0, -PAN) },
  { name: actionNames.fullScreen, keys: 'g', run: () => document.querySelector<HTMLButtonElement>('[data-full-screen]')?.click() },
  { name: actionNames.playInDraftQuality, keys: '', run: toggleDraft },
  { name: actionNames.beginShotHere, keys: 'i', run: () => trimHere(source.proxy.frames, 'in') },
  { name: actionNames.endShotHere, keys: 'o', run: () => trimHere(source.proxy.frames, 'out') },
  { name: actionNames.loopTwoSecondsFromHere, keys: 'shift+l', run: () => toggleLoop(source) },
  { name: actionNames.longerStrip, keys: 'equal', run: () => zoomAtPlayhead(source, 1) },
  { name: actionNames.shorterStrip, keys: 'minus', run: () => zoomAtPlayhead(source, -1) },
  { name: actionNames.allOfShotOnStrip, keys: 'shift+f', run: wholeStrip },
  { name: actionNames.sound, keys: 's', run: onSound },
  { name: actionNames.chosenTraitOffAndOn, keys: 'x', run: toggleChosen },
  { name: actionNames.copyChosenTrait, keys: 'mod+c', when: mayCopy, run: copyChosen },
  { name: actionNames.pasteWhatWasCopiedAfterIt, keys: 'mod+v', when: () => useClipboard.getState().uses !== null, run: pasteAfterChosen },
  { name: actionNames.strikePrints, keys: 'mod+p', run: onPrint },
  { name: actionNames.findAnything, keys: 'mod+k', run: onPalette },
];

/** All actions of the bench, in the order in which they are listed. @param source the shot that is seen; null before there is one */
export const benchActions = (source: Source | null, doors: Doors): Action[] => [
  ...(source ? shotActions(source, doors) : []),
  { name: actionNames.undo, keys: 'mod+z', run: undo },
  { name: actionNames.redo, keys: 'mod+shift+z', run: redo },
  { name: actionNames.lightsDownAndUp, keys: 'd', run: () => useLights.getState().flip() },
  { name: actionNames.listOfKeys, keys: 'shift+slash', run: doors.onHelp },
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
