import { shape } from '../look/json-schema';
import { LookError, pathText, SchemaCheck, wordsFor, type Json } from '../look/schema-check';
import { INPUT_CURVES, INPUT_PRIMARIES } from './curves';
import { BETWEEN, FRAMING_LIMITS, SPEED_LIMITS, type Preparation } from './preparation';

const number = (minimum: number, maximum: number): Json => ({ type: 'number', minimum, maximum });
const picture: Json = { type: 'integer', minimum: 0, maximum: 1e8 };
const framing = Object.fromEntries(Object.entries(FRAMING_LIMITS).map(([key, [min, max]]) => [key, number(min, max)]));
const FRAMING = Object.keys(framing);
const MOST_MOVES = 500;

/** A JSON Schema (2020-12) of what is done to a shot before its look. */
export const preparationJsonSchema = (): Json => ({
  title: 'Tin Ghost preparation',
  ...shape([], {
    trim: shape(['from', 'to'], { from: picture, to: picture }),
    speed: number(...SPEED_LIMITS),
    between: { enum: BETWEEN },
    curve: { enum: Object.keys(INPUT_CURVES) },
    primaries: { enum: Object.keys(INPUT_PRIMARIES) },
    table: { type: 'string', maxLength: 200 },
    shape: number(0.2, 5),
    framing: shape(FRAMING, framing),
    moves: { type: 'array', maxItems: MOST_MOVES, items: shape(['at', ...FRAMING], { at: number(0, 360_000), ease: { enum: ['hold', 'line', 'smooth'] }, ...framing }) },
    mirror: { type: 'boolean' },
    quarter: { enum: [0, 1, 2, 3] },
    beyond: { type: 'boolean' },
  }),
});

let check: SchemaCheck | undefined;

/** Checks a parsed preparation. @throws LookError that names every wrong place (the first 20) */
export function checkPreparation(value: unknown): Preparation {
  check ??= new SchemaCheck(preparationJsonSchema());
  const wrong = check.wrong(value).map((place) => ({ path: pathText(place.path), message: wordsFor(place) }));
  const right = (part: keyof Preparation): boolean => !wrong.some(({ path }) => path === '' || path.startsWith(part));
  const { trim, moves } = (value ?? {}) as Preparation;
  if (trim && right('trim') && trim.to <= trim.from) wrong.push({ path: 'trim.to', message: 'must be greater than trim.from' });
  if (moves && right('moves') && moves.some((move, i) => i > 0 && move.at <= moves[i - 1]!.at)) wrong.push({ path: 'moves', message: 'must stand in order of time' });
  if (wrong.length) throw new LookError(wrong.slice(0, 20));
  return value as Preparation;
}

/**
 * Checks that what is taken of footage lies within it.
 * @param frames how many pictures the footage has @throws LookError that names the place
 */
export function checkTrim({ trim }: Preparation, frames: number): void {
  if (trim && trim.to > frames) throw new LookError([{ path: trim.from >= frames ? 'trim.from' : 'trim.to', message: `lies beyond the end: the footage has ${frames} frames` }]);
}
