import { toast } from 'sonner';
import { sendTable, useTables } from '../../api/client';
import { FileButton } from '../../parts/file-button';
import { texts } from '../../messages/card';

/** A .cube table: one that is kept, or one from a file. */
export function TableField({ label, value, onChange }: { label: string; value: string; onChange: (id: string) => void }) {
  const { data: tables } = useTables();
  const bring = (chosen: File): void => {
    sendTable(chosen).then(
      ({ id }) => onChange(id),
      (error: Error) => toast.error(error.message, { duration: 15_000 }),
    );
  };
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-[92px] shrink-0">{texts.table}</span>
      <select aria-label={label} className="min-w-0 flex-1 rounded-sm border border-rule bg-well px-1 py-0.5" value={value} onChange={(e) => onChange(e.currentTarget.value)}>
        <option value="">{texts.none}</option>
        {tables?.map((t) => (
          <option key={t.id} value={t.id}>
            {t.name}
          </option>
        ))}
        {value && !tables?.some((t) => t.id === value) && <option value={value}>{texts.notOnThisMachine}</option>}
      </select>
      <FileButton kind="bare" label={texts.fileOf(label)} accept=".cube" title={texts.importCubeFile} onFile={bring}>
        {texts.cube}
      </FileButton>
    </div>
  );
}
