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
import { useWithKeys } from '../keys/actions-context';
import { changePreparation, onGesture, useDocument } from '../state/document';
import { TableField } from '../card/table-field';
import { toggleFraming, useSession } from '../state/session';
import { goTo, usePlayback } from '../state/playback';
import { changeTrim, trimHere } from '../state/trim';
import { actionNames } from '../../messages/actions';
import { texts } from '../../messages/shot';

const number = (name: string, says: string, rest: number, min: number, max: number, step: number, sign = ''): NumberSetting =>
  plainNumber(name, says, sign, { default: rest, min, max, step });
const SPEED = number(texts.speed, texts.howFastFootageRuns100, 100, 25, 400, 1, '%');
const ACROSS = number(texts.across, texts.middleOfPartThatIsShown, 50, -100, 200, 0.1, '% W');
const DOWN = number(texts.down, texts.middleOfPartThatIsShown, 50, -100, 200, 0.1, '% H');
const SCALE = number(texts.scale, texts.howLargeFootageLiesBehind, 100, 10, 2000, 1, '%');
const TURN = number(texts.straighten, texts.turnsFootageClockwise, 0, -45, 45, 0.1, '°');
const OWN = number(texts.own, texts.widthOverHeight, 1.778, 0.2, 5, 0.01);
const BETWEEN_NAMES: Record<Between, string> = { repeat: texts.repeated, blend: texts.blended, motion: texts.madeByMotion };

const row = 'flex min-h-7 items-center gap-2';
const name = 'w-[92px] shrink-0';
const select = 'min-w-0 flex-1 rounded-sm border border-rule bg-well px-1 py-0.5';

/** What is done to the footage before its look. */
export function ShotCard({ medium, source }: { medium: Medium; source: Source }) {
  const preparation = useDocument((s) => s.preparation);
  const { frames } = medium.footage!;
  const set = changePreparation;
  return (
    <section aria-label={texts.cardOfShot} className="px-3.5 py-3">
      <h2 className="text-[20px] font-semibold">{texts.theShot}</h2>
      <p className="mt-1 mb-2 text-faint">{texts.beforeItsLookWhichPart}</p>
      <Time preparation={preparation} frames={frames} set={set} source={source} />
      <Values preparation={preparation} set={set} />
      <Shape preparation={preparation} medium={medium} set={set} />
      <FramingRows preparation={preparation} source={source} medium={medium} />
      <div className="mt-3 border-t border-rule pt-3">
        <Button onClick={() => set(Object.fromEntries(Object.keys(preparation).map((key) => [key, undefined])))} disabled={Object.keys(preparation).length === 0}>
          {texts.asItWasShot}
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
      <h3 className="label mt-3 mb-1">{texts.time}</h3>
      <div className={row}>
        <span className={name}>{texts.takenFrom}</span>
        {picture(texts.firstPictureOfFootage, trim.from + 1, 1, trim.to, (v) => put(v - 1, trim.to))}
        <Button kind="bare" title={withKeys(texts.beginWithFrameThatIsSeen, actionNames.beginShotHere)} onClick={() => trimHere(frames, 'in')}>
          {texts.fromHere}
        </Button>
      </div>
      <div className={row}>
        <span className={name}>{texts.to}</span>
        {picture(texts.lastPictureOfFootage, trim.to, trim.from + 1, frames, (v) => put(trim.from, v))}
        <Button kind="bare" title={withKeys(texts.endWithFrameThatIsSeen, actionNames.endShotHere)} onClick={() => trimHere(frames, 'out')}>
          {texts.toHere}
        </Button>
      </div>
      <NumberRow setting={SPEED} value={Math.round(speed * 1e4) / 100} onChange={(v) => set({ speed: v === undefined || v === 100 ? undefined : v / 100 })} />
      <label className={row}>
        <span className={name}>{texts.between}</span>
        <select
          aria-label={texts.framesBetweenThoseOfFootage}
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
      <p className="mono text-faint">{texts.framesAndSeconds(source.frames, (source.frames / source.rate).toFixed(2))}</p>
    </>
  );
}

