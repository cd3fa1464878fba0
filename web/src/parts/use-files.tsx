import { useDropzone } from 'react-dropzone';
import { bringFiles, dismissSending, useSendings } from '../api/upload';
import { Button } from './button';

/** Files dropped or chosen become shots of the reel. */
export function useFiles(reel: string | null) {
  return useDropzone({ noClick: true, noKeyboard: true, disabled: !reel, onDropAccepted: (files) => void (reel && bringFiles(files, reel)) });
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
