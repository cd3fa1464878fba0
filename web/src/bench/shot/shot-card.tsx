import { useId } from 'react';
import clsx from 'clsx';
import type { Medium } from '@tin-ghost/contract';
import {
  BETWEEN,
  framingAt,
  INPUT_CURVES,
  INPUT_PRIMARIES,
  preparedSize,
  SHAPES,
  turnedSize,
  WHOLE,
  type Between,
  type InputCurve,
  type InputPrimaries,
  type NumberSetting,
  type Preparation,
} from '@tin-ghost/core';
import { Button } from '../../parts/button';
import { NumberField } from '../../parts/number-field';
import { plainNumber } from '../../parts/plain-number';
import type { Source } from '../../render/protocol';
import { changeFraming, keyed } from '../state/framing';
import { type Guide, GUIDES, toggleGuide, useGuides } from '../state/guides';
import { NumberRow } from '../card/setting-row';
import { IN, OUT } from '../keys/actions';
import { useWithKeys } from '../keys/actions-context';
import { changePreparation, onGesture, useDocument } from '../state/document';
import { TableField } from '../card/table-field';
import { toggleFraming, useSession } from '../state/session';
import { goTo, usePlayback } from '../state/playback';
import { changeTrim, trimHere } from '../state/trim';

const number = (name: string, says: string, rest: number, min: number, max: number, step: number, sign = ''): NumberSetting =>
  plainNumber(name, says, sign, { default: rest, min, max, step });
const SPEED = number('Speed', 'How fast the footage runs; 100 as it was shot', 100, 25, 400, 1, '%');
const ACROSS = number('Across', 'Middle of the part that is shown', 50, -100, 200, 0.1, '% W');
const DOWN = number('Down', 'Middle of the part that is shown', 50, -100, 200, 0.1, '% H');
const SCALE = number('Scale', 'How large the footage lies behind its mask', 100, 10, 2000, 1, '%');
const TURN = number('Straighten', 'Turns the footage clockwise', 0, -45, 45, 0.1, '°');
const OWN = number('Own', 'Width over height', 1.778, 0.2, 5, 0.01);
const BETWEEN_NAMES: Record<Between, string> = { repeat: 'repeated', blend: 'blended', motion: 'made by motion' };

const row = 'flex min-h-7 items-center gap-2';
const name = 'w-[92px] shrink-0';
const select = 'min-w-0 flex-1 rounded-sm border border-rule bg-well px-1 py-0.5';

/** What is done to the footage before its look. */
export function ShotCard({ medium, source }: { medium: Medium; source: Source }) {
  const preparation = useDocument((s) => s.preparation);
  const { frames } = medium.footage!;
  const set = changePreparation;
  return (
    <section aria-label="Card of the shot" className="px-3.5 py-3">
      <h2 className="text-[20px] font-semibold">The shot</h2>
      <p className="mt-1 mb-2 text-faint">Before its look: which part of the footage is taken, how fast it runs, and what its values mean.</p>
      <Time preparation={preparation} frames={frames} set={set} source={source} />
      <Values preparation={preparation} set={set} />
      <Shape preparation={preparation} medium={medium} set={set} />
      <FramingRows preparation={preparation} source={source} medium={medium} />
      <div className="mt-3 border-t border-rule pt-3">
        <Button onClick={() => set(Object.fromEntries(Object.keys(preparation).map((key) => [key, undefined])))} disabled={Object.keys(preparation).length === 0}>
          As it was shot
        </Button>
      </div>
    </section>
  );
}

type Set = (more: Partial<Preparation>) => void;

