import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { Dialog } from 'radix-ui';
import { toast } from 'sonner';
import { wearAlone, type Ground } from '@tin-ghost/core';
import { BIT_RATE, filmName, holdsSound, isImages, isLoop, MOST_LOOP_FRAMES, printEnding, unknownField, type Reel, type Shot } from '@tin-ghost/contract';
import { usePrints, type ApiError } from '../../api/client';
import { orderPrints, PRINTS_NOTE } from '../../api/ordered';
import { Button } from '../../parts/button';
import { fileSize, timeFor } from '../../parts/amounts';
import { useDocument } from '../state/document';
import { usePlayback } from '../state/playback';
import { endPrinting, usePrinting } from '../state/printing';
import { Check, Choose, FIELD, Figure, Row, WholeField } from './print-fields';
import {
  BY_BIT_RATE,
  depthName,
  depthsFor,
  fits,
  formKey,
  FORMS,
  GROUNDS,
  groundWords,
  hasQuality,
  QUALITIES,
  takesBitRate,
  USUAL_BIT_RATE,
  type Form,
  type Quality,
} from './print-formats';
import { PrintNameField } from './print-name-field';
import { estimate, framesOf, hasShape, ordersFor, pixelsOf, secondsOf, sizeOf, soundBytes, type PrintChoice } from './print-orders';
import { whatOf } from './print-what';
import { texts } from '../../messages/shot';

