import { bringFiles, dismissSending, useSendings } from '../api/upload';
import { Button } from './button';
import { FileButton } from './file-button';
import { useFileDrop } from './file-drop';
import { texts } from '../messages/parts';

/** What is dropped anywhere on the screen becomes shots of the reel. */
export const useDroppedFootage = (reel: string): void => useFileDrop(texts.dropThemToAddThem, (files) => void bringFiles(files, reel));

/** What is chosen becomes shots of the reel. */
export const AddFootage = ({ reel, ...button }: { reel: string; kind?: 'live'; className?: string }) => (
  <FileButton {...button} label={texts.footageFiles} accept="" onFiles={(files) => void bringFiles(files, reel)}>
    {texts.addFootage}
  </FileButton>
);

/** What is on its way to the server, with how far it is. */
export function Sendings() {
  const list = useSendings((s) => s.list);
  return list.map((s) => (
    <div key={s.key} className="border-b border-rule py-1.5 text-[13px]" role="status">
      <div className="truncate font-semibold" title={s.name}>
        {s.name}
      </div>
      {s.error ? <p className="text-oxide">{s.error}</p> : <progress className="h-1 w-full accent-oxide" value={s.share} aria-label={texts.sendingName(s.name)} />}
      <Button kind="bare" className="!px-0 text-[13px] text-faint" onClick={() => (s.error ? dismissSending(s.key) : s.stop())}>
        {s.error ? texts.dismiss : texts.stop}
      </Button>
    </div>
  ));
}