function Time({ preparation, frames, set, source }: { preparation: Preparation; frames: number; set: Set; source: Source }) {
  const withKeys = useWithKeys();
  const trim = preparation.trim ?? { from: 0, to: frames };
  const speed = preparation.speed ?? 1;
  const put = (from: number, to: number): void => changeTrim(frames, from, to);
  const picture = (label: string, value: number, low: number, high: number, onChange: (v: number) => void) => (
    <NumberField setting={number(label, '', value, low, high, 1)} value={value} label={label} onChange={(v) => onChange(Math.round(v))} onGesture={onGesture} />
  );
  return (
    <>
      <h3 className="label mt-3 mb-1">Time</h3>
      <div className={row}>
        <span className={name}>Taken from</span>
        {picture('First picture of the footage', trim.from + 1, 1, trim.to, (v) => put(v - 1, trim.to))}
        <Button kind="bare" title={withKeys('Begin with the frame that is seen', IN)} onClick={() => trimHere(frames, 'in')}>
          from here
        </Button>
      </div>
      <div className={row}>
        <span className={name}>to</span>
        {picture('Last picture of the footage', trim.to, trim.from + 1, frames, (v) => put(trim.from, v))}
        <Button kind="bare" title={withKeys('End with the frame that is seen', OUT)} onClick={() => trimHere(frames, 'out')}>
          to here
        </Button>
      </div>
      <NumberRow setting={SPEED} value={Math.round(speed * 1e4) / 100} onChange={(v) => set({ speed: v === undefined || v === 100 ? undefined : v / 100 })} />
      <label className={row}>
        <span className={name}>Between</span>
        <select
          aria-label="Frames between those of the footage"
          className={select}
          value={preparation.between ?? 'repeat'}
          onChange={(e) => set({ between: e.currentTarget.value === 'repeat' ? undefined : (e.currentTarget.value as Between) })}
        >
          {BETWEEN.map((b) => (
            <option key={b} value={b}>
              {BETWEEN_NAMES[b]}
            </option>
          ))}
        </select>
      </label>
      <p className="mono text-faint">
        {source.frames} frames, {(source.frames / source.rate).toFixed(2)} s
      </p>
    </>
  );
}

