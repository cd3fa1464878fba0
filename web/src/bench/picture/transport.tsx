import { useState, type KeyboardEvent } from 'react';
import clsx from 'clsx';
import { Pause, Play, StepBack, StepForward } from 'lucide-react';
import { timecode, typedFrame } from '../../api/footage';
import { Button } from '../../parts/button';
import { Tool, Toolbar } from '../../parts/toolbar';
import { useWithKeys } from '../keys/actions-context';
import type { Source } from '../../render/protocol';
import { goTo, stepFrame, stopPlaying, toggleLoop, togglePlay, usePlayback } from '../state/playback';
import { toggleLine, toggleScopes, useScopes } from '../state/scope';
import { Dearest, Draft, Rate, useSlow } from './rate';
import { actionNames } from '../../messages/actions';
import { texts } from '../../messages/picture';

interface Props {
  source: Source;
  sound: boolean | null;
  onSound: () => void;
}

export function Transport({ source, sound, onSound }: Props) {
  const withKeys = useWithKeys();
  const playing = usePlayback((s) => s.playing);
  const playable = usePlayback((s) => s.playable);
  const loop = usePlayback((s) => s.loop);
  const scopes = useScopes((s) => s.open);
  const line = useScopes((s) => s.lineOpen);
  return (
    <div data-picture-room className="@container shrink-0 border-y border-rule">
      <Toolbar label={texts.playing} className="flex min-h-9 flex-wrap items-center gap-x-2 gap-y-1 px-3 py-0.5">
        <Tool>
          <Button kind="bare" aria-label={texts.oneFrameBack} title={withKeys(texts.oneFrameBack, actionNames.oneFrameBack)} onClick={() => stepFrame(source, -1)}>
            <StepBack size={17} />
          </Button>
        </Tool>
        <Tool disabled={!playable}>
          <Button
            kind="bare"
            disabled={!playable}
            aria-label={playing ? texts.pause : texts.play}
            title={playable ? withKeys(texts.playAndPause, actionNames.playAndPause) : texts.playsOnceImported}
            onClick={togglePlay}
          >
            {playing ? <Pause size={19} fill="currentColor" /> : <Play size={19} fill="currentColor" />}
          </Button>
        </Tool>
        <Tool>
          <Button kind="bare" aria-label={texts.oneFrameOn} title={withKeys(texts.oneFrameOn, actionNames.oneFrameOn)} onClick={() => stepFrame(source, 1)}>
            <StepForward size={17} />
          </Button>
        </Tool>
        <Clock source={source} />
        <Dearest source={source} />
        <Rate source={source} />
        <Draft source={source} />
        <Tool>
          <Button
            aria-pressed={loop !== null}
            title={texts.loopTitle(withKeys(texts.loopTwoSecondsFromHere, actionNames.loopTwoSecondsFromHere))}
            onClick={() => toggleLoop(source)}
          >
            {texts.loop}
          </Button>
        </Tool>
        <Tool>
          <Button aria-pressed={scopes} onClick={toggleScopes} title={withKeys(texts.scopesBesideCard, actionNames.scopes)}>
            {texts.scopes}
          </Button>
        </Tool>
        <Tool>
          <Button aria-pressed={line} onClick={toggleLine} title={withKeys(texts.oneLineOfPictureAsSignal, actionNames.oneLineAsSignal)}>
            {texts.line}
          </Button>
        </Tool>
        {sound !== null && (
          <Tool>
            <Button aria-pressed={sound} onClick={onSound} title={withKeys(texts.sound, actionNames.sound)}>
              {texts.sound}
            </Button>
          </Tool>
        )}
      </Toolbar>
    </div>
  );
}

/** Where the shot stands, or goes by what is typed. Apart from the buttons, as it changes with every picture. */
function Clock({ source }: { source: Source }) {
  const frame = usePlayback((s) => s.frame);
  const withKeys = useWithKeys();
  const [typing, setTyping] = useState(false);
  const [wrong, setWrong] = useState(false);
  const slow = useSlow(source);
  const go = (text: string): void => {
    const to = typedFrame(text, source.rate, frame);
    setWrong(to === undefined);
    if (to === undefined) return;
    goTo(source, to);
    setTyping(false);
  };
  const close = (): void => {
    setTyping(false);
    setWrong(false);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (event.key === 'Enter') go(event.currentTarget.value);
    else if (event.key === 'Escape') close();
    else return;
    event.preventDefault();
  };
  const now = timecode(frame, source.rate);
  return (
    <>
      {typing ? (
        <input
          autoFocus
          aria-label={texts.goTo}
          aria-invalid={wrong}
          title={wrong ? texts.timeCodeSuchAs00 : undefined}
          defaultValue={now}
          onFocus={(event) => event.currentTarget.select()}
          onBlur={close}
          onKeyDown={onKeyDown}
          className={clsx('mono w-[104px] rounded-sm border bg-well px-1 text-[14px]', wrong ? 'border-oxide' : 'border-rule')}
        />
      ) : (
        <Tool>
          <button
            type="button"
            className="mono rounded-sm border border-transparent px-1 text-[14px] hover:border-rule"
            title={withKeys(texts.goToTimeCode, actionNames.goToTimeCode)}
            data-clock
            onClick={() => {
              stopPlaying();
              setTyping(true);
            }}
          >
            <output aria-label={texts.time}>{now}</output>
          </button>
        </Tool>
      )}
      {/* Its room is for what is told while it plays too slowly. */}
      {!slow && <span className="mono truncate text-faint @max-[720px]:hidden">{texts.frameOf(frame + 1, source.frames)}</span>}
    </>
  );
}
