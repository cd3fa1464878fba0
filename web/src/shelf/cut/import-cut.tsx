import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { Dialog } from 'radix-ui';
import { create } from 'zustand';
import { toast } from 'sonner';
import type { CutIn } from '@tin-ghost/core';
import { useReels } from '../../api/client';
import { Button } from '../../parts/button';
import { FileButton } from '../../parts/file-button';
import { isCutName, wantedBy, type Wanted } from './cut-media';
import { keptNote, layCut, type LaidCut, type Progress } from './lay-cut';
import { texts } from '../../messages/cut';

/** The cut that is being imported, and the files that came with it. */
const useCut = create<{ cut: CutIn | null; files: readonly File[] }>(() => ({ cut: null, files: [] }));

/** Cuts larger than this are none that a person made. */
const MOST_BYTES = 50e6;

/** Whether a cut is among files that were handed over. */
export const hasCut = (files: readonly File[]): boolean => files.some(({ name }) => isCutName(name));

/** Reads the cut among some files, and asks for what it lacks; what is wrong with it is told. */
export async function beginCut(files: readonly File[]): Promise<void> {
  const file = files.find(({ name }) => isCutName(name))!;
  try {
    if (file.size > MOST_BYTES) throw new Error(texts.fileTooLarge(Math.ceil(file.size / 1e6), MOST_BYTES / 1e6));
    const [text, { readCut }] = await Promise.all([file.text(), import('./cut-files')]);
    useCut.setState({ cut: readCut(file.name, text), files: files.filter((one) => !isCutName(one.name)) });
  } catch (error) {
    toast.error(texts.cannotBeRead(file.name, (error as Error).message));
  }
}

const close = (): void => useCut.setState({ cut: null, files: [] });

/** A button that asks for a cut, and its footage with it. */
export const CutButton = () => (
  <FileButton label={texts.cutToImport} accept="" onFiles={(files) => (hasCut(files) ? void beginCut(files) : toast.error(texts.thereIsNoCutAmong))}>
    {texts.importCut}
  </FileButton>
);

/** What a cut asks for, where it was found, and what is missing. */
export function ImportCut() {
  const cut = useCut((s) => s.cut);
  return (
    <Dialog.Root open={cut !== null} onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#1b1e1f]/55" />
        <Dialog.Content
          className="fixed top-16 left-1/2 z-50 flex max-h-[calc(100vh-80px)] w-[min(620px,94vw)] -translate-x-1/2 flex-col rounded-sm border border-rule bg-panel p-5 shadow-xl"
          aria-describedby={undefined}
        >
          {cut && <Asked cut={cut} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Asked({ cut }: { cut: CutIn }) {
  const files = useCut((s) => s.files);
  const { data: reels = [] } = useReels();
  const navigate = useNavigate();
  const [byHand, setByHand] = useState<ReadonlyMap<string, readonly File[]>>(new Map());
  const [progress, setProgress] = useState<Progress | null>(null);
  const [laid, setLaid] = useState<LaidCut | null>(null);
  const [error, setError] = useState<string | null>(null);
  const wanted = useMemo(() => wantedBy(cut, byHand, files, reels), [cut, byHand, files, reels]);
  const missing = wanted.filter(({ source }) => source === null);
  const lacking = cut.shots.filter(({ file }) => missing.some(({ name }) => name === file)).length;

  const open = async (reel: string): Promise<void> => {
    close();
    await navigate(`/reels/${reel}`);
  };
  const lay = async (): Promise<void> => {
    setProgress({ done: 0, of: wanted.length });
    try {
      const result = await layCut(cut, wanted, setProgress);
      // Closed meanwhile, it has gone on by itself.
      if (useCut.getState().cut !== cut) toast(texts.nameIsImported(cut.name), { action: { label: texts.open, onClick: () => void navigate(`/reels/${result.reel}`) } });
      else if (result.notes.length) setLaid(result);
      else await open(result.reel);
    } catch (caught) {
      setError((caught as Error).message);
    }
    setProgress(null);
  };
  if (laid)
    return (
      <>
        <Dialog.Title className="text-[20px] font-semibold">{texts.cutIsImported(cut.name)}</Dialog.Title>
        <p className="mt-2">{texts.itDiffersFromCutInThis}</p>
        <ul className="my-3 list-disc overflow-y-auto pl-5" data-cut-notes>
          {laid.notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
        </ul>
        <div className="flex justify-end">
          <Button kind="live" onClick={() => void open(laid.reel)}>
            {texts.openReel}
          </Button>
        </div>
      </>
    );
  return (
    <>
      <Dialog.Title className="text-[20px] font-semibold">{texts.importCutNamed(cut.name)}</Dialog.Title>
      <p className="mt-2">
        {texts.shotsOfFiles(cut.shots.length, wanted.length, missing.length)} {texts.eachShotKeepsItsTrim}
      </p>
      <ul className="my-3 min-h-0 flex-1 overflow-y-auto border-y border-rule" aria-label={texts.filesOfCut}>
        {wanted.map((one) => (
          <FileRow key={one.name} wanted={one} onFound={(found) => setByHand(new Map([...byHand, [one.name, found]]))} />
        ))}
      </ul>
      {cut.left.length > 0 && <p className="text-faint">{texts.leftOutOfCut(cut.left.join('; '))}</p>}
      {cut.kept.length > 0 && <p className="text-faint">{keptNote(cut)}</p>}
      {lacking > 0 && <p className="mt-1">{texts.shotsLeftOut(lacking)}</p>}
      {error && (
        <p role="alert" className="mt-2 text-oxide">
          {error}
        </p>
      )}
      <div className="mt-4 flex items-center justify-end gap-2">
        {progress && (
          <span role="status" className="mr-auto">
            {texts.importingFiles(progress.done, progress.of)}
          </span>
        )}
        <FileButton label={texts.footageOfCut} accept="" disabled={progress !== null} onFiles={(more) => useCut.setState({ files: [...files, ...more] })}>
          {texts.addFiles}
        </FileButton>
        <Dialog.Close asChild>
          <Button>{progress ? texts.close : texts.cancel}</Button>
        </Dialog.Close>
        <Button kind="live" disabled={progress !== null || missing.length === wanted.length} onClick={() => void lay()}>
          {texts.import}
        </Button>
      </div>
    </>
  );
}

function placeOf(name: string, source: Wanted['source']): string {
  if (source === null) return 'missing';
  if (source.kind === 'here') return texts.hereInReel(source.reel);
  if (source.kind === 'images') return texts.imagesToBeImported(source.files.length);
  return source.file.name === name ? texts.toBeImported : texts.nameToBeImported(source.file.name);
}

function FileRow({ wanted: { name, shots, isSequence, source }, onFound }: { wanted: Wanted; onFound: (files: readonly File[]) => void }) {
  const find = { label: isSequence ? texts.imagesFor(name) : texts.fileFor(name), kind: 'bare', className: '!px-0 justify-self-end text-faint', accept: '' } as const;
  return (
    <li className="grid grid-cols-[1fr_60px_220px_64px] items-center gap-3 border-b border-rule px-1 py-2 last:border-0" data-cut-file={source?.kind ?? 'missing'}>
      <span className="truncate">{name}</span>
      <span className="text-right text-faint">{texts.shots(shots)}</span>
      <span className={`truncate text-right ${source ? 'text-moss' : 'text-oxide'}`}>{placeOf(name, source)}</span>
      <FileButton {...find} {...(isSequence ? { onFiles: onFound } : { onFile: (file: File) => onFound([file]) })}>
        {source ? texts.another : texts.find}
      </FileButton>
    </li>
  );
}
