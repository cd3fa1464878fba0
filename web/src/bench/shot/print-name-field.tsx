import { fileStem, NAME_FIELDS, nameBy, unknownField, USUAL_NAME, type Reel, type Shot } from '@tin-ghost/contract';
import { FIELD } from './print-fields';
import { texts } from '../../messages/shot';

const FIELDS = NAME_FIELDS.map((field) => `{${field}}`).join(' ');

interface Props {
  reel: Reel;
  /** The first, or the only one. */
  shot: Shot;
  /** What a film of several shots is called without a pattern. */
  film?: string;
  /** Of the file. */
  ending: string;
  value: string;
  onChange: (pattern: string) => void;
}

/** A pattern by which files are named, and what the first is called by it. */
export function PrintNameField({ reel, shot, film, ending, value, onChange }: Props) {
  const pattern = value.trim();
  const unknown = unknownField(pattern);
  const known = { reel: reel.name, place: reel.shots.findIndex(({ id }) => id === shot.id), shot: shot.name, look: shot.look.name };
  const name = pattern ? nameBy(pattern, known) : (film ?? nameBy(USUAL_NAME, known));
  return (
    <>
      <input
        aria-label={texts.fileName}
        aria-invalid={unknown !== undefined}
        value={value}
        placeholder={film ?? USUAL_NAME}
        maxLength={160}
        onChange={(e) => onChange(e.currentTarget.value)}
        className={`${FIELD} w-full`}
      />
      {unknown === undefined ? (
        <p className="text-faint">
          <span data-file-name>
            {fileStem(name)}.{ending}
          </span>
          <br />
          {texts.filledIn(FIELDS)}
        </p>
      ) : (
        <p role="alert" className="text-oxide">
          {texts.cannotBeFilledIn(`{${unknown}}`, FIELDS)}
        </p>
      )}
    </>
  );
}
