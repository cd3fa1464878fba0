import { useEffect, useMemo, useRef, useState } from 'react';
import { LINE_PARTS, lineLimits, lineOf, lineRow, lineSpectrum, lineStandard, lineTrace, lines, shownSize, type LinePart, type LineStandard, type Look } from '@tin-ghost/core';
import { NumberField } from '../../parts/number-field';
import { useLights } from '../../parts/top-bar';
import type { Source, Worn } from '../../render/protocol';
import { READINGS_MS, setLine, useScopes } from '../state/scope';
import { useDocument } from '../state/document';
import { texts } from '../../messages/scopes';
import { chartColours, signalOption, spectrumOption, TraceChart } from './trace-chart';

/** One line of the picture as a signal over its microseconds, the clean one behind it, and what frequencies are in both. */
export default function LineScope({ source }: { source: Source }) {
  const look = useDocument((s) => s.look);
  const dark = useLights((s) => s.down);
  const [part, setPart] = useState<LinePart>('luma');
  const standard = useMemo(() => lineStandard(look, source.rate), [look, source.rate]);
  const limits = useMemo(() => lineLimits(look), [look]);
  const signal = useRef<HTMLDivElement>(null);
  const spectrum = useRef<HTMLDivElement>(null);

  useEffect(() => {
    const colours = chartColours();
    const trace = new TraceChart(signal.current!, signalOption(standard, part, colours), colours);
    const tones = new TraceChart(spectrum.current!, spectrumOption(limits, colours), colours);
    const charts = [trace, tones];
    const draw = ({ picture, line }: { picture: Worn | null; line: number }): void => {
      if (!picture) return;
      const worn = wornLine(look, picture, line, part);
      const clean = cleanLine(look, picture, line, part);
      trace.show(lineTrace(worn, standard, part), clean && lineTrace(clean, standard, part));
      tones.show(lineSpectrum(worn, standard), clean && lineSpectrum(clean, standard));
    };
    draw(useScopes.getState());
    // Pictures come many times a second: they are drawn as they come, past React.
    const stop = useScopes.subscribe((state, before) => (state.picture !== before.picture || state.line !== before.line) && draw(state));
    const sized = new ResizeObserver(() => charts.forEach((chart) => chart.resize()));
    sized.observe(signal.current!);
    return () => {
      stop();
      sized.disconnect();
      charts.forEach((chart) => chart.dispose());
    };
    // `dark` changes the colours that are read from the page.
  }, [look, standard, limits, part, dark]);

  return (
    <section className="flex h-[196px] shrink-0 flex-col border-t border-rule bg-panel px-3 pt-1.5" aria-label={texts.lineScope}>
      <div className="flex items-center gap-3 overflow-hidden whitespace-nowrap">
        <h2 className="label">{texts.line}</h2>
        <LineField source={source} standard={standard} />
        <select className="field" aria-label={texts.whatIsShownOfLine} value={part} onChange={(e) => setPart(e.target.value as LinePart)}>
          {Object.entries(LINE_PARTS).map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
        <Reading part={part} />
        <span className="flex-1" />
        <span className="truncate text-[13px] text-faint">{texts.spectrumNote}</span>
      </div>
      <div className="flex min-h-0 flex-1 gap-2">
        <div ref={signal} className="min-w-0 flex-[3]" role="img" aria-label={texts.lineAsSignalOf(standard.name)} data-line="signal" />
        <div ref={spectrum} className="min-w-0 flex-[2]" role="img" aria-label={texts.frequenciesInLine} data-line="spectrum" />
      </div>
    </section>
  );
}

/** The line at a place of the worn picture. */
const wornLine = (look: Look, worn: Worn, place: number, part: LinePart): Float32Array => shownLine(look, worn, worn.pixels, lineRow(look, worn, place), part);

/** And of the picture without its wear, where that line of it was made. */
function cleanLine(look: Look, worn: Worn, place: number, part: LinePart): Float32Array | undefined {
  const row = lineRow(look, worn, place);
  if (!worn.clean || (worn.clean.row ?? row) !== row) return undefined;
  return shownLine(look, worn, worn.clean.pixels, worn.clean.row === undefined ? row : 0, part);
}

/** A row without the bars beside it. */
function shownLine(look: Look, { width, height }: Worn, pixels: ArrayBuffer, row: number, part: LinePart): Float32Array {
  const shown = shownSize(look, { width, height });
  return lineOf(new Uint8Array(pixels), width, row, Math.floor((width - shown.width) / 2), shown.width, part);
}

/** The number of the line, in the picture that is shown. */
function LineField({ source, standard }: { source: Source; standard: LineStandard }) {
  const line = useScopes((s) => s.line);
  const height = useScopes((s) => s.picture?.height ?? source.height);
  const setting = useMemo(() => lines({ name: texts.line, says: '', default: 1, min: 1, max: height }), [height]);
  const number = Math.min(height, Math.floor(line * height) + 1);
  return (
    <>
      <NumberField setting={setting} value={number} label={texts.line} onChange={(v) => setLine((Math.round(v) - 0.5) / height)} onGesture={() => undefined} />
      <span className="mono text-faint">{texts.ofLines(height, standard.name)}</span>
    </>
  );
}

function Reading({ part }: { part: LinePart }) {
  const look = useDocument((s) => s.look);
  const [text, setText] = useState('');
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const read = (): void => {
      timer = undefined;
      const { picture, line } = useScopes.getState();
      if (!picture) return;
      const samples = wornLine(look, picture, line, part);
      const [low, high] = [samples.reduce((a, b) => Math.min(a, b), 1), samples.reduce((a, b) => Math.max(a, b), -1)];
      setText(texts.lowToHighPercent((100 * low).toFixed(0), (100 * high).toFixed(0)));
    };
    read();
    const stop = useScopes.subscribe(() => {
      timer ??= setTimeout(read, READINGS_MS);
    });
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [look, part]);
  return (
    <output className="mono" aria-label={texts.levelsOfLine}>
      {text}
    </output>
  );
}
