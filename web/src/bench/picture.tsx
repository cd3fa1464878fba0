import { useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import clsx from 'clsx';
import { EMPTY_LOOK, type Look } from '@tin-ghost/core';
import type { Medium } from '../api/client';
import { rateOf } from '../api/footage';
import { PictureCanvas, paint } from '../render/canvas';
import type { Source } from '../render/protocol';
import { usePicture } from '../render/use-picture';
import { lookUpTo } from './look-edits';
import { Player, type PlayerReport } from './player';
import { tellReady } from './ready-frames';
import { useBench } from './store';

/** The source of a shot's proxy; null while the footage is not ready. */
export function sourceOf(medium: Medium): Source | null {
  const { footage, proxyWidth, proxyHeight } = medium;
  if (medium.state !== 'ready' || !footage || !proxyWidth || !proxyHeight) return null;
  return { mediaId: medium.id, width: proxyWidth, height: proxyHeight, rate: rateOf(footage), frames: footage.frames };
}

interface Props {
  medium: Medium;
  source: Source;
  sound: boolean;
  onReport: (report: PlayerReport) => void;
}

const VIEWS = [
  ['worn', 'Worn', 'The picture with its wear (W)'],
  ['asShot', 'As shot', 'The picture before; hold B for a moment'],
] as const;

/** The picture: always live, fitted or at 1:1, worn or as shot, still or playing. */
export function Picture({ medium, source, sound, onReport }: Props) {
  const look = useBench((s) => s.look);
  const { frame, playing, loop, view, held, zoom, point, selected } = useBench();
  const shown = useMemo<Look>(() => {
    if ((view === 'asShot') !== held) return EMPTY_LOOK;
    return point ? lookUpTo(look, point.life, point.act, point.place) : look;
  }, [look, view, held, point]);
  const range = useMemo(() => loop ?? { from: 0, to: source.frames }, [loop, source.frames]);
  const full = zoom === 'full';
  const { footage } = medium;
  const { worn, error } = usePicture(playing ? null : source, frame, shown, source, full, selected);

  const canvas = useRef<HTMLCanvasElement>(null);
  const player = useRef<Player | null>(null);
  const audio = useRef<HTMLAudioElement>(null);

  useEffect(() => {
    const made = new Player(source, shown, range, {
      onFrame(n, picture) {
        if (canvas.current) paint(canvas.current, picture);
        useBench.setState({ frame: n });
        const track = audio.current;
        if (track && !track.paused && Math.abs(track.currentTime - n / source.rate) > 0.12) track.currentTime = n / source.rate;
      },
      onReady: tellReady,
      onReport,
    });
    player.current = made;
    return () => made.stop();
    // The player lives as long as the footage; look and range are handed to it below.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [source]);
  useEffect(() => player.current?.change(shown, range), [shown, range]);
  useEffect(() => {
    if (!playing) return;
    player.current?.start(useBench.getState().frame);
    const held = player.current;
    return () => held?.stop();
  }, [playing, source]);
  useEffect(() => {
    const track = audio.current;
    if (!track) return;
    if (playing && sound) {
      track.currentTime = useBench.getState().frame / source.rate;
      void track.play().catch(() => undefined);
    } else track.pause();
  }, [playing, sound, source]);

  const stage = useRef<HTMLDivElement>(null);
  const pan = usePan(full);
  const size = full && !playing ? { width: footage!.width, height: footage!.height } : source;
  const fitted = useFit(stage, size.width / size.height);
  const style = full
    ? { width: footage!.width / devicePixelRatio, height: footage!.height / devicePixelRatio, transform: `translate(calc(-50% + ${pan.x}px), calc(-50% + ${pan.y}px))` }
    : fitted;
  const label = `Picture ${frame + 1} of ${source.frames}, ${shown === EMPTY_LOOK ? 'as shot' : 'worn'}`;

  return (
    <div ref={stage} className="relative min-h-0 flex-1 overflow-hidden bg-surround" {...pan.handlers} style={{ cursor: full ? 'grab' : undefined }}>
      <div className="absolute inset-0 grid place-items-center">
        <div className={full ? 'absolute top-1/2 left-1/2' : 'relative shrink-0'} style={style}>
          <PictureCanvas worn={worn} label={label} className={clsx('absolute inset-0 h-full w-full', playing && 'invisible')} />
          <canvas ref={canvas} className={clsx('absolute inset-0 h-full w-full', !playing && 'invisible')} aria-hidden />
          {!worn && !playing && <img src={`/api/media/${medium.id}/poster`} alt="" className="absolute inset-0 h-full w-full" />}
        </div>
      </div>
      <div className="absolute top-2.5 left-3 flex bg-[#1b1e1f]" role="group" aria-label="What is shown">
        {VIEWS.map(([id, name, title]) => (
          <button
            key={id}
            type="button"
            title={title}
            aria-pressed={view === id}
            onClick={() => useBench.setState({ view: id })}
            className={clsx('px-2.5 py-1 text-[14px]', view === id ? 'bg-[#e6e8e7] text-[#1b1e1f]' : 'text-[#d5d9d8] hover:text-white')}
          >
            {name}
          </button>
        ))}
      </div>
      <div className="mono absolute top-2.5 right-3 flex gap-2 bg-[#1b1e1f] px-2 py-1 text-[#d5d9d8]">
        <button type="button" aria-pressed={!full} className={clsx(!full && 'underline underline-offset-4')} onClick={() => useBench.setState({ zoom: 'fit' })} title="Fit (F)">
          Fit {!full && fitted ? `${Math.round((fitted.width / footage!.width) * 100 * devicePixelRatio)} %` : ''}
        </button>
        <button
          type="button"
          aria-pressed={full}
          className={clsx(full && 'underline underline-offset-4')}
          onClick={() => useBench.setState({ zoom: 'full', playing: false })}
          title="1:1, from the original (1)"
        >
          1:1
        </button>
      </div>
      {point && <div className="mono absolute bottom-2 left-3 bg-[#1b1e1f] px-2 py-0.5 text-[#d5d9d8]">at this point of the chain</div>}
      {error && (
        <p role="alert" className="absolute inset-x-3 bottom-3 bg-[#1b1e1f] px-3 py-2 text-[#e6e8e7]">
          The picture could not be rendered: {error}. Your look is kept.
        </p>
      )}
      {medium.hasSound && <audio ref={audio} src={`/api/media/${medium.id}/sound`} preload="auto" />}
    </div>
  );
}

/** The largest size of a shape that fits, with a margin. */
function useFit(stage: React.RefObject<HTMLDivElement | null>, shape: number): { width: number; height: number } | undefined {
  const [room, setRoom] = useState<{ width: number; height: number }>();
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setRoom({ width: entry!.contentRect.width - 24, height: entry!.contentRect.height - 20 }));
    observer.observe(stage.current!);
    return () => observer.disconnect();
  }, [stage]);
  if (!room) return undefined;
  const width = Math.max(16, Math.min(room.width, room.height * shape));
  return { width: Math.round(width), height: Math.round(width / shape) };
}

/** Dragging moves the picture at 1:1. */
function usePan(on: boolean) {
  const [at, setAt] = useState({ x: 0, y: 0 });
  const drag = useRef<{ x: number; y: number } | null>(null);
  const handlers = on
    ? {
        onPointerDown: (e: PointerEvent<HTMLDivElement>) => {
          if ((e.target as HTMLElement).closest('button')) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: e.clientX - at.x, y: e.clientY - at.y };
        },
        onPointerMove: (e: PointerEvent) => drag.current && setAt({ x: e.clientX - drag.current.x, y: e.clientY - drag.current.y }),
        onPointerUp: () => {
          drag.current = null;
        },
      }
    : {};
  return { ...(on ? at : { x: 0, y: 0 }), handlers };
}
