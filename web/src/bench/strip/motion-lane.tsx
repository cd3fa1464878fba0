import { useRef } from 'react';
import { traitById, type Key, type Setting, type Value } from '@tin-ghost/core';
import { useWidth } from '../../parts/use-width';
import type { Source } from '../../render/protocol';
import { useDocument } from '../state/document';
import { traitUseAt, type UseAt } from '../state/look-edits';
import { changedKey, type Moving } from '../state/motion-edits';
import { addKey, editKeys, removeKey } from '../state/moving';
import { goTo } from '../state/playback';
import { chooseKey, useSession } from '../state/session';
import { useStripView } from '../state/strip-view';
import { MotionCurve } from './motion-curve';
import { Playhead } from './playhead';
import { SHOT_SIDES, STRIP_MARGIN, useStripWheel } from './stretched';
import { useTrace } from './use-trace';
import { texts } from '../../messages/strip';

const HEIGHT = 72;
const NO_KEYS: readonly Key[] = [];

/** The setting whose motion is open, drawn over the shot below its footage, in step with it. */
export function MotionLane({ source }: { source: Source }) {
  const at = useSession((s) => s.selected);
  const moving = useSession((s) => s.moving);
  const use = useDocument((s) => traitUseAt(s.look, at));
  if (!at || !use || moving === null) return null;
  const setting = (traitById(use.trait)!.settings as Record<string, Setting>)[moving];
  if (setting?.kind !== 'number' && setting?.kind !== 'colour') return null;
  return <Curve at={at} settingKey={moving} setting={setting} base={use.settings?.[moving] ?? setting.default} source={source} />;
}

function Curve({ at, settingKey, setting, base, source }: { at: UseAt; settingKey: string; setting: Moving; base: Value; source: Source }) {
  const look = useDocument((s) => s.look);
  const chosen = useSession((s) => s.key);
  const { zoom, from } = useStripView();
  const room = useRef<HTMLDivElement>(null);
  const width = useWidth(room) - SHOT_SIDES.left - SHOT_SIDES.right;
  useStripWheel(room, source);
  const { frames, rate } = source;
  const [begin, end] = [from * frames, Math.min(frames, (from + 1 / zoom) * frames)];
  const trace = useTrace(source, look, at, settingKey, Math.floor(begin), Math.max(Math.floor(begin), Math.ceil(end) - 1));
  const motion = traitUseAt(look, at)?.motions?.[settingKey];
  return (
    <div ref={room} className="relative shrink-0 border-t border-rule bg-tin" style={{ height: HEIGHT + 1 }} role="group" aria-label={texts.motionOnStrip}>
      <span className="absolute inset-y-0 left-0 border-r border-rule px-2 pt-1 text-[12px] leading-4 break-words text-oxide" style={{ width: STRIP_MARGIN }}>
        {setting.name}
      </span>
      <div className="absolute inset-y-0" style={SHOT_SIDES}>
        {width > 0 && (
          <MotionCurve
            name={setting.name}
            setting={setting}
            base={base}
            trace={trace}
            from={begin}
            to={end}
            frames={frames}
            rate={rate}
            width={width}
            height={HEIGHT}
            keys={motion?.motion === 'keys' ? motion.keys : NO_KEYS}
            chosen={chosen}
            onChoose={chooseKey}
            onSeek={(n) => goTo(source, n)}
            onKey={(i, more) => editKeys(at, settingKey, (keys) => changedKey(keys, i, more))}
            onAdd={(seconds, value) => addKey(at, settingKey, seconds, value)}
            onRemove={(i) => removeKey(at, settingKey, i)}
          />
        )}
      </div>
      <Playhead frames={frames} />
    </div>
  );
}