const SHARES = [
  [1, texts.asTheyAre],
  [0.5, texts.half],
  [0.25, texts.quarter],
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
          <Dialog.Title className="text-[20px] font-semibold">{texts.strikePrints}</Dialog.Title>
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
  const [name, setName] = useState('');
  const [error, setError] = useState<ApiError | null>(null);
  const { shots, making, frame } = whats[Math.min(at, whats.length - 1)]!;
  const heard = shots.some(({ medium }) => medium.footage!.sound);
  const fitting = { frame: frame !== undefined, ground, sound: heard };
  const form = fits(wanted, fitting) ? wanted : ALL_FORMS.find((one) => fits(one, fitting))!;
  const { format, coding } = form;
  const depths = depthsFor(coding, ground, quality);
  const bits = depths.find((one) => one === depth) ?? depths[0];
  const [one] = shots.length === 1 ? shots : [];
  const frames = one ? framesOf(one) : 0;
  const range = frame === undefined ? part : { from: frame, to: frame + 1 };
  const images = isImages(format) && frame === undefined;
  // In the first file.
  const made = one && range ? range.to - range.from : (making === 'film' ? shots : shots.slice(0, 1)).reduce((sum, it) => sum + framesOf(it), 0);
  const rated = bitRate !== undefined && takesBitRate(coding);
  // Not said where it is what it would be anyway.
  const chosenBits = bits === depths[0] ? undefined : bits;
  const choice: PrintChoice = {
    ...{ format, coding, quality, share, bars, sound, making, ground, bits: chosenBits },
    ...(rated && { bitRate }),
    ...(name.trim() && { name: name.trim() }),
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
      toast(orders.length === 1 ? texts.printIsBeingStruck : texts.printsAreBeingStruck(orders.length), {
        id: PRINTS_NOTE,
        description: texts.youAreToldHereWhen,
        action: { label: texts.toPrints, onClick: () => void navigate('/prints') },
      });
    } catch (caught) {
      setError(caught as ApiError);
    }
  };
  return (
    <>
      <fieldset className="mt-4 grid grid-cols-[80px_1fr] items-center gap-y-3">
        <Row name={texts.what}>
          <select aria-label={texts.what} value={at} onChange={(e) => setAt(Number(e.currentTarget.value))} className={`${FIELD} w-full`}>
            {whats.map(({ label }, i) => (
              <option key={label} value={i}>
                {label}
              </option>
            ))}
          </select>
        </Row>
        {format !== 'wav' && (
          <Row name={texts.picture}>
            <Choose name={texts.picture} options={GROUNDS} value={ground ?? 'worn'} onChange={(to) => setGround(to === 'worn' ? undefined : to)} wide />
            {ground !== undefined && !bare && (
              <p className="text-faint" data-ground>
                {groundWords(ground, coding)}
                {left.length > 0 && texts.leftOutOfWear(left.join(', '))}
              </p>
            )}
            {bare && (
              <p role="alert" className="text-oxide">
                {texts.thereIsNoWear}
              </p>
            )}
          </Row>
        )}
        <Row name={texts.format}>
          <select
            aria-label={texts.format}
            value={formKey(form)}
            onChange={(e) => setForm(ALL_FORMS.find((it) => formKey(it) === e.currentTarget.value)!)}
            className={`${FIELD} min-w-0 flex-1`}
          >
            {FORMS.map(({ kind, forms }) => {
              const offered = forms.filter((it) => fits(it, fitting));
              return (
                offered.length > 0 && (
                  <optgroup key={kind} label={frame === undefined ? kind : texts.image}>
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
          {depths.length > 0 && (
            <Choose name={texts.depth} options={depths.map((n) => [String(n), depthName(coding, n)] as const)} value={String(bits)} onChange={(to) => setDepth(Number(to))} />
          )}
        </Row>
        {hasQuality(coding) && (
          <Row name={texts.quality}>
            <Choose
              name={texts.quality}
              options={takesBitRate(coding) ? [...QUALITIES, BY_BIT_RATE] : QUALITIES}
              value={rated ? 'rate' : quality}
              onChange={(to) => {
                setBitRate(to === 'rate' ? USUAL_BIT_RATE : undefined);
                if (to !== 'rate') setQuality(to);
              }}
            />
            {rated && (
              <>
                <Figure name={texts.bitRate} value={bitRate} {...BIT_RATE} onChange={setBitRate} /> {texts.megabits}
              </>
            )}
          </Row>
        )}
        {format !== 'wav' && (
          <Row name={texts.size}>
            <select aria-label={texts.size} value={share} onChange={(e) => setShare(Number(e.currentTarget.value))} className={`${FIELD} mono`}>
              {SHARES.map(([s, words]) => (
                <option key={s} value={s}>
                  {making === 'each' && shots.length > 1 ? words : `${sizeOf(shots[0]!, { share: s, bars }).width} × ${sizeOf(shots[0]!, { share: s, bars }).height}`}
                </option>
              ))}
            </select>
          </Row>
        )}
        {format !== 'wav' && shots.some(hasShape) && (
          <Row name={texts.bars}>
            <Check checked={bars} onChange={setBars}>
              {texts.besidePictureSoThatFile}
            </Check>
          </Row>
        )}
        {one && frame === undefined && (
          <Row name={texts.range}>
            <Check checked={part === null} onChange={(all) => setPart(all ? null : { from: 0, to: frames })}>
              {texts.wholeShot(frames)}
            </Check>
            {part && (
              <span className="flex items-center gap-2">
                <WholeField name={texts.firstFrame} value={part.from + 1} most={part.to} onChange={(v) => setPart({ ...part, from: v - 1 })} />
                {texts.to}
                <WholeField name={texts.lastFrame} value={part.to} least={part.from + 1} most={frames} onChange={(to) => setPart({ ...part, to })} />
              </span>
            )}
            {loop && (
              <button type="button" className="text-oxide underline" onClick={() => setPart({ from: loop.from, to: loop.to })}>
                {texts.loop}
              </button>
            )}
          </Row>
        )}
        {images && (
          <Row name={texts.numbers}>
            {texts.from} <WholeField name={texts.firstNumber} value={firstNumber ?? (range?.from ?? 0) + 1} least={0} onChange={setFirstNumber} /> {texts.onAllInZip}
          </Row>
        )}
        {heard && holdsSound(format) && format !== 'wav' && (
          <Row name={texts.sound}>
            <Check checked={sound} onChange={setSound}>
              {texts.includeSoundInStep}
            </Check>
          </Row>
        )}
        <Row name={texts.fileName}>
          <PrintNameField
            reel={reel}
            shot={shots[0]!}
            film={making === 'film' ? filmName(reel.name, shots.length) : undefined}
            ending={printEnding(form, made)}
            value={name}
            onChange={setName}
          />
        </Row>
      </fieldset>
      {making !== 'each' && shots.length > 1 && <p className="mt-3 text-faint">{texts.filmHasSizeAndFps}</p>}
      {long && (
        <p role="alert" className="mt-3 text-oxide">
          {texts.loopHasAtMost(MOST_LOOP_FRAMES)}
        </p>
      )}
      <p className="mono mt-3" data-estimate>
        {texts.estimate(orders.length, fileSize(rough.bytes), rough.seconds === null ? null : timeFor(rough.seconds))}
      </p>
      {error && (
        <p role="alert" className="mt-3 text-oxide">
          {error.message}
        </p>
      )}
      <div className="mt-5 flex items-center justify-end gap-2">
        {unkept && <span className="mr-auto text-faint">{texts.savingYourLastChange}</span>}
        <Dialog.Close asChild>
          <Button>{texts.cancel}</Button>
        </Dialog.Close>
        <Button kind="live" disabled={unkept || long || bare || unknownField(name) !== undefined} onClick={() => void strike()}>
          {texts.strike}
        </Button>
      </div>
    </>
  );
}
