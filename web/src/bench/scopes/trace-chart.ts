import { LineChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { init, use as withParts, type EChartsCoreOption, type EChartsType } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { HIGHEST_MEGAHERTZ, lineLimits, type LinePart, type LineStandard, type Points } from '@tin-ghost/core';
import { READINGS_MS } from '../state/scope';

withParts([LineChart, GridComponent, MarkLineComponent, TooltipComponent, CanvasRenderer]);

/** Levels of the spectrum, dB. */
const [FAINTEST, LOUDEST] = [-80, 0];

interface Range {
  readonly min: number;
  readonly max: number;
}

/**
 * A chart of what is worn and what is clean. A chart's own series are worked out anew, axes and all, with each set of points, which takes most of a picture's time: the two lines
 * are drawn on a canvas over its axes, and the series get their points only for a pointer that reads them.
 */
export class TraceChart {
  private readonly chart: EChartsType;
  private readonly canvas = document.createElement('canvas');
  private shown: { readonly worn?: Points; readonly clean?: Points } = {};
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly range: { readonly x: Range; readonly y: Range };
  /** Where the axes stand, in CSS pixels. */
  private frame = { left: 0, top: 0, width: 0, height: 0 };

  /** @param option its axes have a least and a greatest value */
  constructor(
    private readonly element: HTMLElement,
    option: EChartsCoreOption,
    private readonly colours: Colours,
  ) {
    this.range = { x: option.xAxis as Range, y: option.yAxis as Range };
    this.chart = init(element);
    this.chart.setOption(option);
    // Within the chart's own root, where what a pointer reads comes over it.
    this.chart.getZr().painter.getViewportRoot().append(this.canvas);
    this.canvas.style.cssText = 'position: absolute; pointer-events: none';
    this.place();
    element.addEventListener('pointerenter', this.read);
  }

  /** Draws both, in the units of the axes, or what there is of them. */
  show(worn?: Points, clean?: Points): void {
    this.shown = { worn, clean };
    this.draw();
    if (this.element.matches(':hover')) this.timer ??= setTimeout(this.read, READINGS_MS);
  }

  resize(): void {
    this.chart.resize();
    this.place();
    this.draw();
  }

  dispose(): void {
    clearTimeout(this.timer);
    this.element.removeEventListener('pointerenter', this.read);
    this.chart.dispose();
  }

  /** Both axes are straight: two corners tell where all else is. */
  private place(): void {
    const { x, y } = this.range;
    const corner = (place: [number, number]): [number, number] => this.chart.convertToPixel({ gridIndex: 0 }, place) as [number, number];
    const [[left, bottom], [right, top]] = [corner([x.min, y.min]), corner([x.max, y.max])];
    this.frame = { left, top, width: right - left, height: bottom - top };
    const { canvas } = this;
    for (const [name, value] of Object.entries(this.frame)) canvas.style.setProperty(name, `${value}px`);
    [canvas.width, canvas.height] = [Math.round((right - left) * devicePixelRatio), Math.round((bottom - top) * devicePixelRatio)];
  }

  private draw(): void {
    const { width, height } = this.canvas;
    const on = this.canvas.getContext('2d')!;
    on.clearRect(0, 0, width, height);
    on.lineJoin = 'bevel';
    // Without a graphics card a browser takes eight times as long over a line of two pixels.
    on.lineWidth = devicePixelRatio;
    // What is clean lies below.
    for (const which of ['clean', 'worn'] as const) this.line(on, this.shown[which], this.colours[which]);
  }

  private line(on: CanvasRenderingContext2D, points: Points | undefined, colour: string): void {
    if (!points) return;
    const { width, height } = this.canvas;
    const { x, y } = this.range;
    const [across, up] = [width / (x.max - x.min), height / (y.max - y.min)];
    on.strokeStyle = colour;
    on.beginPath();
    for (let i = 0; i < points.length; i += 2) on.lineTo((points[i]! - x.min) * across, height - (points[i + 1]! - y.min) * up);
    on.stroke();
  }

  private readonly read = (): void => {
    clearTimeout(this.timer);
    this.timer = undefined;
    this.chart.setOption({ series: [{ data: pairs(this.shown.clean) }, { data: pairs(this.shown.worn) }] }, { silent: true });
  };
}

const pairs = (points: Points = new Float64Array()): [number, number][] => Array.from({ length: points.length / 2 }, (_, i) => [points[2 * i]!, points[2 * i + 1]!]);

export interface Colours {
  readonly worn: string;
  readonly clean: string;
  readonly text: string;
  readonly rule: string;
}

/** As the page has them now. */
export function chartColours(): Colours {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string): string => style.getPropertyValue(`--color-${name}`).trim();
  return { worn: of('oxide'), clean: of('faint'), text: of('faint'), rule: of('rule') };
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

/** What the pointer reads; the line itself is drawn by the chart's `show`. */
const lineSeries = (name: string, colour: string, more: Record<string, unknown> = {}): Record<string, unknown> => ({
  type: 'line',
  name,
  showSymbol: false,
  silent: true,
  lineStyle: { opacity: 0 },
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

/** A chart of a line as a signal over microseconds. */
export function signalOption({ end, sync, from, to }: LineStandard, part: LinePart, colours: Colours): EChartsCoreOption {
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
    series: [lineSeries('clean', colours.clean), lineSeries('worn', colours.worn, { markLine: blanking })],
  };
}

/** A chart of what frequencies are in a line. */
export function spectrumOption(limits: ReturnType<typeof lineLimits>, colours: Colours): EChartsCoreOption {
  const marks = {
    silent: true,
    symbol: 'none',
    lineStyle: { color: colours.text, type: 'dashed' as const },
    // Neighbours stand in two rows, and off the numbers at the side.
    data: limits.map(({ name, megahertz }, i) => ({
      name: `${name} ${megahertz.toFixed(2)}`,
      xAxis: megahertz,
      label: { ...FONT, color: colours.text, position: 'end' as const, align: megahertz < 1 ? 'left' : 'center', rotate: 0, distance: i % 2 ? 12 : 1, formatter: '{b}' },
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
    series: [lineSeries('clean', colours.clean), lineSeries('worn', colours.worn, { markLine: marks })],
  };
}