function Values({ preparation, set }: { preparation: Preparation; set: Set }) {
  const curve = preparation.curve ?? 'display';
  const usual = INPUT_CURVES[curve].primaries;
  return (
    <>
      <h3 className="label mt-3 mb-1">What its values mean</h3>
      <label className={row}>
        <span className={name}>Curve</span>
        <select
          aria-label="Curve of the footage"
          className={select}
          value={preparation.table ? '' : curve}
          onChange={(e) => set({ curve: e.currentTarget.value === 'display' ? undefined : (e.currentTarget.value as InputCurve), primaries: undefined, table: undefined })}
        >
          {preparation.table && <option value="">by a table</option>}
          {Object.entries(INPUT_CURVES).map(([id, c]) => (
            <option key={id} value={id}>
              {c.name}
            </option>
          ))}
        </select>
      </label>
      {!preparation.table && (
        <label className={row}>
          <span className={name}>Primaries</span>
          <select
            aria-label="Primaries of the footage"
            className={select}
            value={preparation.primaries ?? usual}
            onChange={(e) => set({ primaries: e.currentTarget.value === usual ? undefined : (e.currentTarget.value as InputPrimaries) })}
          >
            {Object.entries(INPUT_PRIMARIES).map(([id, p]) => (
              <option key={id} value={id}>
                {p.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <TableField label="Table of the footage" value={preparation.table ?? ''} onChange={(id) => set({ table: id || undefined, curve: undefined, primaries: undefined })} />
    </>
  );
}

function Shape({ preparation, medium, set }: { preparation: Preparation; medium: Medium; set: Set }) {
  const footage = turnedSize(medium.footage!, preparation);
  const own = footage.width / footage.height;
  const shape = preparation.shape ?? own;
  const size = preparedSize(medium.footage!, preparation);
  const is = (v: number): boolean => Math.abs(shape - v) < 1e-3;
  const choice = (label: string, on: boolean, value: number | undefined) => (
    <button
      key={label}
      type="button"
      aria-pressed={on}
      onClick={() => set({ shape: value })}
      className={clsx('mono flex flex-col items-center gap-1 rounded-sm border px-1.5 py-1', on ? 'border-oxide text-oxide' : 'border-rule hover:bg-well')}
    >
      <span className="block border border-current" style={{ height: 14, width: 14 * (value ?? own) }} />
      {label}
    </button>
  );
  return (
    <>
      <h3 className="label mt-3 mb-1">Shape</h3>
      <div className="flex flex-wrap gap-1" role="group" aria-label="Shape of the picture">
        {choice('as shot', preparation.shape === undefined, undefined)}
        {SHAPES.map((s) => choice(s.name, preparation.shape !== undefined && is(s.shape), s.shape))}
      </div>
      <div className={clsx(row, 'mt-1')}>
        <span className={name}>Own</span>
        <NumberField setting={OWN} value={Math.round(shape * 1000) / 1000} label="Own shape, width over height" onChange={(v) => set({ shape: v })} onGesture={onGesture} />
        <span className="mono text-[11px] whitespace-nowrap text-faint">
          {size.width} × {size.height}
        </span>
      </div>
    </>
  );
}

function FramingRows({ preparation, source, medium }: { preparation: Preparation; source: Source; medium: Medium }) {
  const frame = usePlayback((s) => s.frame);
  const framing = useSession((s) => s.framing);
  const guides = useGuides();
  const seconds = frame / source.rate;
  const now = framingAt(preparation, seconds);
  const moves = preparation.moves ?? [];
  const id = useId();
  const percent = (v: number): number => Math.round(v * 1e4) / 100;
  const toggle = (label: string, on: boolean, onChange: (on: boolean) => void) => (
    <label className="flex items-center gap-1.5">
      <input type="checkbox" className="h-4 w-4 accent-oxide" checked={on} onChange={(e) => onChange(e.currentTarget.checked)} /> {label}
    </label>
  );
  const hold = (): void => changePreparation({ moves: keyed(moves, { at: seconds, ...now }), framing: undefined });
  return (
    <>
      <h3 className="label mt-3 mb-1">Framing</h3>
      <div className={row}>
        <Button aria-pressed={framing} onClick={() => toggleFraming()}>
          Frame on the picture
        </Button>
      </div>
      {framing && (
        <div className="flex flex-wrap gap-x-3 py-1" role="group" aria-label="Guides">
          {(Object.keys(GUIDES) as Guide[]).map((g) => (
            <span key={g}>{toggle(GUIDES[g], guides[g], () => toggleGuide(g))}</span>
          ))}
        </div>
      )}
      <NumberRow setting={ACROSS} value={percent(now.x)} onChange={(v) => changeFraming({ ...now, x: (v ?? 50) / 100 }, seconds)} />
      <NumberRow setting={DOWN} value={percent(now.y)} onChange={(v) => changeFraming({ ...now, y: (v ?? 50) / 100 }, seconds)} />
      <NumberRow setting={SCALE} value={percent(now.scale)} onChange={(v) => changeFraming({ ...now, scale: (v ?? 100) / 100 }, seconds)} />
      <NumberRow setting={TURN} value={Math.round(now.turn * 100) / 100} onChange={(v) => changeFraming({ ...now, turn: v ?? WHOLE.turn }, seconds)} />
      <div className="flex flex-wrap gap-x-3 gap-y-1 py-1">
        {toggle('mirrored', preparation.mirror === true, (on) => changePreparation({ mirror: on || undefined }))}
        {toggle('past the edge', preparation.beyond === true, (on) => changePreparation({ beyond: on || undefined }))}
      </div>
      <div className={row}>
        <span className={name} id={id}>
          Turned
        </span>
        <span className="flex" role="group" aria-labelledby={id}>
          {([0, 1, 2, 3] as const).map((q) => (
            <button
              key={q}
              type="button"
              aria-pressed={(preparation.quarter ?? 0) === q}
              onClick={() => changePreparation({ quarter: q === 0 ? undefined : q })}
              className={clsx('mono border px-2 py-0.5', (preparation.quarter ?? 0) === q ? 'border-oxide text-oxide' : 'border-rule')}
            >
              {q * 90}°
            </button>
          ))}
        </span>
      </div>
      <div className={row}>
        <Button onClick={hold} title="Holds this framing at this moment; the framing moves from one to the next">
          {moves.length ? 'Hold here' : 'Let it move'}
        </Button>
        {moves.length > 0 && (
          <Button kind="bare" onClick={() => changePreparation({ moves: undefined, framing: now })}>
            stand still
          </Button>
        )}
      </div>
      {moves.length > 0 && (
        <ol className="mono mt-1 text-[12px]" aria-label="Moments of the framing">
          {moves.map((m) => (
            <li key={m.at} className="flex items-center gap-2">
              <button type="button" className="hover:text-oxide" onClick={() => goTo(source, Math.round(m.at * source.rate))}>
                {m.at.toFixed(2)} s
              </button>
              <span className="flex-1 text-faint">
                {percent(m.x)} {percent(m.y)} {percent(m.scale)} %
              </span>
              <button
                type="button"
                aria-label={`Take away the moment at ${m.at.toFixed(2)} s`}
                onClick={() => changePreparation({ moves: moves.length > 1 ? moves.filter((k) => k !== m) : undefined })}
              >
                ×
              </button>
            </li>
          ))}
        </ol>
      )}
      <p className="mono text-[11px] text-faint">
        of {medium.footage!.width} × {medium.footage!.height}
      </p>
    </>
  );
}
