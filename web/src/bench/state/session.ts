import { create } from 'zustand';
import type { Act, Look } from '@tin-ghost/core';
import { sameUse, type UseAt } from './look-edits';
import { stopPlaying } from './playback';

/** A point of the chain at which the picture is looked at. */
export interface ChainPoint {
  readonly life: number;
  readonly act: Act;
  readonly place: number;
}

export const MAGNIFIED = [1, 2, 4] as const;
export type Magnified = (typeof MAGNIFIED)[number];

interface Session {
  /** The use whose card is open; the shot's own card where `shotOpen` is set. */
  readonly selected: UseAt | null;
  /** The event of that use which is chosen. */
  readonly event: string | null;
  /** The setting of that use whose motion is open, and the chosen one of its keys. */
  readonly moving: string | null;
  readonly key: number | null;
  readonly shotOpen: boolean;
  /** The picture is dragged under its mask. */
  readonly framing: boolean;
  /** The next drag on the picture draws the zone of the use whose card is open. */
  readonly drawing: boolean;
  readonly view: 'worn' | 'asShot';
  /** A key is held to see the picture before. */
  readonly held: boolean;
  /** Fitted, or from the original at 1:1 and larger. */
  readonly zoom: 'fit' | 'full';
  /** Screen pixels of a pixel of the original, across, where it is not fitted. */
  readonly magnified: Magnified;
  /** Where the middle of the picture stands then, in pixels from the stage's. */
  readonly pan: { readonly x: number; readonly y: number };
  readonly point: ChainPoint | null;
  /** The act to which something is being added. */
  readonly adding: Omit<ChainPoint, 'place'> | null;
  /** A look that is only tried: it is seen and nothing of it is kept. */
  readonly tried: Look | null;
  /** The use whose card is open is seen by itself, or as what it changes of the picture. */
  readonly singled: 'only' | 'changes' | null;
  /** Cards say what each of their settings does. */
  readonly explained: boolean;
}

/** What is open and how it is looked at: nothing of it is kept with the shot. */
export const useSession = create<Session>(() => ({
  selected: null,
  event: null,
  moving: null,
  key: null,
  shotOpen: false,
  framing: false,
  drawing: false,
  view: 'worn',
  held: false,
  zoom: 'fit',
  magnified: 1,
  pan: { x: 0, y: 0 },
  point: null,
  adding: null,
  tried: null,
  singled: null,
  explained: false,
}));

const { setState } = useSession;

/** No motion is open, and nothing is being drawn. */
const STILL = { moving: null, key: null, drawing: false } as const;

/** Opens a use's card, or none. A use that was open keeps its event. */
export const select = (at: UseAt | null): void =>
  setState((s) => (sameUse(s.selected, at) ? { shotOpen: false, framing: false } : { selected: at, event: null, ...STILL, shotOpen: false, framing: false }));

/** As `select`, and none of its events is chosen. */
export const selectAnew = (selected: UseAt | null): void => setState({ selected, event: null, ...STILL, shotOpen: false });

/** Opens a use's card at one of its events, or at none. */
export const selectEvent = (at: UseAt, event: string | null): void =>
  setState((s) => ({ ...(!sameUse(s.selected, at) && { selected: at, ...STILL }), event, shotOpen: false, framing: false }));

/** The chosen use is not there any more; the shot's own card stays open where it was. */
export const deselect = (): void => setState({ selected: null, event: null, ...STILL });

/** Opens the motion of a setting of the chosen use, or closes it. */
export const openMotion = (moving: string | null): void => setState({ moving, key: null });

/** Chooses one of the keys of the motion that is open. */
export const chooseKey = (key: number | null): void => setState({ key });

/** Opens the shot's own card. */
export const selectShot = (): void => setState({ selected: null, ...STILL, shotOpen: true });

/** Another shot lies on the bench: nothing of the last one is open. */
export const closeCards = (): void => setState({ selected: null, event: null, ...STILL, shotOpen: false, framing: false, point: null, adding: null, tried: null, singled: null });

export const setView = (view: Session['view']): void => setState({ view });
export const toggleView = (): void => setState((s) => ({ view: s.view === 'worn' ? 'asShot' : 'worn' }));
export const holdBefore = (held: boolean): void => setState({ held });
/**
 * @param about what stays in its place, in pixels from the stage's middle
 * @param fitted how large the fitted picture is, of its size at 1:1; without it the picture goes back to where it was moved last
 */
export function setZoom(zoom: Session['zoom'], magnified: Magnified = 1, about = { x: 0, y: 0 }, fitted?: number): void {
  setState((s) => {
    const was = s.zoom === 'full' ? s.magnified : fitted;
    if (zoom === 'fit' || was === undefined) return { zoom, magnified };
    const [by, from] = [magnified / was, s.zoom === 'full' ? s.pan : { x: 0, y: 0 }];
    return { zoom, magnified, pan: { x: about.x - (about.x - from.x) * by, y: about.y - (about.y - from.y) * by } };
  });
}

/** One size larger or smaller, from fitted to the largest. @param about, fitted as in `setZoom` */
export function zoomBy(steps: 1 | -1, about: { x: number; y: number }, fitted?: number): void {
  const { zoom, magnified } = useSession.getState();
  const next = (zoom === 'fit' ? -1 : MAGNIFIED.indexOf(magnified)) + steps;
  if (next < 0) setZoom('fit');
  else if (next < MAGNIFIED.length) setZoom('full', MAGNIFIED[next], about, fitted);
}

export const panTo = (pan: Session['pan']): void => setState({ pan });
export const panBy = (x: number, y: number): void => setState((s) => (s.zoom === 'full' ? { pan: { x: s.pan.x + x, y: s.pan.y + y } } : s));
/** Offers what can be added to an act, or stops that; what was tried is gone. */
export const offerTo = (adding: Session['adding']): void => setState({ adding, tried: null });
/** Sees the use whose card is open in a way of its own, or as it is again. */
export const explain = (): void => setState((s) => ({ explained: !s.explained }));
export const singleOut = (way: NonNullable<Session['singled']>): void => setState((s) => ({ singled: s.singled === way ? null : way }));
export const tryLook = (tried: Look | null): void => setState({ tried });
export const lookAt = (point: ChainPoint | null): void => setState({ point });

/** The next drag on the picture draws the chosen use's zone, or does not any more. For it the picture stands still, as the whole look shows it. */
export function drawZone(drawing: boolean): void {
  setState(drawing ? { drawing, view: 'worn', point: null } : { drawing });
  if (drawing) stopPlaying();
}

/** The picture is framed as a whole, and while it stands still. */
export function toggleFraming(): void {
  setState((s) => ({ framing: !s.framing, drawing: false, zoom: 'fit' }));
  stopPlaying();
}
