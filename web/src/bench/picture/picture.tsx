import { useEffect, useMemo, useRef, useState } from 'react';
import clsx from 'clsx';
import { useShallow } from 'zustand/react/shallow';
import { EMPTY_LOOK, preparedSize, traitById, type Look } from '@tin-ghost/core';
import type { Medium, Reference, Shot } from '@tin-ghost/contract';
import { PictureCanvas, paint } from '../../render/canvas';
import type { Source } from '../../render/protocol';
import { usePicture } from '../../render/use-picture';
import { lookOnly, useCompare, useOther, wipePath } from '../state/compare';
import { AcrossShots } from './across-shots';
import { FramingOverlay } from './framing-overlay';
import { LaidOverlay } from './laid-overlay';
import { lookUpTo, traitUseAt } from '../state/look-edits';
import { LineMark } from './line-mark';
import { Player, type Asked } from './player';
import { forgetPlaying, showFrame, tellReady, tellReport, usePlayback } from '../state/playback';
import { pointAt, showScope, useScopes } from '../state/scope';
import { useDocument } from '../state/document';
import { footageSeconds, useScrubbed } from './use-scrubbed';
import { useEventUnder } from './use-event-under';
import { useFit, usePan } from './use-stage';
import { useReadLine } from './use-read-line';
import { ViewBar } from './view-bar';
import { WipeLine } from './wipe-line';
import { ZoneOverlay } from './zone-overlay';
import { ZoneSheet } from './zone-sheet';
import { useSession } from '../state/session';
import { texts } from '../../messages/picture';

interface Props {
  medium: Medium;
  source: Source;
  shotId: string;
  /** All of the reel. */
  shots: readonly Shot[];
  reference: Reference | undefined;
  sound: boolean;
}

/** How long each of two pictures is shown when they blink. */
const BLINK_MS = 600;
const EXTRA = '#1b1e1f';
/** What a trait changes is often too little to be seen. */
const CHANGES_GAIN = 8;

