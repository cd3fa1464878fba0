import { Pause, Play, StepBack, StepForward } from 'lucide-react';
import { timecode } from '../../api/footage';
import { Button } from '../../parts/button';
import type { Source } from '../../render/protocol';
import { LOOP_SECONDS, stepFrame, toggleLoop, togglePlay, usePlayback } from '../state/playback';
import { toggleLine, toggleScopes, useScopes } from '../state/scope';

interface Props {
  source: Source;
  sound: boolean | null;
  onSound: () => void;
}

export function Transport({ source, sound, onSound }: Props) {
  const playing = usePlayback((s) => s.playing);
  const loop = usePlayback((s) => s.loop);
  const scopes = useScopes((s) => s.open);
  const line = useScopes((s) => s.lineOpen);
  return (
    <div className="flex h-9 shrink-0 items-center gap-2 overflow-x-auto overflow-y-hidden border-y border-rule px-3">
      <Button kind="bare" aria-label="One frame back" title="One frame back (←)" onClick={() => stepFrame(source, -1)}>
        <StepBack size={17} />
      </Button>
      <Button kind="bare" aria-label={playing ? 'Pause' : 'Play'} title="Play and pause (space)" onClick={togglePlay}>
        {playing ? <Pause size={19} fill="currentColor" /> : <Play size={19} fill="currentColor" />}
      </Button>
      <Button kind="bare" aria-label="One frame on" title="One frame on (→)" onClick={() => stepFrame(source, 1)}>
        <StepForward size={17} />
      </Button>
      <Clock source={source} />
      <span className="flex-1" />
      <Rate source={source} />
      <Button aria-pressed={loop !== null} className={loop ? '!border-oxide text-oxide' : ''} title="Loop two seconds from here (Shift L)" onClick={() => toggleLoop(source)}>
        Loop {LOOP_SECONDS} s
      </Button>
      <Button aria-pressed={scopes} className={scopes ? '!border-oxide text-oxide' : ''} onClick={toggleScopes} title="Scopes beside the card (V)">
        Scopes
      </Button>
      <Button aria-pressed={line} className={line ? '!border-oxide text-oxide' : ''} onClick={toggleLine} title="One line of the picture as a signal (Shift V)">
        Line
      </Button>
      {sound !== null && (
        <Button aria-pressed={sound} className={sound ? '!border-oxide text-oxide' : ''} onClick={onSound} title="Sound (S)">
          Sound
        </Button>
      )}
    </div>
  );
}

/** Pictures a second: of the shot, and while it plays those that are shown. */
function Rate({ source }: { source: Source }) {
  const report = usePlayback((s) => s.report);
  const playing = usePlayback((s) => s.playing);
  const speed = usePlayback((s) => s.speed);
  const rate = Math.round(source.rate * 100) / 100;
  const words = speed ? `${Math.abs(speed)}×${speed < 0 ? ' backwards' : ''}` : playing && report ? `${report.shown} of ${rate} fps at ${report.width} wide` : `${rate} fps`;
  return <span className="mono truncate text-faint">{words}</span>;
}

/** Where the shot stands. Apart from the buttons, as it changes with every picture. */
function Clock({ source }: { source: Source }) {
  const frame = usePlayback((s) => s.frame);
  return (
    <>
      <output className="mono text-[14px] font-medium" aria-label="Time">
        {timecode(frame, source.rate)}
      </output>
      <span className="mono truncate text-faint">
        frame {frame + 1} of {source.frames}
      </span>
    </>
  );
}
