import { LOOK_SCHEMA } from './look';
import { LookError, type Json } from './schema-check';

/** Brings a look of one version to the next. It is given a look that was right in its own version, and changes nothing of it in place. */
export type Migration = (look: Json) => Json;

/**
 * From version 1 on, each to the next. A version is never changed once looks of it may lie on somebody's disk: what the format says
 * anew gets another number, a migration here, and a test that a look of the old version shows the same pictures.
 */
const MIGRATIONS: readonly Migration[] = [
  // A look says which shape it has. In version 1 one that said nothing took the file's.
  ({ shape = 'file', lives, ...look }) => ({ ...look, shape, lives }),
];

const NAME = 'tin-ghost/look@';
const versionOf = (schema: string): number => Number(schema.slice(NAME.length));

/**
 * A look as the present version has it.
 * @param value parsed; what is no look is given back as it is, for the check to find
 * @param migrations from version 1 on, each to the next
 * @throws LookError for a look of a version that is newer than this program
 */
export function broughtUp(value: unknown, migrations = MIGRATIONS, present = LOOK_SCHEMA as string): unknown {
  const schema = (value as { schema?: unknown } | null)?.schema;
  if (typeof schema !== 'string' || !/^tin-ghost\/look@[1-9]\d{0,5}$/.test(schema)) return value;
  const [from, to] = [versionOf(schema), versionOf(present)];
  if (from > to) throw new LookError([{ path: 'schema', message: `the look was made by a newer Tin Ghost ("${schema}"); this one reads looks up to "${present}"` }]);
  return migrations.slice(from - 1, to - 1).reduce<Json>((look, migrate, i) => ({ ...migrate(look), schema: `${NAME}${from + i + 1}` }), value as Json);
}
