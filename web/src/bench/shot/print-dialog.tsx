import { useMemo, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { Dialog } from 'radix-ui';
import { toast } from 'sonner';
import type { PrintCoding, Reel, Shot } from '@tin-ghost/contract';
import { usePrints, type ApiError } from '../../api/client';
import { orderPrints, PRINTS_NOTE } from '../../api/ordered';
import { Button } from '../../parts/button';
import { fileSize, timeFor } from '../../parts/amounts';
import { useDocument } from '../state/document';
import { usePlayback } from '../state/playback';
import { endPrinting, usePrinting } from '../state/printing';
import { CODING_NAMES, estimate, framesOf, hasShape, ordersFor, pixelsOf, sizeOf, type Making, type PrintChoice, type Quality } from './print-orders';

const SHARES = [
  [1, 'as they are'],
  [0.5, 'half'],
  [0.25, 'a quarter'],
] as const;
const FORMATS: readonly (readonly [PrintCoding, string])[] = [
  ['h264', `MP4, ${CODING_NAMES.h264}, plays everywhere`],
  ['h265', `MP4, ${CODING_NAMES.h265}, 10 bits`],
  ['vp9', `WebM, ${CODING_NAMES.vp9}`],
  ['av1', `WebM, ${CODING_NAMES.av1}, 10 bits`],
  ['prores', `MOV, ${CODING_NAMES.prores}, to edit`],
  ['dnxhr', `MOV, ${CODING_NAMES.dnxhr}, to edit`],
  ['ffv1', `MKV, ${CODING_NAMES.ffv1}, lossless`],
];
const QUALITIES: readonly (readonly [Quality, string])[] = [
  ['check', 'to check, small'],
  ['deliver', 'to deliver'],
  ['master', 'master, large'],
];
const FIELD = 'rounded-sm border border-rule bg-well px-1 py-1';

/** Which shots, and as how many files: one select, so that a whole reel takes one choice. */
interface What {
  readonly label: string;
  readonly shots: readonly Shot[];
  readonly making: Making;
}

function whatOf(reel: Reel, shot: Shot, chosen: readonly Shot[]): What[] {
  const ready = reel.shots.filter(({ medium }) => medium.state === 'ready');
  const several = (shots: readonly Shot[], words: string): What[] => [
    { label: `${words}, a file each`, shots, making: 'each' },
    { label: `${words} as one film`, shots, making: 'film' },
    { label: `${words}, a file each and one film`, shots, making: 'both' },
  ];
  return [
    ...(chosen.length > 1 && chosen.length < ready.length ? several(chosen, `The ${chosen.length} chosen shots`) : []),
    { label: `This shot, ${shot.name}`, shots: [shot], making: 'each' },
    ...(ready.length > 1 ? several(ready, `All ${ready.length} shots`) : []),
  ];
}

/** Choosing what prints are struck. @param shot the one on the bench, as it is kept */
export function PrintDialog({ reel, shot }: { reel: Reel; shot: Shot }) {
  const about = usePrinting((s) => s.shots);
  return (
    <Dialog.Root open={about.length > 0} onOpenChange={(open) => !open && endPrinting()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#1b1e1f]/55" />
        <Dialog.Content
          className="fixed top-16 left-1/2 z-50 max-h-[calc(100vh-80px)] w-[min(480px,94vw)] -translate-x-1/2 overflow-y-auto rounded-sm border border-rule bg-panel p-5 shadow-xl"
          aria-describedby={undefined}
        >
          <Dialog.Title className="text-[20px] font-bold">Strike prints</Dialog.Title>
          {about.length > 0 && <Choices reel={reel} shot={shot} about={about} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Choices({ reel, shot, about }: { reel: Reel; shot: Shot; about: readonly string[] }) {
  const look = useDocument((s) => s.look);
  const preparation = useDocument((s) => s.preparation);
  const keeping = useDocument((s) => s.keeping);
  const loop = usePlayback((s) => s.loop);
  const navigate = useNavigate();
  const { data: prints = [] } = usePrints();
  const whats = useMemo(() => {
    // The shot on the bench as it is seen there.
    const shots = reel.shots.map((one) => (one.id === shot.id ? { ...one, look, preparation } : one));
    const now = shots.find(({ id }) => id === (about.length === 1 ? about[0] : shot.id)) ?? shot;
    const chosen = shots.filter(({ id, medium }) => about.includes(id) && medium.state === 'ready');
    return whatOf({ ...reel, shots }, now, chosen);
  }, [reel, shot, look, preparation, about]);
  const whole = about.length > 1 ? whats.findIndex(({ shots, making }) => making === 'each' && shots.length === about.length) : -1;
  const [at, setAt] = useState(Math.max(0, whole));
  const [coding, setCoding] = useState<PrintCoding>('h264');
  const [quality, setQuality] = useState<Quality>('deliver');
  const [share, setShare] = useState(1);
  const [bars, setBars] = useState(true);
  const [sound, setSound] = useState(true);
  const [range, setRange] = useState<{ from: number; to: number } | null>(null);
  const [error, setError] = useState<ApiError | null>(null);
  const { shots, making } = whats[Math.min(at, whats.length - 1)]!;
  const [one] = shots.length === 1 ? shots : [];
  const frames = one ? framesOf(one) : 0;
  const choice: PrintChoice = { coding, quality, share, bars, sound, making, ...(one && range ? { range } : {}) };
  const orders = ordersFor(shots, choice);
  const rough = estimate(pixelsOf(shots, choice), choice, prints);
  const unkept = keeping.state !== 'kept';

  const strike = async (): Promise<void> => {
    // Asked in answer to the click, as browsers want it; what it says does not hold the prints up.
    if ('Notification' in window && Notification.permission === 'default') void Notification.requestPermission();
    try {
      await orderPrints(orders);
      endPrinting();
      toast(orders.length === 1 ? 'The print is being struck' : `${orders.length} prints are being struck`, {
        id: PRINTS_NOTE,
        description: 'You are told here when it is done.',
        action: { label: 'To the prints', onClick: () => void navigate('/prints') },
      });
    } catch (caught) {
      setError(caught as ApiError);
    }
  };
  return (
    <>
      <fieldset className="mt-4 grid grid-cols-[80px_1fr] items-center gap-y-3">
        <Row name="What">
          <select aria-label="What" value={at} onChange={(e) => setAt(Number(e.currentTarget.value))} className={`${FIELD} w-full`}>
            {whats.map(({ label }, i) => (
              <option key={label} value={i}>
                {label}
              </option>
            ))}
          </select>
        </Row>
        <Row name="Format">
          <select aria-label="Format" value={coding} onChange={(e) => setCoding(e.currentTarget.value as PrintCoding)} className={`${FIELD} w-full`}>
            {FORMATS.map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </Row>
        {coding !== 'ffv1' && (
          <Row name="Quality">
            <Choose name="Quality" options={QUALITIES} value={quality} onChange={setQuality} />
          </Row>
        )}
        <Row name="Size">
          <select aria-label="Size" value={share} onChange={(e) => setShare(Number(e.currentTarget.value))} className={`${FIELD} mono`}>
            {SHARES.map(([s, words]) => (
              <option key={s} value={s}>
                {making === 'each' && shots.length > 1 ? words : `${sizeOf(shots[0]!, { share: s, bars }).width} × ${sizeOf(shots[0]!, { share: s, bars }).height}`}
              </option>
            ))}
          </select>
        </Row>
        {shots.some(hasShape) && (
          <Row name="Bars">
            <Check checked={bars} onChange={setBars}>
              beside the picture, so that the file keeps its shape
            </Check>
          </Row>
        )}
        {one && (
          <Row name="Range">
            <Check checked={range === null} onChange={(all) => setRange(all ? null : { from: 0, to: frames })}>
              whole shot, {frames} frames
            </Check>
            {range && (
              <span className="flex items-center gap-2">
                <Frame name="First frame" value={range.from + 1} most={range.to} onChange={(v) => setRange({ ...range, from: v - 1 })} />
                to
                <Frame name="Last frame" value={range.to} most={frames} onChange={(to) => setRange({ ...range, to })} />
              </span>
            )}
            {loop && (
              <button type="button" className="text-oxide underline" onClick={() => setRange({ from: loop.from, to: loop.to })}>
                the loop
              </button>
            )}
          </Row>
        )}
        {shots.some(({ medium }) => medium.footage!.sound) && (
          <Row name="Sound">
            <Check checked={sound} onChange={setSound}>
              include sound, in step
            </Check>
          </Row>
        )}
      </fieldset>
      {making !== 'each' && shots.length > 1 && (
        <p className="mt-3 text-faint">The film has the size and the fps of its first shot; shots of another shape stand in it whole, with bars.</p>
      )}
      <p className="mono mt-3" data-estimate>
        {orders.length === 1 ? '1 file' : `${orders.length} files`}, about {fileSize(rough.bytes)}
        {rough.seconds === null ? '; how long it takes is told once it runs' : `, about ${timeFor(rough.seconds)}`}
      </p>
      {error && (
        <p role="alert" className="mt-3 text-oxide">
          {error.message}
        </p>
      )}
      <div className="mt-5 flex items-center justify-end gap-2">
        {unkept && <span className="mr-auto text-faint">Saving your last change…</span>}
        <Dialog.Close asChild>
          <Button>Cancel</Button>
        </Dialog.Close>
        <Button kind="live" disabled={unkept} onClick={() => void strike()}>
          Strike
        </Button>
      </div>
    </>
  );
}

function Choose<T extends string>({ name, options, value, onChange }: { name: string; options: readonly (readonly [T, string])[]; value: T; onChange: (value: T) => void }) {
  return (
    <select aria-label={name} value={value} onChange={(e) => onChange(e.currentTarget.value as T)} className={FIELD}>
      {options.map(([id, words]) => (
        <option key={id} value={id}>
          {words}
        </option>
      ))}
    </select>
  );
}

const Row = ({ name, children }: { name: string; children: ReactNode }) => (
  <>
    <span>{name}</span>
    <span className="flex flex-wrap items-center gap-2">{children}</span>
  </>
);

const Check = ({ checked, onChange, children }: { checked: boolean; onChange: (checked: boolean) => void; children: ReactNode }) => (
  <label className="flex items-center gap-1">
    <input type="checkbox" checked={checked} onChange={(e) => onChange(e.currentTarget.checked)} className="accent-oxide" /> {children}
  </label>
);

const Frame = ({ name, value, most, onChange }: { name: string; value: number; most: number; onChange: (value: number) => void }) => (
  <input
    aria-label={name}
    type="number"
    min={1}
    max={most}
    value={value}
    onChange={(e) => onChange(Math.floor(e.currentTarget.valueAsNumber) || 1)}
    className="mono w-[76px] rounded-sm border border-rule bg-well px-1 py-0.5 text-right"
  />
);
