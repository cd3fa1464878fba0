import { useMemo } from 'react';
import clsx from 'clsx';
import { toast } from 'sonner';
import { Trash2 } from 'lucide-react';
import { followable, traitById, type Key, type Motion, type NumberSetting, type Value } from '@tin-ghost/core';
import { Button } from '../../parts/button';
import { plainNumber } from '../../parts/plain-number';
import type { Source } from '../../render/protocol';
import { copyMotion, useClipboard } from '../state/clipboard';
import { traitUseAt, type UseAt } from '../state/look-edits';
import { begun, changedKey, mostAmount, TriedMotions, type KeyValue, type Moving } from '../state/motion-edits';
import { addKey, editKeys, removeKey, setMotion } from '../state/moving';
import { chooseKey, useSession } from '../state/session';
import { MOTION_NAMES, MotionLine } from './motion-sign';
import { ChoiceField, ColourRow, NumberRow } from './setting-row';
import { useDocument } from '../state/document';
import { usePlayback } from '../state/playback';
import { valueAt } from '../strip/use-trace';
import { texts } from '../../messages/card';

const KINDS = ['steady', 'wander', 'jump', 'keys', 'follow'] as const;
const MOST_SPEEDS = 3;
const tried = new TriedMotions();
const EASES = { smooth: texts.smooth, line: texts.linear, hold: texts.hold } as const;

const FINE = { step: 0.01 } as const;
const RATE = plainNumber(texts.rate, texts.fastestOfIt, texts.hz, { ...FINE, default: 1, min: 0.01, max: 24 });
const JUMPS = plainNumber(texts.rate, texts.jumpsSecond0, texts.hz, { ...FINE, max: 60 });
const LOOP = plainNumber(texts.loop, texts.beginsAgainAfterSoLong, 's', { ...FINE, max: 600 });
const DELAY = plainNumber(texts.delay, texts.itComesSoMuchLater, 's', { ...FINE, max: 10 });
const DECAY = plainNumber(texts.decay, texts.howLongWhatHappens, 's', { ...FINE, default: 0.3, max: 10 });

interface Props {
  at: UseAt;
  settingKey: string;
  setting: Moving;
  value: Value;
  /** What it is at the frame that is seen, as far as keys say. */
  shown: Value;
  motion: Motion | undefined;
  source: Source;
}

