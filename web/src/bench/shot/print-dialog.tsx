import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Dialog } from 'radix-ui';
import { lookShape, preparedSize, shownSize } from '@tin-ghost/core';
import type { Shot } from '@tin-ghost/contract';
import { api, ApiError, refresh } from '../../api/client';
import { Button } from '../../parts/button';
import type { Source } from '../../render/protocol';
import { flushBench, useDocument } from '../state/document';
import { usePlayback } from '../state/playback';

const SHARES = [1, 0.5, 0.25];
const even = (v: number): number => Math.max(16, Math.round(v / 2) * 2);

/** Choosing what print is struck. */
export function PrintDialog({ shot, source, open, onOpenChange }: { shot: Shot; source: Source; open: boolean; onOpenChange: (open: boolean) => void }) {
  const footage = { ...preparedSize(shot.medium.footage!, source.preparation), frames: source.frames, sound: shot.medium.footage!.sound };
  const keeping = useDocument((s) => s.keeping);
  const loop = usePlayback((s) => s.loop);
  const navigate = useNavigate();
  const [format, setFormat] = useState<'mp4' | 'webm'>('mp4');
  const [share, setShare] = useState(1);
  const [whole, setWhole] = useState(true);
  const [from, setFrom] = useState(1);
  const [to, setTo] = useState(footage.frames);
  const [sound, setSound] = useState(true);
  const [bars, setBars] = useState(true);
  const look = useDocument((s) => s.look);
  const sizeAt = (s: number): { width: number; height: number } => {
    const whole = { width: even(footage.width * s), height: even(footage.height * s) };
    const shown = bars ? whole : shownSize(look, whole);
    return { width: even(shown.width), height: even(shown.height) };
  };
  const [error, setError] = useState<ApiError | null>(null);
  const unkept = keeping.state !== 'kept';

  const strike = async (): Promise<void> => {
    const range = whole ? {} : { from: from - 1, to };
    try {
      await api('/prints', { method: 'POST', body: { shotId: shot.id, format, ...sizeAt(share), sound, ...range } });
      await refresh('/prints');
      await navigate('/prints');
    } catch (caught) {
      setError(caught as ApiError);
    }
  };
  const useLoop = (): void => {
    if (!loop) return;
    setWhole(false);
    setFrom(loop.from + 1);
    setTo(loop.to);
  };
  const field = 'mono w-[76px] rounded-sm border border-rule bg-well px-1 py-0.5 text-right';
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        if (next) flushBench();
        onOpenChange(next);
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#1b1e1f]/55" />
        <Dialog.Content className="fixed top-24 left-1/2 z-50 w-[440px] -translate-x-1/2 rounded-sm border border-rule bg-panel p-5 shadow-xl" aria-describedby={undefined}>
          <Dialog.Title className="text-[20px] font-bold">Strike a print</Dialog.Title>
          <p className="mt-1 text-faint">
            {shot.name}, {footage.width} × {footage.height}, {footage.frames} pictures
          </p>
          <fieldset className="mt-4 grid grid-cols-[92px_1fr] items-center gap-y-3">
            <span>Format</span>
            <select
              aria-label="Format"
              value={format}
              onChange={(e) => setFormat(e.currentTarget.value as 'mp4' | 'webm')}
              className="rounded-sm border border-rule bg-well px-1 py-1"
            >
              <option value="mp4">MP4, H.264 and AAC</option>
              <option value="webm">WebM, VP9 and Opus</option>
            </select>
            <span>Size</span>
            <select aria-label="Size" value={share} onChange={(e) => setShare(Number(e.currentTarget.value))} className="mono rounded-sm border border-rule bg-well px-1 py-1">
              {SHARES.map((s) => (
                <option key={s} value={s}>
                  {sizeAt(s).width} × {sizeAt(s).height}
                </option>
              ))}
            </select>
            {lookShape(look) !== undefined && (
              <>
                <span>Bars</span>
                <label className="flex items-center gap-1">
                  <input type="checkbox" checked={bars} onChange={(e) => setBars(e.currentTarget.checked)} className="accent-oxide" /> beside the picture, so that the file keeps
                  its shape
                </label>
              </>
            )}
            <span>Range</span>
            <span className="flex flex-wrap items-center gap-2">
              <label className="flex items-center gap-1">
                <input type="checkbox" checked={whole} onChange={(e) => setWhole(e.currentTarget.checked)} className="accent-oxide" /> whole shot
              </label>
              {!whole && (
                <>
                  <input
                    aria-label="First picture"
                    type="number"
                    min={1}
                    max={to}
                    value={from}
                    onChange={(e) => setFrom(Math.floor(e.currentTarget.valueAsNumber) || 1)}
                    className={field}
                  />
                  to
                  <input
                    aria-label="Last picture"
                    type="number"
                    min={from}
                    max={footage.frames}
                    value={to}
                    onChange={(e) => setTo(Math.floor(e.currentTarget.valueAsNumber) || 1)}
                    className={field}
                  />
                </>
              )}
              {loop && (
                <button type="button" className="text-oxide underline" onClick={useLoop}>
                  the loop
                </button>
              )}
            </span>
            {footage.sound && (
              <>
                <span>Sound</span>
                <label className="flex items-center gap-1">
                  <input type="checkbox" checked={sound} onChange={(e) => setSound(e.currentTarget.checked)} className="accent-oxide" /> carried over in step
                </label>
              </>
            )}
          </fieldset>
          {error && (
            <p role="alert" className="mt-3 text-oxide">
              {error.message}
            </p>
          )}
          <div className="mt-5 flex items-center justify-end gap-2">
            {unkept && <span className="mr-auto text-faint">keeping your last change…</span>}
            <Dialog.Close asChild>
              <Button>Not now</Button>
            </Dialog.Close>
            <Button kind="live" disabled={unkept} onClick={() => void strike()}>
              Strike
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
