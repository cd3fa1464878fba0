import { useDropzone } from 'react-dropzone';
import { bringFiles, dismissSending, useSendings } from '../api/upload';
import { Button } from './button';
import { useFileDrop } from './file-drop';

/** Choosing files: what is chosen becomes shots of the reel, as does what is dropped anywhere on the screen. */
export function useFiles(reel: string) {
  useFileDrop('Drop them to add them to this reel', (files) => void bringFiles(files, reel));
  return useDropzone({ noClick: true, noKeyboard: true, noDrag: true, onDropAccepted: (files) => void bringFiles(files, reel) });
}

/** What is on its way to the server, with how far it is. */
export function Sendings() {
  const list = useSendings((s) => s.list);
  return list.map((s) => (
    <div key={s.key} className="border-b border-rule py-1.5 text-[13px]" role="status">
      <div className="truncate font-medium" title={s.name}>
        {s.name}
      </div>
      {s.error ? <p className="text-oxide">{s.error}</p> : <progress className="h-1 w-full accent-oxide" value={s.share} aria-label={`Sending ${s.name}`} />}
      <Button kind="bare" className="!px-0 text-[13px] text-faint" onClick={() => (s.error ? dismissSending(s.key) : s.stop())}>
        {s.error ? 'Dismiss' : 'Stop'}
      </Button>
    </div>
  ));
}
