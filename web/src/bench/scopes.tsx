import { useEffect, useRef } from 'react';
import { barTargets, COLUMNS, LEVELS } from '@tin-ghost/core';
import type { ScopeData } from '../render/protocol';
import { useScopes } from './scope-store';

/** Ink of a trace as red, green, blue, by the lights. */
type Ink = readonly [number, number, number];
const INKS: Record<'luma' | 'red' | 'green' | 'blue' | 'reference', readonly [Ink, Ink]> = {
  luma: [
    [27, 30, 31],
    [213, 217, 216],
  ],
  red: [
    [140, 47, 37],
    [224, 122, 104],
  ],
  green: [
    [40, 104, 58],
    [120, 190, 134],
  ],
  blue: [
    [44, 76, 140],
    [132, 164, 226],
  ],
  reference: [
    [156, 59, 30],
    [208, 106, 70],
  ],
};
const dark = (): 0 | 1 => (document.documentElement.dataset.lights === 'down' || document.body.dataset.lights === 'down' || document.querySelector('[data-lights="down"]') ? 1 : 0);

/** Lays a trace of some columns of levels on an image, level 255 at the top. */
function lay(image: ImageData, data: Uint8Array, columns: number, ink: Ink, strength: number, from = 0): void {
  const { data: out, width } = image;
  for (let c = 0; c < columns; c++) {
    for (let level = 0; level < LEVELS; level++) {
      const v = data[c * LEVELS + level]!;
      if (v) mark(out, ((LEVELS - 1 - level) * width + from + c) * 4, ink, v * strength);
    }
  }
}

/** One place of an image inked: what is darker wins. */
function mark(out: Uint8ClampedArray, at: number, ink: Ink, alpha: number): void {
  if (alpha <= out[at + 3]!) return;
  [out[at], out[at + 1], out[at + 2]] = ink;
  out[at + 3] = alpha;
}

const REFERENCE_STRENGTH = 0.42;

function Plot({ name, width, draw, children, shape }: { name: string; width: number; draw: (image: ImageData) => void; children?: React.ReactNode; shape: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const image = new ImageData(width, LEVELS);
    draw(image);
    canvas.current?.getContext('2d')!.putImageData(image, 0, 0);
  });
  return (
    <figure className="mt-2" aria-label={name}>
      <figcaption className="label !text-[11px]">{name}</figcaption>
      <div className="relative mt-0.5 border border-rule bg-well" style={{ aspectRatio: `${shape}` }}>
        <canvas ref={canvas} width={width} height={LEVELS} className="absolute inset-0 h-full w-full" role="img" aria-label={`${name} of the picture`} data-scope={name} />
        {children}
      </div>
    </figure>
  );
}

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

const percent = (v: number, digits = 1): string => (100 * v).toFixed(digits);

/** Waveform, parade, vector scope and histogram of the picture, with the spread of the reference behind. */
export function Scopes() {
  const { now, reference, pointed } = useScopes();
  const luma = pointed ? (0.2126 * pointed.rgb[0] + 0.7152 * pointed.rgb[1] + 0.0722 * pointed.rgb[2]) / 255 : undefined;
  return (
    <aside className="w-[220px] shrink-0 overflow-y-auto border-l border-rule bg-panel px-2.5 py-2" aria-label="Scopes">
      <h2 className="label">Scopes</h2>
      {!now ? (
        <p className="mt-2 text-faint">The picture is being measured.</p>
      ) : (
        <>
          <Waveform now={now} reference={reference} pointed={luma} />
          <Parade now={now} reference={reference} />
          <Vector now={now} reference={reference} />
          <Histogram now={now} reference={reference} />
          <Readings now={now} />
        </>
      )}
      <p className="mono mt-2 min-h-[34px] text-[12px]" aria-label="Under the pointer">
        {pointed ? (
          <>
            {pointed.rgb.join(' ')}
            <br />
            luma {percent(luma!)} %
          </>
        ) : (
          <span className="text-faint">point at the picture to read it</span>
        )}
      </p>
    </aside>
  );
}

interface Part {
  now: ScopeData;
  reference: ScopeData | null;
}

function Waveform({ now, reference, pointed }: Part & { pointed?: number }) {
  return (
    <Plot
      name="Waveform"
      width={COLUMNS}
      shape={1.6}
      draw={(image) => {
        const mode = dark();
        lay(image, now.waves[0]!, COLUMNS, INKS.luma[mode], 1);
        if (reference) lay(image, reference.waves[0]!, COLUMNS, INKS.reference[mode], REFERENCE_STRENGTH);
      }}
    >
      <Scale pointed={pointed} />
    </Plot>
  );
}