function Values({ preparation, set }: { preparation: Preparation; set: Set }) {
  const curve = preparation.curve ?? 'display';
  const usual = INPUT_CURVES[curve].primaries;
  return (
    <>
      <h3 className="label mt-3 mb-1">{texts.whatItsValuesMean}</h3>
      <label className={row}>
        <span className={name}>{texts.curve}</span>
        <select
          aria-label={texts.curveOfFootage}
          className={select}
          value={preparation.table ? '' : curve}
          onChange={(e) => set({ curve: e.currentTarget.value === 'display' ? undefined : (e.currentTarget.value as InputCurve), primaries: undefined, table: undefined })}
        >
          {preparation.table && <option value="">{texts.byTable}</option>}
          {Object.entries(INPUT_CURVES).map(([id, c]) => (
            <option key={id} value={id}>
              {c.name}
            </option>
          ))}
        </select>
      </label>
      {!preparation.table && (
        <label className={row}>
          <span className={name}>{texts.primaries}</span>
          <select
            aria-label={texts.primariesOfFootage}
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
      <TableField label={texts.tableOfFootage} value={preparation.table ?? ''} onChange={(id) => set({ table: id || undefined, curve: undefined, primaries: undefined })} />
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
      <h3 className="label mt-3 mb-1">{texts.shape}</h3>
      <div className="flex flex-wrap gap-1" role="group" aria-label={texts.shapeOfPicture}>
        {choice(texts.asShot, preparation.shape === undefined, undefined)}
        {SHAPES.map((s) => choice(s.name, preparation.shape !== undefined && is(s.shape), s.shape))}
      </div>
      <div className={clsx(row, 'mt-1')}>
        <span className={name}>{texts.own}</span>
        <NumberField setting={OWN} value={Math.round(shape * 1000) / 1000} label={texts.ownShapeWidthOverHeight} onChange={(v) => set({ shape: v })} onGesture={onGesture} />
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
      <h3 className="label mt-3 mb-1">{texts.framing}</h3>
      <div className={row}>
        <Button aria-pressed={framing} onClick={() => toggleFraming()}>
          {texts.frameOnPicture}
        </Button>
      </div>
      {framing && (
        <div className="flex flex-wrap gap-x-3 py-1" role="group" aria-label={texts.guides}>
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
        {toggle(texts.mirrored, preparation.mirror === true, (on) => changePreparation({ mirror: on || undefined }))}
        {toggle(texts.pastEdge, preparation.beyond === true, (on) => changePreparation({ beyond: on || undefined }))}
      </div>
      <div className={row}>
        <span className={name} id={id}>
          {texts.turned}
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
        <Button onClick={hold} title={texts.holdsThisFramingAtThis}>
          {moves.length ? texts.holdHere : texts.letItMove}
        </Button>
        {moves.length > 0 && (
          <Button kind="bare" onClick={() => changePreparation({ moves: undefined, framing: now })}>
            {texts.standStill}
          </Button>
        )}
      </div>
      {moves.length > 0 && (
        <ol className="mono mt-1 text-[12px]" aria-label={texts.momentsOfFraming}>
          {moves.map((m) => (
            <li key={m.at} className="flex items-center gap-2">
              <button type="button" className="hover:text-oxide" onClick={() => goTo(source, Math.round(m.at * source.rate))}>
                {texts.atSeconds(m.at.toFixed(2))}
              </button>
              <span className="flex-1 text-faint">
                {percent(m.x)} {percent(m.y)} {percent(m.scale)} %
              </span>
              <button
                type="button"
                aria-label={texts.removeMoment(m.at.toFixed(2))}
                onClick={() => changePreparation({ moves: moves.length > 1 ? moves.filter((k) => k !== m) : undefined })}
              >
                ×
              </button>
            </li>
          ))}
        </ol>
      )}
      <p className="mono text-[11px] text-faint">{texts.ofSize(medium.footage!.width, medium.footage!.height)}</p>
    </>
  );
}
