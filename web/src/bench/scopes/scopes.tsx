import { useEffect, useRef, useState, type ReactNode } from 'react';
import { barTargets } from '@tin-ghost/core';
import { useLights } from '../../parts/top-bar';
import type { ScopeData } from '../../render/protocol';
import { REACH, ScopeDrawing, SIZES, type ScopeName } from './scope-drawing';
import { READINGS_MS, useScopes } from '../state/scope';
import { texts } from '../../messages/scopes';

const SHAPES: Record<ScopeName, number> = { Waveform: 1.6, Parade: 1.9, Vector: 1, Histogram: 3.2 };

/** Waveform, parade, vector scope and histogram of the picture, with the spread of the reference behind. */
export function Scopes() {
  const canvases = useRef<Record<ScopeName, HTMLCanvasElement | null>>({ Waveform: null, Parade: null, Vector: null, Histogram: null });
  const dark = useLights((s) => (s.down ? 1 : 0));
  const reference = useScopes((s) => s.reference);
  const measured = useScopes((s) => s.now !== null);
  const pointed = useScopes((s) => s.pointed);
  const luma = pointed ? (0.2126 * pointed.rgb[0] + 0.7152 * pointed.rgb[1] + 0.0722 * pointed.rgb[2]) / 255 : undefined;
  useEffect(() => {
    // Pictures come many times a second: they are drawn as they come, past React.
    const drawing = new ScopeDrawing();
    const draw = (now: ScopeData | null): void => {
      if (now) drawing.draw(canvases.current, now, reference, dark);
    };
    draw(useScopes.getState().now);
    return useScopes.subscribe((state, before) => state.now !== before.now && draw(state.now));
  }, [reference, dark]);
  const plot = (name: ScopeName, children?: ReactNode) => (
    <figure className="mt-2" aria-label={texts.names[name]}>
      <figcaption className="label !text-[11px]">{texts.names[name]}</figcaption>
      <div className="relative mt-0.5 border border-rule bg-well" style={{ aspectRatio: SHAPES[name] }}>
        <canvas
          ref={(canvas) => {
            canvases.current[name] = canvas;
          }}
          {...SIZES[name]}
          className="absolute inset-0 h-full w-full"
          role="img"
          aria-label={texts.ofPicture(texts.names[name])}
          data-scope={name}
        />
        {children}
      </div>
    </figure>
  );
  return (
    <aside className="w-[220px] shrink-0 overflow-y-auto border-l border-rule bg-panel px-2.5 py-2" aria-label={texts.scopes}>
      <h2 className="label">{texts.scopes}</h2>
      {!measured && <p className="mt-2 text-faint">{texts.pictureIsBeingMeasured}</p>}
      {plot('Waveform', <Scale pointed={luma} />)}
      {plot('Parade', <Scale />)}
      {plot('Vector', <Targets />)}
      {plot('Histogram')}
      <Readings />
      <p className="mono mt-2 min-h-[34px] text-[12px]" aria-label={texts.underPointer}>
        {pointed ? (
          <>
            {pointed.rgb.join(' ')}
            <br />
            {texts.luma} {percent(luma!)} %
          </>
        ) : (
          <span className="text-faint">{texts.pointAtPictureToReadIt}</span>
        )}
      </p>
    </aside>
  );
}

const percent = (v: number, digits = 1): string => (100 * v).toFixed(digits);

/** Lines at parts of full scale, and that of what is under the pointer. */
function Scale({ pointed }: { pointed?: number }) {
  return (
    <>
      {[0, 0.25, 0.5, 0.75, 1].map((t) => (
        <span key={t} className="absolute inset-x-0 h-px bg-rule/60" style={{ bottom: `${t * 100}%` }}>
          <span className="mono absolute right-0.5 -translate-y-1/2 text-[9px] text-faint">{t > 0 && t < 1 ? t * 100 : ''}</span>
        </span>
      ))}
      {pointed !== undefined && <span className="absolute inset-x-0 h-px bg-oxide" style={{ bottom: `${pointed * 100}%` }} />}
    </>
  );
}

/** Where bars at 75 % stand. */
function Targets() {
  return (
    <>
      <span className="absolute inset-y-0 left-1/2 w-px bg-rule" />
      <span className="absolute inset-x-0 top-1/2 h-px bg-rule" />
      {barTargets(0.75).map(({ name, cb, cr }) => (
        <span key={name} className="absolute" style={{ left: `${50 + (cb / REACH) * 50}%`, top: `${50 - (cr / REACH) * 50}%` }}>
          <span className="absolute -top-[5px] -left-[5px] h-[10px] w-[10px] border border-faint" />
          <span className="mono absolute top-1 left-1.5 text-[9px] text-faint">{name}</span>
        </span>
      ))}
    </>
  );
}

function Readings() {
  const [now, setNow] = useState(useScopes.getState().now);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = useScopes.subscribe((state, before) => {
      if (state.now === before.now) return;
      timer ??= setTimeout(() => {
        timer = undefined;
        setNow(useScopes.getState().now);
      }, READINGS_MS);
    });
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, []);
  if (!now) return null;
  const line = (name: string, value: string, loud = false) => (
    <>
      <dt className="text-faint">{name}</dt>
      <dd className={`mono text-right ${loud ? 'text-oxide' : ''}`}>{value} %</dd>
    </>
  );
  return (
    <dl className="mt-2 grid grid-cols-[1fr_auto] text-[13px]" aria-label={texts.readings}>
      {line(texts.oneInHundredBelow, percent(now.low))}
      {line(texts.halfBelow, percent(now.median))}
      {line(texts.ninetyNineInHundredBelow, percent(now.high))}
      {line(texts.pixelsBelowBlack, percent(now.below, 2), now.below > 0.01)}
      {line(texts.pixelsAboveWhite, percent(now.above, 2), now.above > 0.01)}
    </dl>
  );
}
