import { useMemo, useState } from 'react';
import clsx from 'clsx';
import { Trash2 } from 'lucide-react';
import { followable, traitById, type Key, type Motion, type NumberSetting, type Value } from '@tin-ghost/core';
import { Button } from '../../parts/button';
import { plainNumber } from '../../parts/plain-number';
import type { Source } from '../../render/protocol';
import { changeMotion, traitUseAt, type UseAt } from '../state/look-edits';
import { MotionCurve } from './motion-curve';
import { begun, changedKey, mostAmount, TriedMotions, withKey, withoutKey, type KeyValue, type Moving } from '../state/motion-edits';
import { MOTION_NAMES, MotionLine } from './motion-sign';
import { ChoiceField, ColourRow, NumberRow } from './setting-row';
import { changeLook, useDocument } from '../state/document';
import { useTrace } from './use-trace';
import { goTo, usePlayback } from '../state/playback';

const KINDS = ['steady', 'wander', 'jump', 'keys', 'follow'] as const;
const MOST_SPEEDS = 3;
const NO_KEYS: readonly Key[] = [];
const tried = new TriedMotions();
const EASES = { smooth: 'smoothly', line: 'evenly', hold: 'at once' } as const;

const FINE = { step: 0.01 } as const;
const RATE = plainNumber('Rate', 'Fastest of it', 'Hz', { ...FINE, default: 1, min: 0.01, max: 24 });
const JUMPS = plainNumber('Rate', 'Jumps a second; 0 is on each picture', 'Hz', { ...FINE, max: 60 });
const LOOP = plainNumber('Loop', 'Begins again after so long; 0 never', 's', { ...FINE, max: 600 });
const DELAY = plainNumber('Delay', 'It comes so much later', 's', { ...FINE, max: 10 });
const DECAY = plainNumber('Decay', 'How long what happens is still felt', 's', { ...FINE, default: 0.3, max: 10 });

interface Props {
  at: UseAt;
  settingKey: string;
  setting: Moving;
  value: Value;
  motion: Motion | undefined;
  source: Source;
}