/** The picture: always live, fitted or at 1:1, worn or as shot, alone or held against another, still or playing. */
export function Picture({ medium, source, shotId, shots, reference, sound }: Props) {
  const look = useDocument((s) => s.look);
  const { view, held, zoom, magnified, point, selected, framing, drawing, tried, singled } = useSession(
    useShallow(({ view, held, zoom, magnified, point, selected, framing, drawing, tried, singled }) => ({
      view,
      held,
      zoom,
      magnified,
      point,
      selected,
      framing,
      drawing,
      tried,
      singled,
    })),
  );
  const { playing, loop, draft } = usePlayback(useShallow(({ playing, loop, draft }) => ({ playing, loop, draft })));
  // While it plays pictures are painted past React; what stands here is where it began.
  const frame = usePlayback((s) => (s.playing ? s.begunAt : s.frame));
  const { scope, lineOpen } = useScopes(useShallow((s) => ({ scope: s.open, lineOpen: s.lineOpen })));
  // At rest all of the picture without its wear is made: any line may be read next.
  const read = useReadLine();
  const asked = useMemo<Asked>(() => ({ scope, clean: read }), [scope, read]);
  const { mode: compared, line } = useCompare(useShallow(({ mode, line }) => ({ mode, line })));
  const changes = singled === 'changes';
  const mode = changes ? 'changes' : compared;
  const shown = useMemo<Look>(() => {
    if ((view === 'asShot') !== held) return EMPTY_LOOK;
    if (tried) return tried;
    if (singled === 'only' && selected) return lookOnly(look, selected);
    return point ? lookUpTo(look, point.life, point.act, point.place) : look;
  }, [look, view, held, point, tried, singled, selected]);
  const other = useOther(source, look, selected, reference, changes);
  const range = useMemo(() => loop ?? { from: 0, to: source.frames }, [loop, source.frames]);
  const chosen = traitUseAt(look, selected);
  const laid = chosen !== undefined && chosen.on !== false && traitById(chosen.trait)?.family === 'laid' && !framing;
  const zoned = chosen?.on !== false && (chosen?.zone?.kind ?? 'all') !== 'all' && !framing;
  const full = zoom === 'full' && !framing;
  const original = preparedSize(medium.footage!, source.preparation);
  const wanted = { original: full, editing: selected, scope, clean: lineOpen ? 'all' : null } as const;
  // What a use changes is told by two pictures of one moment and one state of the look, never by one of now and one of a moment ago.
  const { worn, beside, error, current } = usePicture(playing ? null : source, frame, shown, source, wanted, changes ? other?.look : null);
  const apart = usePicture(playing || !other || changes ? null : other.source, other ? frame % other.source.frames : 0, other?.look ?? EMPTY_LOOK, other?.source ?? source, {
    original: full,
  });
  const second = changes ? { worn: beside, current, error: null } : apart;
  useEffect(() => {
    if (worn && !playing) showScope(worn);
  }, [worn, playing]);

  const canvas = useRef<HTMLCanvasElement>(null);
  const otherCanvas = useRef<HTMLCanvasElement>(null);
  const player = useRef<Player | null>(null);
  const audio = useRef<HTMLAudioElement>(null);

  useEffect(() => {
    forgetPlaying();
    const made = new Player(source, shown, range, other, asked, {
      onFrame(n, pair) {
        if (canvas.current) paint(canvas.current, pair.worn);
        if (pair.other && otherCanvas.current) paint(otherCanvas.current, pair.other);
        if (pair.worn.scope || pair.worn.clean) showScope(pair.worn);
        showFrame(n);
        const track = audio.current;
        if (track && !track.paused && Math.abs(track.currentTime - footageSeconds(source, n)) > 0.12) track.currentTime = footageSeconds(source, n);
      },
      onReady: tellReady,
      onReport: tellReport,
    });
    player.current = made;
    const { playing, frame } = usePlayback.getState();
    if (playing) made.start(frame);
    return () => made.leave();
    // The player lives as long as the shot is prepared in one way; look, range and company are handed to it below.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [source]);
  const widest = full ? original.width : undefined;
  useEffect(() => player.current?.change(shown, range, other, asked, widest, draft), [shown, range, other, asked, widest, draft]);
  useEffect(() => {
    if (!playing) return;
    player.current?.start(usePlayback.getState().frame);
    const held = player.current;
    return () => held?.stop();
  }, [playing]);
  const { speed = 1 } = source.preparation;
  useEffect(() => {
    const track = audio.current;
    if (!track) return;
    track.playbackRate = speed;
    if (playing && sound) {
      track.currentTime = footageSeconds(source, usePlayback.getState().frame);
      void track.play().catch(() => undefined);
    } else track.pause();
  }, [playing, sound, source, speed]);

  useScrubbed(audio, source, sound);

  // Only where the picture is the look on the bench itself, and nothing is drawn on it.
  const plain = shown === look && !other && !zoned && !drawing && !laid && !framing;
  const pictureBox = useRef<HTMLDivElement>(null);
  const under = useEventUnder(pictureBox, source, plain);
  const stage = useRef<HTMLDivElement>(null);
  const size = full ? original : source;
  const side = mode === 'side' && other !== null && !full;
  const fitted = useFit(stage, size.width / size.height, side ? 2 : 1);
  const pan = usePan(stage, full, fitted && (fitted.width * devicePixelRatio) / original.width);
  const otherFit = useFit(stage, other ? other.source.width / other.source.height : 1, 2);
  const style = full
    ? {
        width: (original.width * magnified) / devicePixelRatio,
        height: (original.height * magnified) / devicePixelRatio,
        transform: `translate(calc(-50% + ${pan.x}px), calc(-50% + ${pan.y}px))`,
      }
    : fitted;
  const label = texts.pictureOf(frame + 1, source.frames, shown !== EMPTY_LOOK);
  const blinked = useBlink(mode === 'blink' && other !== null);
  const over = other && !side;
  const clip = mode === 'wipe' ? wipePath(line, size.width / size.height) : undefined;
  const differs = changes && (playing || beside !== null);
  const hidden = (mode === 'blink' && !blinked) || (changes && !differs);
  // The use that can be laid or zoned by hand: at rest, and unless it is being drawn only on the whole look's own picture.
  const at = playing || (!drawing && (over || point || view !== 'worn')) ? null : selected;

  return (
    <div
      ref={stage}
      data-picture-room
      className="relative min-h-[240px] flex-1 overflow-hidden bg-surround"
      {...pan.handlers}
      {...under.handlers}
      style={{ cursor: full ? 'grab' : undefined }}
    >
      <div className="absolute inset-0 flex items-center justify-center gap-3">
        <div
          ref={pictureBox}
          className={clsx(full ? 'absolute top-1/2 left-1/2' : 'relative shrink-0', full && magnified > 1 && '[&_canvas]:[image-rendering:pixelated]')}
          style={differs && over ? { ...style, filter: `brightness(${CHANGES_GAIN})` } : style}
          onPointerMove={(e) => {
            const box = e.currentTarget.getBoundingClientRect();
            pointAt((e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height);
          }}
          onPointerLeave={() => pointAt(-1, -1)}
        >
          <PictureCanvas worn={worn} current={current} label={label} className={clsx('absolute inset-0 h-full w-full', playing && 'invisible')} />
          <canvas ref={canvas} className={clsx('absolute inset-0 h-full w-full', !playing && 'invisible')} aria-hidden />
          {over && (
            <div className={clsx('absolute inset-0', hidden && 'invisible')} style={{ clipPath: clip, mixBlendMode: differs ? 'difference' : undefined }} data-other={mode}>
              <PictureCanvas
                worn={second.worn}
                current={second.current}
                label={texts.comparedWith}
                className={clsx('absolute inset-0 h-full w-full object-cover', playing && 'invisible')}
              />
              <canvas ref={otherCanvas} className={clsx('absolute inset-0 h-full w-full object-cover', !playing && 'invisible')} aria-hidden />
            </div>
          )}
          {over && mode === 'wipe' && <WipeLine />}
          {lineOpen && <LineMark />}
          {laid && at && <LaidOverlay at={at} source={source} />}
          {zoned && at && <ZoneOverlay at={at} source={source} />}
          {drawing && at && <ZoneSheet at={at} source={source} />}
          {framing && <FramingOverlay medium={medium} source={source} />}
          {!worn && !playing && source.proxy.made && source.preparation.shape === undefined && (
            <img draggable={false} src={`/api/media/${medium.id}/poster`} alt="" className="absolute inset-0 h-full w-full" />
          )}
        </div>
        {side && (
          <div className="relative shrink-0" style={otherFit} data-other="side">
            <PictureCanvas worn={second.worn} current={second.current} label={texts.comparedWith} className={clsx('absolute inset-0 h-full w-full', playing && 'invisible')} />
            <canvas ref={otherCanvas} className={clsx('absolute inset-0 h-full w-full', !playing && 'invisible')} aria-hidden />
          </div>
        )}
      </div>
      {mode === 'shots' && !framing && !playing && <AcrossShots look={shown} shotId={shotId} own={{ worn, current }} shots={shots} seconds={frame / source.rate} />}
      <ViewBar stage={stage} reference={reference} percent={!full && fitted ? Math.round((fitted.width / original.width) * 100 * devicePixelRatio) : null} />
      {!playing && !error && <Busy on={!current || under.looking} what={!current ? (full ? texts.renderingAt11FromOriginal : texts.rendering) : texts.lookingForEvent} />}
      {(tried ?? singled ?? point) && (
        <div className="mono absolute bottom-2 left-3 px-2 py-0.5 text-[#d5d9d8]" style={{ background: EXTRA }}>
          {tried ? texts.triedNotAdded : singled === 'only' ? texts.thisTraitOnly : changes ? texts.whatItChanges(CHANGES_GAIN) : texts.atThisPointOfChain}
        </div>
      )}
      {(error ?? second.error) && (
        <p role="alert" className="absolute inset-x-3 bottom-3 px-3 py-2 text-[#e6e8e7]" style={{ background: EXTRA }}>
          {texts.pictureCouldNotBeRendered((error ?? second.error)!)}
        </p>
      )}
      {medium.hasSound && <audio ref={audio} src={`/api/media/${medium.id}/sound`} preload="auto" />}
    </div>
  );
}

/** What takes longer than this is said. */
const BUSY_MS = 350;

/** Says that a picture is being made, where that takes a while. */
function Busy({ on, what }: { on: boolean; what: string }) {
  const [long, setLong] = useState(false);
  useEffect(() => {
    if (!on) return;
    const timer = setTimeout(() => setLong(true), BUSY_MS);
    return () => {
      clearTimeout(timer);
      setLong(false);
    };
  }, [on]);
  if (!on || !long) return null;
  return (
    <div role="status" data-busy className="mono absolute right-3 bottom-2 px-2 py-0.5 text-[#d5d9d8]" style={{ background: EXTRA }}>
      {what}…
    </div>
  );
}

/** True and false in turn while it is on. */
function useBlink(on: boolean): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    if (!on) return;
    const timer = setInterval(() => setSeen((s) => !s), BLINK_MS);
    return () => clearInterval(timer);
  }, [on]);
  return on && seen;
}
