import { useState } from 'react';
import { toast } from 'sonner';
import { isImages, isLoop, isUnderWay, printEnding, type Print } from '@tin-ghost/contract';
import { api, refresh, usePrints } from '../api/client';
import { useLivePrint } from '../api/live';
import { fileSize, timeLeft } from '../parts/amounts';
import { Button } from '../parts/button';
import { Page, PageLink } from '../parts/page';
import { CODING_NAMES, codingOf, formatName, hasQuality, GROUNDS } from '../bench/shot/print-formats';
import { texts } from '../messages/prints';

/** How a browser shows what is in a file. */
const SHOWN: Readonly<Partial<Record<string, 'film' | 'image' | 'sound'>>> = { mp4: 'film', webm: 'film', png: 'image', gif: 'image', webp: 'image', wav: 'sound' };

/** What a print is made as, in a line. */
function described({ settings, shots, total }: Print): string {
  const { format, width, height, from, to, quality, bitRate, bits, ground, sound } = settings;
  const coding = codingOf(settings);
  const kind = formatName(format);
  const name = CODING_NAMES[coding] === kind ? '' : CODING_NAMES[coding];
  return [
    [kind, name, bits && texts.bits(bits)].filter(Boolean).join(' '),
    format !== 'wav' && `${width} × ${height}`,
    shots > 1 ? texts.shotsFrames(shots, total) : total === 1 ? texts.frame(to) : texts.framesFromTo(from + 1, to),
    ground && GROUNDS.find(([id]) => id === ground)![1],
    bitRate !== undefined && `${bitRate} Mbit/s`,
    quality && quality !== 'deliver' && hasQuality(coding) && texts.quality[quality],
    !sound && !isImages(format) && !isLoop(format) && texts.noSound,
  ]
    .filter(Boolean)
    .join(', ');
}

/** What is being struck, what is done, what failed and why. */
export function Prints() {
  const { data: prints, error } = usePrints();
  const next = prints?.filter(({ state }) => isUnderWay(state)).sort((a, b) => b.priority - a.priority || a.createdAt.localeCompare(b.createdAt))[0]?.id;
  return (
    <Page heading={texts.prints} beside={<PageLink to="/machines">{texts.machines}</PageLink>} error={error}>
      {prints?.length === 0 && (
        <div className="rounded-sm border border-dashed border-faint bg-tin px-8 py-10 text-center">
          <p>{texts.finishedFilesStandHereOpen}</p>
        </div>
      )}
      <ul className="flex flex-col gap-3">
        {prints?.map((print) => (
          <PrintRow key={print.id} print={print} first={print.id === next} />
        ))}
      </ul>
    </Page>
  );
}

/** @param first whether it comes before all others that are under way */
function PrintRow({ print: fetched, first }: { print: Print; first: boolean }) {
  const print = useLivePrint(fetched);
  const [watching, setWatching] = useState(false);
  const shown = SHOWN[printEnding(print.settings, print.total)];
  const act =
    (path: string, method = 'POST') =>
    (): void =>
      void api(`/prints/${print.id}${path}`, { method }).then(
        () => refresh('/prints'),
        (error: Error) => toast.error(error.message),
      );
  return (
    <li className="rounded-sm border border-rule bg-tin" data-print={print.state}>
      <div className="flex items-center gap-4 p-3">
        <img
          draggable={false}
          src={print.state === 'done' && print.settings.format !== 'wav' ? `/api/prints/${print.id}/poster` : `/api/media/${print.mediaId}/poster`}
          alt=""
          className="h-[72px] w-[128px] shrink-0 bg-surround object-cover"
        />
        <div className="min-w-0 flex-1">
          <div className="truncate text-[17px] font-semibold">{print.name}</div>
          <div className="mono text-faint">{described(print)}</div>
          <State print={print} />
        </div>
        <div className="flex shrink-0 gap-2">
          {isUnderWay(print.state) && (
            <>
              {!first && <Button onClick={act('/next')}>{texts.moveToTop}</Button>}
              {print.state === 'paused' ? <Button onClick={act('/resume')}>{texts.resume}</Button> : <Button onClick={act('/pause')}>{texts.pause}</Button>}
              <Button onClick={act('/stop')}>{texts.stop}</Button>
            </>
          )}
          {print.state === 'done' && (
            <>
              {shown && <Button onClick={() => setWatching((w) => !w)}>{watching ? texts.close : OPENS[shown]}</Button>}
              <a className="inline-flex items-center rounded-sm border border-oxide bg-oxide px-3 py-1 font-semibold text-oxide-ink" href={`/api/prints/${print.id}/file`}>
                {texts.download}
              </a>
            </>
          )}
          {(print.state === 'failed' || print.state === 'stopped') && <Button onClick={act('/again')}>{texts.strikeAgain}</Button>}
          {!isUnderWay(print.state) && <Button onClick={act('', 'DELETE')}>{texts.discard}</Button>}
        </div>
      </div>
      {watching && shown && <Shown kind={shown} src={`/api/prints/${print.id}/file?watch`} />}
    </li>
  );
}

const OPENS = { film: texts.watch, image: texts.lookAt, sound: texts.listen } as const;

function Shown({ kind, src }: { kind: keyof typeof OPENS; src: string }) {
  if (kind === 'sound') return <audio controls autoPlay src={src} className="block w-full p-3" />;
  if (kind === 'image') return <img src={src} alt="" className="block max-h-[60vh] w-full bg-surround object-contain" />;
  return <video controls autoPlay src={src} className="block max-h-[60vh] w-full bg-surround" />;
}

function State({ print }: { print: Print }) {
  if (print.state === 'failed') {
    return (
      <p role="alert" className="text-oxide">
        {texts.notFinished(print.error ?? '')} {print.done > 0 && texts.strikeAgainGoesOn(print.done)}
      </p>
    );
  }
  if (print.state === 'stopped') return <p className="text-faint">{texts.stopped}</p>;
  if (print.state === 'done') return <p className="text-moss">{texts.done(fileSize(print.bytes ?? 0))}</p>;
  if (print.state === 'paused') return <p className="text-faint">{texts.paused(print.done, print.total)}</p>;
  if (print.state === 'waiting' && print.done === 0) return <p className="text-faint">{texts.waitingForItsTurn}</p>;
  if (print.error) return <p role="status">{texts.waitingFor(print.done, print.total, print.error)}</p>;
  return (
    <div className="mt-1 flex items-center gap-3" role="status">
      <progress className="h-1.5 flex-1 accent-oxide" value={print.done} max={print.total} aria-label={texts.striking(print.name)} />
      <span className="mono w-[330px]">
        {texts.progress(
          print.done,
          print.total,
          print.done === print.total
            ? texts.joiningItsSegments
            : print.perSecond > 0
              ? texts.rateAndTimeLeft(print.perSecond.toFixed(1), timeLeft(print.secondsLeft))
              : texts.measuringTimeLeft,
        )}
      </span>
    </div>
  );
}