function Parade({ now, reference }: Part) {
  const gap = 8;
  return (
    <Plot
      name="Parade"
      width={3 * COLUMNS + 2 * gap}
      shape={1.9}
      draw={(image) => {
        const mode = dark();
        (['red', 'green', 'blue'] as const).forEach((channel, i) => {
          lay(image, now.waves[i + 1]!, COLUMNS, INKS[channel][mode], 1, i * (COLUMNS + gap));
          if (reference) lay(image, reference.waves[i + 1]!, COLUMNS, INKS.reference[mode], REFERENCE_STRENGTH, i * (COLUMNS + gap));
        });
      }}
    >
      <Scale />
    </Plot>
  );
}

/** The middle part of the vector scope that is drawn: colour differences to this share of full scale each way. */
const REACH = 0.44;

function Vector({ now, reference }: Part) {
  const place = (cb: number, cr: number): { left: string; top: string } => ({ left: `${50 + (cb / REACH) * 50}%`, top: `${50 - (cr / REACH) * 50}%` });
  return (
    <Plot
      name="Vector"
      width={LEVELS}
      shape={1}
      draw={(image) => {
        const mode = dark();
        const into = (data: Uint8Array, ink: Ink, strength: number): void => {
          const scale = 0.5 / REACH;
          for (let y = 0; y < LEVELS; y++) {
            for (let x = 0; x < LEVELS; x++) {
              const v = data[y * LEVELS + x]!;
              if (!v) continue;
              const [px, py] = [Math.round(128 + (x - 128) * scale), Math.round(128 + (y - 127) * scale)];
              for (const [dx, dy] of [
                [0, 0],
                [1, 0],
                [0, 1],
                [1, 1],
              ] as const)
                if (px + dx >= 0 && px + dx < LEVELS && py + dy >= 0 && py + dy < LEVELS) mark(image.data, ((py + dy) * LEVELS + px + dx) * 4, ink, v * strength);
            }
          }
        };
        into(now.vector, INKS.luma[mode], 1);
        if (reference) into(reference.vector, INKS.reference[mode], REFERENCE_STRENGTH);
      }}
    >
      <span className="absolute inset-y-0 left-1/2 w-px bg-rule" />
      <span className="absolute inset-x-0 top-1/2 h-px bg-rule" />
      {barTargets(0.75).map(({ name, cb, cr }) => (
        <span key={name} className="absolute" style={place(cb, cr)}>
          <span className="absolute -top-[5px] -left-[5px] h-[10px] w-[10px] border border-faint" />
          <span className="mono absolute top-1 left-1.5 text-[9px] text-faint">{name}</span>
        </span>
      ))}
    </Plot>
  );
}

function Histogram({ now, reference }: Part) {
  const line = (bins: Float32Array): string => Array.from(bins, (v, i) => `${i ? 'L' : 'M'}${i} ${60 - Math.sqrt(v) * 57}`).join('');
  return (
    <figure className="mt-2" aria-label="Histogram">
      <figcaption className="label !text-[11px]">Histogram</figcaption>
      <svg
        viewBox="0 0 255 60"
        preserveAspectRatio="none"
        className="mt-0.5 block h-[62px] w-full border border-rule bg-well"
        role="img"
        aria-label="Histogram of the picture"
        data-scope="Histogram"
      >
        {reference && <path d={`${line(reference.bins[0]!)}L255 60L0 60Z`} fill="var(--color-oxide)" opacity="0.22" />}
        <path d={`${line(now.bins[0]!)}L255 60L0 60Z`} fill="var(--color-ink)" opacity="0.2" />
        {(['red', 'green', 'blue'] as const).map((channel, i) => (
          <path key={channel} d={line(now.bins[i + 1]!)} fill="none" stroke={`rgb(${INKS[channel][dark()].join(' ')})`} strokeWidth="1" vectorEffect="non-scaling-stroke" />
        ))}
      </svg>
    </figure>
  );
}

function Readings({ now }: { now: ScopeData }) {
  const line = (name: string, value: string, loud = false) => (
    <>
      <dt className="text-faint">{name}</dt>
      <dd className={`mono text-right ${loud ? 'text-oxide' : ''}`}>{value} %</dd>
    </>
  );
  return (
    <dl className="mt-2 grid grid-cols-[1fr_auto] text-[13px]" aria-label="Readings">
      {line('1 in 100 below', percent(now.low))}
      {line('half below', percent(now.median))}
      {line('99 in 100 below', percent(now.high))}
      {line('pixels below black', percent(now.below, 2), now.below > 0.01)}
      {line('pixels above white', percent(now.above, 2), now.above > 0.01)}
    </dl>
  );
}
