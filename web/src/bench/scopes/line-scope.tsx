import { useEffect, useMemo, useRef, useState } from 'react';
import { LineChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { init, use as withParts, type EChartsCoreOption, type EChartsType } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { HIGHEST_MEGAHERTZ, LINE_PARTS, lineLimits, lineOf, lineSpectrum, lineStandard, lineTrace, lines, shownSize, type LinePart, type LineStandard } from '@tin-ghost/core';
import { NumberField } from '../../parts/number-field';
import { useLights } from '../../parts/top-bar';
import type { Source, Worn } from '../../render/protocol';
import { setLine, useScopes } from '../state/scope';
import { useDocument } from '../state/document';
import { texts } from '../../messages/scopes';

withParts([LineChart, GridComponent, MarkLineComponent, TooltipComponent, CanvasRenderer]);

/** Figures are read, not watched: they change no oftener than this. */
const READINGS_MS = 250;
/** Levels of the spectrum, dB. */
const [FAINTEST, LOUDEST] = [-80, 0];

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
    const charts = [init(signal.current), init(spectrum.current)] as const;
    const [trace, tones] = charts;
    const colours = coloursNow();
    trace.setOption(signalOption(standard, part, colours));
    tones.setOption(spectrumOption(limits, colours));
    const draw = ({ picture, line }: { picture: Worn | null; line: number }): void => {
      if (!picture) return;
      const both = [picture.pixels, picture.clean].map((pixels) => pixels && lineAt(look, picture, pixels, line, part));
      show(
        trace,
        both.map((samples) => (samples ? lineTrace(samples, standard, part) : [])),
      );
      show(
        tones,
        both.map((samples) => (samples ? lineSpectrum(samples, standard) : [])),
      );
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

/** The line at a place of a picture, without the bars beside it. */
function lineAt(look: Parameters<typeof shownSize>[0], { width, height }: Worn, pixels: ArrayBuffer, line: number, part: LinePart): Float32Array {
  const shown = shownSize(look, { width, height });
  const top = Math.floor((height - shown.height) / 2);
  const row = Math.max(top, Math.min(top + shown.height - 1, Math.floor(line * height)));
  return lineOf(new Uint8Array(pixels), width, row, Math.floor((width - shown.width) / 2), shown.width, part);
}

/** Puts what is worn, and what is clean, in a chart's two lines. */
const show = (chart: EChartsType, [worn, clean]: readonly (readonly [number, number][])[]): void =>
  chart.setOption({ series: [{ data: clean }, { data: worn }] }, { silent: true });

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
      const samples = lineAt(look, picture, picture.pixels, line, part);
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

interface Colours {
  readonly worn: string;
  readonly clean: string;
  readonly text: string;
  readonly rule: string;
}

function coloursNow(): Colours {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string): string => style.getPropertyValue(`--color-${name}`).trim();
  return { worn: of('oxide'), clean: of('rule'), text: of('faint'), rule: of('rule') };
}

const FONT = { fontFamily: 'DM Mono', fontSize: 10 };
const GRID = { left: 34, right: 10, top: 8, bottom: 18 };

function axis(colours: Colours, more: Record<string, unknown>): Record<string, unknown> {
  return {
    type: 'value',
    axisLabel: { ...FONT, color: colours.text, hideOverlap: true },
    splitLine: { lineStyle: { color: colours.rule, opacity: 0.5 } },
    axisLine: { lineStyle: { color: colours.rule } },
    ...more,
  };
}

const lineSeries = (name: string, colour: string, width: number, more: Record<string, unknown> = {}): Record<string, unknown> => ({
  type: 'line',
  name,
  showSymbol: false,
  silent: true,
  lineStyle: { color: colour, width },
  itemStyle: { color: colour },
  data: [],
  ...more,
});

const common = (unit: string, value: string): EChartsCoreOption => ({
  animation: false,
  grid: GRID,
  tooltip: {
    trigger: 'axis',
    confine: true,
    textStyle: FONT,
    formatter: (points: { seriesName: string; value: [number, number] }[]) =>
      [`${points[0]?.value[0].toFixed(2)} ${unit}`, ...points.map((p) => `${p.seriesName} ${p.value[1].toFixed(1)} ${value}`)].join('<br>'),
  },
});

function signalOption({ end, sync, from, to }: LineStandard, part: LinePart, colours: Colours): EChartsCoreOption {
  const blanking = { silent: true, symbol: 'none', label: { show: false }, lineStyle: { color: colours.text, type: 'dotted' as const }, data: [{ xAxis: from }, { xAxis: to }] };
  const levels = part === 'luma' ? { min: sync - 7, max: 120, interval: 20 } : { min: -60, max: 60, interval: 20 };
  const ticks = { customValues: part === 'luma' ? [sync, 0, 50, 100] : [-50, 0, 50] };
  return {
    ...common('µs', '%'),
    xAxis: axis(colours, {
      min: 0,
      max: end,
      interval: 5,
      axisLabel: { ...FONT, color: colours.text, formatter: (v: number) => (v % 10 === 0 ? (v === 0 ? '0 µs' : `${v}`) : '') },
    }),
    yAxis: axis(colours, { ...levels, axisTick: ticks, axisLabel: { ...FONT, ...ticks, color: colours.text, formatter: '{value}' } }),
    series: [lineSeries('clean', colours.clean, 2), lineSeries('worn', colours.worn, 1, { markLine: blanking })],
  };
}

function spectrumOption(limits: ReturnType<typeof lineLimits>, colours: Colours): EChartsCoreOption {
  const marks = {
    silent: true,
    symbol: 'none',
    lineStyle: { color: colours.text, type: 'dashed' as const },
    // Neighbours stand in two rows.
    data: limits.map(({ name, megahertz }, i) => ({
      name: `${name} ${megahertz.toFixed(2)}`,
      xAxis: megahertz,
      label: { ...FONT, color: colours.text, position: 'end' as const, rotate: 0, distance: i % 2 ? 12 : 1, formatter: '{b}' },
    })),
  };
  return {
    ...common('MHz', 'dB'),
    grid: { ...GRID, top: 28 },
    xAxis: axis(colours, {
      axisLine: { onZero: false, lineStyle: { color: colours.rule } },
      min: 0,
      max: HIGHEST_MEGAHERTZ,
      interval: 1,
      axisLabel: { ...FONT, color: colours.text, formatter: (v: number) => (v === 0 ? '0 MHz' : Number.isInteger(v) ? `${v}` : '') },
    }),
    yAxis: axis(colours, { min: FAINTEST, max: LOUDEST, interval: 20 }),
    series: [lineSeries('clean', colours.clean, 2), lineSeries('worn', colours.worn, 1, { markLine: marks })],
  };
}
