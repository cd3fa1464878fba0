import { toast } from 'sonner';
import { sendFont, useFonts } from '../../api/client';
import { FileButton } from '../../parts/file-button';
import { texts } from '../../messages/card';

/** A font: one that ships, one that is kept, or one from a file. */
export function FontField({ label, value, onChange }: { label: string; value: string; onChange: (id: string) => void }) {
  const { data: fonts } = useFonts();
  const bring = (chosen: File): void => {
    sendFont(chosen).then(
      ({ id }) => onChange(id),
      (error: Error) => toast.error(error.message, { duration: 15_000 }),
    );
  };
  const lost = fonts && !fonts.some((font) => font.id === value);
  return (
    <div className="mb-1 flex min-h-7 flex-wrap items-center gap-1.5">
      <span className="w-[86px] shrink-0">{label}</span>
      <select aria-label={label} className="min-w-0 flex-1 rounded-sm border border-rule bg-well px-1 py-0.5" value={value} onChange={(e) => onChange(e.currentTarget.value)}>
        {fonts?.map((font) => (
          <option key={font.id} value={font.id}>
            {font.name}
          </option>
        ))}
        {lost && <option value={value}>{texts.notOnThisMachine}</option>}
      </select>
      <FileButton kind="bare" label={texts.fileOf(label)} accept=".ttf,.otf,.woff" title={texts.importTtfOtfOrWoffFile} onFile={bring}>
        {texts.file}
      </FileButton>
      {lost && (
        <p role="status" className="w-full text-[13px] text-oxide">
          {texts.thisFontIsNot}
        </p>
      )}
    </div>
  );
}
