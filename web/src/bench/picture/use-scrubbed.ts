import { useEffect, type RefObject } from 'react';
import type { Source } from '../../render/protocol';
import { usePlayback } from '../state/playback';

/** So long is heard of each frame that is gone to: short enough to follow a drag, long enough to know a sound by. */
const HEARD_MS = 90;

/** The moment of the footage that a picture of the prepared shot shows. */
export const footageSeconds = ({ preparation, rate }: Source, n: number): number => ((preparation.trim?.from ?? 0) + n * (preparation.speed ?? 1)) / rate;

/** Where one goes from frame to frame by hand, a moment of each is heard. */
export function useScrubbed(audio: RefObject<HTMLAudioElement | null>, source: Source, sound: boolean): void {
  useEffect(() => {
    if (!sound) return;
    let ending: ReturnType<typeof setTimeout> | undefined;
    const stop = (): void => {
      clearTimeout(ending);
      if (!usePlayback.getState().playing) audio.current?.pause();
    };
    const unsubscribe = usePlayback.subscribe((now, before) => {
      const track = audio.current;
      // What plays is heard as it is; so is the frame at which it stops.
      if (!track || now.frame === before.frame || now.playing || before.playing || now.speed !== 0) return;
      track.currentTime = footageSeconds(source, now.frame);
      void track.play().catch(() => undefined);
      clearTimeout(ending);
      ending = setTimeout(stop, HEARD_MS);
    });
    return () => {
      unsubscribe();
      stop();
    };
  }, [audio, source, sound]);
}