/** How a setting moves: the kind, its numbers, and the setting drawn over the shot. */
export function MotionPanel({ at, settingKey, setting, value, motion, source }: Props) {
  const look = useDocument((s) => s.look);
  const frame = usePlayback((s) => s.frame);
  const [chosen, setChosen] = useState<number | null>(null);
  const trace = useTrace(source, look, at, settingKey);
  const targets = useMemo(() => followable(look, at.life, at.index, settingKey), [look, at, settingKey]);
  const set = (next: Motion | undefined): void => changeLook(changeMotion(useDocument.getState().look, at, settingKey, next));
  const kind = motion?.motion ?? 'steady';
  const seconds = frame / source.rate;
  const keys = motion?.motion === 'keys' ? motion.keys : NO_KEYS;
  const choose = (next: (typeof KINDS)[number]): void => {
    setChosen(null);
    if (next === kind) return;
    const { shotId, look: now } = useDocument.getState();
    const name = `${shotId} ${at.life} ${at.index} ${traitUseAt(now, at)?.trait} ${settingKey}`;
    tried.leave(name, motion);
    set(next === 'steady' ? undefined : (tried.comeBack(name, next) ?? begun(next, setting, value, seconds, targets[0]?.name)));
  };
  const setKeys = (next: Key[] | undefined): void => {
    if (motion?.motion === 'keys') set(next && { ...motion, keys: next });
  };
  const add = (when: number, keyValue: KeyValue): void => {
    const held = motion?.motion === 'keys' ? motion : undefined;
    const next = withKey(held?.keys ?? [], when, keyValue);
    set({ ...held, motion: 'keys', keys: next });
    setChosen(next.findIndex((key) => Math.abs(key.at - when) < 0.002));
  };
  return (
    <section aria-label={`Motion of ${setting.name}`} className="mb-2 border-l-2 border-oxide bg-tin py-2 pr-1.5 pl-2">
      <div className="mb-1.5 flex gap-1" role="radiogroup" aria-label="Kind of motion">
        {KINDS.map((k) => (
          <button
            key={k}
            type="button"
            role="radio"
            aria-checked={k === kind}
            disabled={k === 'follow' && targets.length === 0}
            title={k === 'follow' && targets.length === 0 ? 'There is nothing in this look to follow' : undefined}
            onClick={() => choose(k)}
            className={clsx(
              'flex flex-1 flex-col items-center rounded-sm border py-0.5 text-[12px] disabled:opacity-45',
              k === kind ? 'border-oxide bg-oxide text-oxide-ink' : 'border-rule bg-well',
            )}
          >
            <MotionLine kind={k} />
            {MOTION_NAMES[k]}
          </button>
        ))}
      </div>
      <MotionCurve
        name={setting.name}
        setting={setting}
        base={value}
        trace={trace}
        frames={source.frames}
        frame={frame}
        rate={source.rate}
        keys={keys}
        chosen={chosen}
        onChoose={setChosen}
        onSeek={(n) => goTo(source, n)}
        onKey={(i, more) => setKeys(changedKey(keys, i, more))}
        onAdd={add}
        onRemove={(i) => {
          setChosen(null);
          setKeys(withoutKey(keys, i));
        }}
      />
      {motion?.motion === 'wander' && <Speeds setting={setting} motion={motion} onChange={set} />}
      {motion?.motion === 'jump' && (
        <>
          <NumberRow setting={amountOf(setting)} value={motion.amount} onChange={(v) => set({ ...motion, amount: v ?? 0 })} />
          <NumberRow setting={JUMPS} value={motion.rate ?? 0} onChange={(v) => set({ ...motion, rate: v || undefined })} />
          <ChoiceField
            label="Spread"
            value={motion.spread ?? 'bell'}
            options={{ bell: 'most near the middle', even: 'all as often' }}
            onChange={(spread) => set({ ...motion, spread })}
          />
        </>
      )}
      {motion?.motion === 'keys' && (
        <Keys
          setting={setting}
          motion={motion}
          chosen={chosen}
          onChange={setKeys}
          onLoop={(loop) => set({ ...motion, loop })}
          onHere={() => add(seconds, keyedNow(trace, frame, value))}
        />
      )}
      {motion?.motion === 'follow' && (
        <>
          <ChoiceField
            label="Follows"
            value={motion.of}
            options={Object.fromEntries(targets.map(({ name, use }) => [name, `${use.name ?? traitById(use.trait)!.name}${name.includes(':') ? `, ${name.split(':')[1]}` : ''}`]))}
            onChange={(of) => set({ ...motion, of })}
          />
          <NumberRow setting={gainOf(setting)} value={motion.gain} onChange={(v) => set({ ...motion, gain: v ?? 0 })} />
          <NumberRow setting={DELAY} value={motion.delay ?? 0} onChange={(v) => set({ ...motion, delay: v || undefined })} />
          <NumberRow setting={DECAY} value={motion.decay ?? 0} onChange={(v) => set({ ...motion, decay: v || undefined })} />
        </>
      )}
    </section>
  );
}

/** What a setting is at the picture that is seen, as it was traced. */
function keyedNow(trace: ReturnType<typeof useTrace>, frame: number, base: Value): KeyValue {
  if (!trace) return base as KeyValue;
  const nearest = trace.pictures.reduce((best, n, i) => (Math.abs(n - frame) < Math.abs(trace.pictures[best]! - frame) ? i : best), 0);
  const values = trace.rows.map((row) => Math.round(row[nearest]! * 1e4) / 1e4);
  return values.length === 1 ? values[0]! : (values as unknown as KeyValue);
}