/** How a setting moves: the kind and its numbers. Over the shot it is drawn on the strip. */
export function MotionPanel({ at, settingKey, setting, value, shown, motion, source }: Props) {
  const look = useDocument((s) => s.look);
  const chosen = useSession((s) => s.key);
  const copied = useClipboard((c) => c.motion);
  const targets = useMemo(() => followable(look, at.life, at.index, settingKey), [look, at, settingKey]);
  const set = (next: Motion | undefined): void => setMotion(at, settingKey, next);
  const kind = motion?.motion ?? 'steady';
  const choose = (next: (typeof KINDS)[number]): void => {
    chooseKey(null);
    if (next === kind) return;
    const { shotId, look: now } = useDocument.getState();
    const name = `${shotId} ${at.life} ${at.index} ${traitUseAt(now, at)?.trait} ${settingKey}`;
    tried.leave(name, motion);
    set(next === 'steady' ? undefined : (tried.comeBack(name, next) ?? begun(next, setting, value, usePlayback.getState().frame / source.rate, targets[0]?.name)));
  };
  /** A key at the frame that is seen, of what the setting is there. */
  const keyHere = (): void => {
    const { frame } = usePlayback.getState();
    const set = (keyValue: KeyValue): void => addKey(at, settingKey, frame / source.rate, keyValue);
    if (!motion || motion.motion === 'keys') return set(shown as KeyValue);
    // What moves by itself is asked of the engine; meanwhile a hand may have done something else.
    void valueAt(source, look, at, settingKey, frame).then(
      (values) => traitUseAt(useDocument.getState().look, at)?.motions?.[settingKey] === motion && set(values.length === 1 ? values[0]! : (values as unknown as KeyValue)),
      (error: Error) => toast.error(texts.noKeyWasSet(error.message)),
    );
  };
  return (
    <section aria-label={texts.motionOfName(setting.name)} className="mb-2 border-l-2 border-oxide bg-tin py-2 pr-1.5 pl-2">
      <div className="mb-1.5 flex gap-1" role="radiogroup" aria-label={texts.kindOfMotion}>
        {KINDS.map((k) => (
          <button
            key={k}
            type="button"
            role="radio"
            aria-checked={k === kind}
            disabled={k === 'follow' && targets.length === 0}
            title={k === 'follow' && targets.length === 0 ? texts.thereIsNothingInThis : undefined}
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
      {motion?.motion === 'wander' && <Speeds setting={setting} motion={motion} onChange={set} />}
      {motion?.motion === 'jump' && (
        <>
          <NumberRow setting={amountOf(setting)} value={motion.amount} onChange={(v) => set({ ...motion, amount: v ?? 0 })} />
          <NumberRow setting={JUMPS} value={motion.rate ?? 0} onChange={(v) => set({ ...motion, rate: v || undefined })} />
          <ChoiceField
            label={texts.spread}
            value={motion.spread ?? 'bell'}
            options={{ bell: texts.mostNearMiddle, even: texts.allAsOften }}
            onChange={(spread) => set({ ...motion, spread })}
          />
        </>
      )}
      {motion?.motion === 'keys' && (
        <Keys
          setting={setting}
          motion={motion}
          chosen={chosen}
          onChange={(edit) => editKeys(at, settingKey, edit)}
          onRemove={(i) => removeKey(at, settingKey, i)}
          onLoop={(loop) => set({ ...motion, loop })}
          onHere={keyHere}
        />
      )}
      {motion?.motion === 'follow' && (
        <>
          <ChoiceField
            label={texts.follows}
            value={motion.of}
            options={Object.fromEntries(targets.map(({ name, use }) => [name, `${use.name ?? traitById(use.trait)!.name}${name.includes(':') ? `, ${name.split(':')[1]}` : ''}`]))}
            onChange={(of) => set({ ...motion, of })}
          />
          <NumberRow setting={gainOf(setting)} value={motion.gain} onChange={(v) => set({ ...motion, gain: v ?? 0 })} />
          <NumberRow setting={DELAY} value={motion.delay ?? 0} onChange={(v) => set({ ...motion, delay: v || undefined })} />
          <NumberRow setting={DECAY} value={motion.decay ?? 0} onChange={(v) => set({ ...motion, decay: v || undefined })} />
        </>
      )}
      <div className="mt-1.5 flex gap-3 text-[13px]">
        <button type="button" className="underline disabled:opacity-45" disabled={!motion} onClick={() => motion && copyMotion(setting.kind, motion)}>
          {texts.copyMotion}
        </button>
        <button type="button" className="underline disabled:opacity-45" disabled={copied?.kind !== setting.kind} onClick={() => copied && set(copied.motion)}>
          {texts.pasteMotion}
        </button>
      </div>
    </section>
  );
}

const amountOf = (setting: Moving): NumberSetting =>
  plainNumber(texts.swing, texts.howFarItMovesRms, setting.kind === 'number' ? setting.sign : '', {
    max: mostAmount(setting),
    step: setting.kind === 'number' ? setting.step : 0.01,
  });
const gainOf = (setting: Moving): NumberSetting => ({ ...amountOf(setting), name: texts.gain, says: texts.whatIsAddedWhereOther, min: -mostAmount(setting) });

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
            {texts.addFasterOne}
          </Button>
        )}
        {motion.speeds.length > 1 && <Button onClick={() => onChange({ ...motion, speeds: motion.speeds.slice(0, -1) })}>{texts.removeLast}</Button>}
      </div>
    </>
  );
}

interface KeysProps {
  setting: Moving;
  motion: Extract<Motion, { motion: 'keys' }>;
  chosen: number | null;
  onChange: (edit: (keys: readonly Key[]) => Key[]) => void;
  onRemove: (i: number) => void;
  onLoop: (loop: number | undefined) => void;
  onHere: () => void;
}

function Keys({ setting, motion, chosen, onChange, onRemove, onLoop, onHere }: KeysProps) {
  const key = chosen === null ? undefined : motion.keys[chosen];
  return (
    <>
      {!key && <p className="mt-1 text-[13px] text-faint">{texts.onStripDoubleClickSets}</p>}
      {key && (
        <>
          <NumberRow
            setting={plainNumber(texts.at, texts.momentOfKey, 's', { ...FINE, max: 3600 })}
            value={key.at}
            onChange={(v) => onChange((keys) => changedKey(keys, chosen!, { at: v ?? key.at }))}
          />
          {setting.kind === 'number' && typeof key.value === 'number' && (
            <NumberRow
              setting={{ ...setting, name: texts.value }}
              value={key.value}
              onChange={(v) => onChange((keys) => changedKey(keys, chosen!, { value: v ?? setting.default }))}
            />
          )}
          {setting.kind === 'colour' && typeof key.value !== 'number' && (
            <ColourRow
              setting={{ ...setting, name: texts.value }}
              value={key.value}
              onChange={(v) => onChange((keys) => changedKey(keys, chosen!, { value: v ?? setting.default }))}
            />
          )}
          <ChoiceField label={texts.interpolation} value={key.ease ?? 'smooth'} options={EASES} onChange={(ease) => onChange((keys) => changedKey(keys, chosen!, { ease }))} />
        </>
      )}
      <NumberRow setting={LOOP} value={motion.loop ?? 0} onChange={(v) => onLoop(v || undefined)} />
      <div className="mt-1 flex gap-2">
        <Button onClick={onHere}>{texts.keyHere}</Button>
        {key && (
          <Button onClick={() => onRemove(chosen!)} aria-label={texts.removeThisKey} title={texts.deleteKey}>
            <Trash2 size={14} />
          </Button>
        )}
      </div>
    </>
  );
}
