import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { Dialog } from 'radix-ui';
import { toast } from 'sonner';
import { wearAlone, type Ground } from '@tin-ghost/core';
import { BIT_RATE, CODING_DEPTHS, holdsSound, isImages, isLoop, MOST_LOOP_FRAMES, type Reel, type Shot } from '@tin-ghost/contract';
import { usePrints, type ApiError } from '../../api/client';
import { orderPrints, PRINTS_NOTE } from '../../api/ordered';
import { Button } from '../../parts/button';
import { fileSize, timeFor } from '../../parts/amounts';
import { useDocument } from '../state/document';
import { usePlayback } from '../state/playback';
import { endPrinting, usePrinting } from '../state/printing';
import { Check, Choose, FIELD, Figure, Row, WholeField } from './print-fields';
import { BY_BIT_RATE, depthsFor, fits, formKey, FORMS, GROUNDS, groundWords, hasQuality, QUALITIES, takesBitRate, USUAL_BIT_RATE, type Form, type Quality } from './print-formats';
import { estimate, framesOf, hasShape, ordersFor, pixelsOf, secondsOf, sizeOf, soundBytes, type PrintChoice } from './print-orders';
import { whatOf } from './print-what';

const SHARES = [
  [1, 'as they are'],
  [0.5, 'half'],
  [0.25, 'a quarter'],
] as const;

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
          <Dialog.Title className="text-[20px] font-semibold">Strike prints</Dialog.Title>
          {about.length > 0 && <Choices reel={reel} shot={shot} about={about} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Every form that is offered; the first of those that fit is taken where the chosen one does not. */
const ALL_FORMS = FORMS.flatMap(({ forms }) => forms);

function Choices({ reel, shot, about }: { reel: Reel; shot: Shot; about: readonly string[] }) {
  const look = useDocument((s) => s.look);
  const preparation = useDocument((s) => s.preparation);
  const keeping = useDocument((s) => s.keeping);
  const loop = usePlayback((s) => s.loop);
  // The one that was seen when the dialog was opened.
  const [seen] = useState(() => usePlayback.getState().frame);
  const navigate = useNavigate();
  const { data: prints = [] } = usePrints();
  const whats = useMemo(() => {
    // The shot on the bench as it is seen there.
    const shots = reel.shots.map((one) => (one.id === shot.id ? { ...one, look, preparation } : one));
    const now = shots.find(({ id }) => id === (about.length === 1 ? about[0] : shot.id)) ?? shot;
    const chosen = shots.filter(({ id, medium }) => about.includes(id) && medium.state === 'ready');
    return whatOf({ ...reel, shots }, now, chosen, now.id === shot.id ? seen : 0);
  }, [reel, shot, look, preparation, about, seen]);
  const whole = about.length > 1 ? whats.findIndex(({ shots, making }) => making === 'each' && shots.length === about.length) : -1;
  const [at, setAt] = useState(Math.max(0, whole));
  const [wanted, setForm] = useState<Form>(ALL_FORMS[0]!);
  const [depth, setDepth] = useState<number | undefined>();
  const [ground, setGround] = useState<Ground | undefined>();
  const [firstNumber, setFirstNumber] = useState<number | undefined>();
  const [quality, setQuality] = useState<Quality>('deliver');
  const [bitRate, setBitRate] = useState<number | undefined>();
  const [share, setShare] = useState(1);
  const [bars, setBars] = useState(true);
  const [sound, setSound] = useState(true);
  const [part, setPart] = useState<{ from: number; to: number } | null>(null);
  const [error, setError] = useState<ApiError | null>(null);
  const { shots, making, frame } = whats[Math.min(at, whats.length - 1)]!;
  const heard = shots.some(({ medium }) => medium.footage!.sound);
  const fitting = { frame: frame !== undefined, ground, sound: heard };
  const form = fits(wanted, fitting) ? wanted : ALL_FORMS.find((one) => fits(one, fitting))!;
  const { format, coding } = form;
  const depths = depthsFor(coding, ground);
  const bits = depths.find((one) => one === depth) ?? depths[0];
  const [one] = shots.length === 1 ? shots : [];
  const frames = one ? framesOf(one) : 0;
  const range = frame === undefined ? part : { from: frame, to: frame + 1 };
  const images = isImages(format) && frame === undefined;
  const rated = bitRate !== undefined && takesBitRate(coding);
  // Not said where it is what it would be anyway.
  const chosenBits = bits === CODING_DEPTHS[coding][0] ? undefined : bits;
  const choice: PrintChoice = {
    ...{ ...form, quality, share, bars, sound, making, ground, bits: chosenBits },
    ...(rated && { bitRate }),
    ...(images && firstNumber !== undefined && { firstNumber }),
    ...(one && range ? { range } : {}),
  };
  const orders = ordersFor(shots, choice);
  const told = estimate(pixelsOf(shots, choice), choice, prints);
  const rough = format === 'wav' ? { bytes: soundBytes(shots, choice), seconds: null } : rated ? { ...told, bytes: (bitRate * 1e6 * secondsOf(shots, choice)) / 8 } : told;
  const left = [...new Set(ground === undefined ? [] : shots.flatMap(({ look: worn }) => wearAlone(worn).left))];
  const bare = ground !== undefined && shots.some(({ look: worn }) => wearAlone(worn).look.lives.length === 0);
  const unkept = keeping.state !== 'kept';
  const long = isLoop(format) && shots.some((it) => (range ? range.to - range.from : framesOf(it)) > MOST_LOOP_FRAMES);

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
        {format !== 'wav' && (
          <Row name="Picture">
            <Choose name="Picture" options={GROUNDS} value={ground ?? 'worn'} onChange={(to) => setGround(to === 'worn' ? undefined : to)} wide />
            {ground !== undefined && !bare && (
              <p className="text-faint" data-ground>
                {groundWords(ground, coding)}
                {left.length > 0 && ` Left out, as they move or change the picture itself: ${left.join(', ')}.`}
              </p>
            )}
            {bare && (
              <p role="alert" className="text-oxide">
                There is no wear in this look that can be laid over a picture, such as grain, dust or scratches.
              </p>
            )}
          </Row>
        )}
        <Row name="Format">
          <select
            aria-label="Format"
            value={formKey(form)}
            onChange={(e) => setForm(ALL_FORMS.find((it) => formKey(it) === e.currentTarget.value)!)}
            className={`${FIELD} min-w-0 flex-1`}
          >
            {FORMS.map(({ kind, forms }) => {
              const offered = forms.filter((it) => fits(it, fitting));
              return (
                offered.length > 0 && (
                  <optgroup key={kind} label={frame === undefined ? kind : 'Image'}>
                    {offered.map((it) => (
                      <option key={formKey(it)} value={formKey(it)}>
                        {it.name}
                      </option>
                    ))}
                  </optgroup>
                )
              );
            })}
          </select>
          {depths.length > 0 && <Choose name="Depth" options={depths.map((n) => [String(n), `${n} bits`] as const)} value={String(bits)} onChange={(to) => setDepth(Number(to))} />}
        </Row>
        {hasQuality(coding) && (
          <Row name="Quality">
            <Choose
              name="Quality"
              options={takesBitRate(coding) ? [...QUALITIES, BY_BIT_RATE] : QUALITIES}
              value={rated ? 'rate' : quality}
              onChange={(to) => {
                setBitRate(to === 'rate' ? USUAL_BIT_RATE : undefined);
                if (to !== 'rate') setQuality(to);
              }}
            />
            {rated && (
              <>
                <Figure name="Bit rate" value={bitRate} {...BIT_RATE} onChange={setBitRate} /> Mbit/s
              </>
            )}
          </Row>
        )}
        {format !== 'wav' && (
          <Row name="Size">
            <select aria-label="Size" value={share} onChange={(e) => setShare(Number(e.currentTarget.value))} className={`${FIELD} mono`}>
              {SHARES.map(([s, words]) => (
                <option key={s} value={s}>
                  {making === 'each' && shots.length > 1 ? words : `${sizeOf(shots[0]!, { share: s, bars }).width} × ${sizeOf(shots[0]!, { share: s, bars }).height}`}
                </option>
              ))}
            </select>
          </Row>
        )}
        {format !== 'wav' && shots.some(hasShape) && (
          <Row name="Bars">
            <Check checked={bars} onChange={setBars}>
              beside the picture, so that the file keeps its shape
            </Check>
          </Row>
        )}
        {one && frame === undefined && (
          <Row name="Range">
            <Check checked={part === null} onChange={(all) => setPart(all ? null : { from: 0, to: frames })}>
              whole shot, {frames} frames
            </Check>
            {part && (
              <span className="flex items-center gap-2">
                <WholeField name="First frame" value={part.from + 1} most={part.to} onChange={(v) => setPart({ ...part, from: v - 1 })} />
                to
                <WholeField name="Last frame" value={part.to} least={part.from + 1} most={frames} onChange={(to) => setPart({ ...part, to })} />
              </span>
            )}
            {loop && (
              <button type="button" className="text-oxide underline" onClick={() => setPart({ from: loop.from, to: loop.to })}>
                the loop
              </button>
            )}
          </Row>
        )}
        {images && (
          <Row name="Numbers">
            from <WholeField name="First number" value={firstNumber ?? (range?.from ?? 0) + 1} least={0} onChange={setFirstNumber} /> on, all in a zip
          </Row>
        )}
        {heard && holdsSound(format) && format !== 'wav' && (
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
      {long && (
        <p role="alert" className="mt-3 text-oxide">
          A loop has at most {MOST_LOOP_FRAMES} frames. Choose a range, or a film.
        </p>
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
        <Button kind="live" disabled={unkept || long || bare} onClick={() => void strike()}>
          Strike
        </Button>
      </div>
    </>
  );
}