const amountOf = (setting: Moving): NumberSetting =>
  plainNumber('Swing', 'How far it moves: RMS, or the most where all are as often', setting.kind === 'number' ? setting.sign : '', {
    max: mostAmount(setting),
    step: setting.kind === 'number' ? setting.step : 0.01,
  });
const gainOf = (setting: Moving): NumberSetting => ({ ...amountOf(setting), name: 'Gain', says: 'What is added where the other is fully at it', min: -mostAmount(setting) });

function Speeds({ setting, motion, onChange }: { setting: Moving; motion: Extract<Motion, { motion: 'wander' }>; onChange: (next: Motion) => void }) {
  const put = (i: number, more: Partial<{ amount: number; rate: number }>): void => onChange({ ...motion, speeds: motion.speeds.map((s, k) => (k === i ? { ...s, ...more } : s)) });
  return (
    <>
      {motion.speeds.map((speed, i) => (
        <div key={i} className={clsx(i > 0 && 'mt-1 border-t border-rule pt-1')}>
          <NumberRow setting={amountOf(setting)} value={speed.amount} onChange={(v) => put(i, { amount: v ?? 0 })} />
          <NumberRow setting={RATE} value={speed.rate} onChange={(v) => put(i, { rate: v ?? RATE.default })} />
        </div>
      ))}
      <div className="mt-1 flex gap-2">
        {motion.speeds.length < MOST_SPEEDS && (
          <Button
            onClick={() => onChange({ ...motion, speeds: [...motion.speeds, { amount: motion.speeds.at(-1)!.amount / 2, rate: Math.min(24, motion.speeds.at(-1)!.rate * 4) }] })}
          >
            A faster one on it
          </Button>
        )}
        {motion.speeds.length > 1 && <Button onClick={() => onChange({ ...motion, speeds: motion.speeds.slice(0, -1) })}>Without the last</Button>}
      </div>
    </>
  );
}

interface KeysProps {
  setting: Moving;
  motion: Extract<Motion, { motion: 'keys' }>;
  chosen: number | null;
  onChange: (keys: Key[] | undefined) => void;
  onLoop: (loop: number | undefined) => void;
  onHere: () => void;
}

function Keys({ setting, motion, chosen, onChange, onLoop, onHere }: KeysProps) {
  const key = chosen === null ? undefined : motion.keys[chosen];
  return (
    <>
      {!key && <p className="mt-1 text-[13px] text-faint">Double-click sets a key; drag it, or click it for its numbers.</p>}
      {key && (
        <>
          <NumberRow
            setting={plainNumber('At', 'Moment of the key', 's', { ...FINE, max: 3600 })}
            value={key.at}
            onChange={(v) => onChange(changedKey(motion.keys, chosen!, { at: v ?? key.at }))}
          />
          {setting.kind === 'number' && typeof key.value === 'number' && (
            <NumberRow setting={{ ...setting, name: 'Value' }} value={key.value} onChange={(v) => onChange(changedKey(motion.keys, chosen!, { value: v ?? setting.default }))} />
          )}
          {setting.kind === 'colour' && typeof key.value !== 'number' && (
            <ColourRow setting={{ ...setting, name: 'Value' }} value={key.value} onChange={(v) => onChange(changedKey(motion.keys, chosen!, { value: v ?? setting.default }))} />
          )}
          <ChoiceField label="Goes on" value={key.ease ?? 'smooth'} options={EASES} onChange={(ease) => onChange(changedKey(motion.keys, chosen!, { ease }))} />
        </>
      )}
      <NumberRow setting={LOOP} value={motion.loop ?? 0} onChange={(v) => onLoop(v || undefined)} />
      <div className="mt-1 flex gap-2">
        <Button onClick={onHere}>Key here</Button>
        {key && (
          <Button onClick={() => onChange(withoutKey(motion.keys, chosen!))} aria-label="Take this key away" title="Delete">
            <Trash2 size={14} />
          </Button>
        )}
      </div>
    </>
  );
}
