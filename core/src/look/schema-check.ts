import { Validator } from '@cfworker/json-schema';

export type Json = { [key: string]: unknown };
export type Path = readonly (string | number)[];

/** A place of a value that breaks a keyword of its schema. */
export interface WrongPlace {
  readonly path: Path;
  readonly keyword: string;
  /** The part of the schema that the keyword stands in. */
  readonly schema: Json;
}

/** One thing that is wrong with a look or a preparation: where, as a path such as `lives[0].traits[2].settings.size`, and what. */
export interface Problem {
  readonly path: string;
  readonly message: string;
}

export class LookError extends Error {
  constructor(readonly problems: readonly Problem[]) {
    super(problems.map((p) => (p.path ? `${p.path}: ${p.message}` : p.message)).join('\n'));
    this.name = 'LookError';
  }
}

/** A path as it is written in JavaScript. */
export const pathText = (path: Path): string => path.map((part, i) => (typeof part === 'number' ? `[${part}]` : i === 0 ? part : `.${part}`)).join('');

/** Only tell that something lies below them. */
const ENCLOSING = new Set(['$ref', 'properties', 'items', 'additionalProperties', 'unevaluatedProperties', 'oneOf', 'allOf', 'anyOf']);

const parts = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((part) => decodeURIComponent(part).replaceAll('~1', '/').replaceAll('~0', '~'));

/** A value held against a JSON Schema (2020-12). Nothing is compiled: a page whose policy lets no text be run can do it. */
export class SchemaCheck {
  private readonly validator: Validator;

  constructor(private readonly schema: Json) {
    this.validator = new Validator(schema, '2020-12', false);
  }

  /** Every wrong place, in the order of the schema. @param value of JSON; numbers that are none count as null, as in a file */
  wrong(value: unknown): WrongPlace[] {
    const written = value === undefined ? null : (JSON.parse(JSON.stringify(value)) as unknown);
    const { errors } = this.validator.validate(written);
    const found = errors
      .filter(({ keyword }) => !ENCLOSING.has(keyword))
      .map(({ keyword, keywordLocation, instanceLocation }) => ({
        path: this.pathIn(written, instanceLocation),
        keyword,
        schema: keyword === 'false' ? {} : this.holder(parts(keywordLocation).slice(0, -1)),
      }));
    const told = found.flatMap((place) => (place.keyword === 'required' ? this.missing(written, place, found) : [place]));
    // What is wrong in itself is not unknown besides.
    return told.filter(({ keyword, path }) => keyword !== 'false' || !told.some((other) => other.keyword !== 'false' && path.every((part, i) => other.path[i] === part)));
  }

  /** What is not there stands at its own place, told once for the object that lacks it. */
  private missing(value: unknown, place: WrongPlace, all: readonly WrongPlace[]): WrongPlace[] {
    if (all.find((other) => other.keyword === 'required' && pathText(other.path) === pathText(place.path)) !== place) return [];
    const holder = place.path.reduce<unknown>((at, part) => (at as Json)[part], value) as Json;
    return (place.schema.required as string[]).filter((key) => !(key in holder)).map((key) => ({ ...place, path: [...place.path, key] }));
  }

  /** Places in lists become numbers. */
  private pathIn(value: unknown, pointer: string): (string | number)[] {
    let at = value;
    return parts(pointer).map((part) => {
      const key = Array.isArray(at) ? Number(part) : part;
      at = (at as Json | undefined)?.[key];
      return key;
    });
  }

  private holder(way: readonly string[]): Json {
    return way.reduce<Json>((at, part) => (part === '$ref' ? this.definition(at.$ref as string) : (at[part] as Json)), this.schema);
  }

  private definition(ref: string): Json {
    return parts(ref).reduce<Json>((at, part) => at[part] as Json, this.schema);
  }
}

const list = (words: readonly unknown[]): string => words.join(', ');
const TYPES: Readonly<Record<string, string>> = { boolean: 'true or false', string: 'a text', array: 'a list', object: 'an object' };

/** What is wrong, for a person. @param unit of a number, where it has one */
export function wordsFor({ keyword, schema: s }: WrongPlace, unit = ''): string {
  if (s.type === 'number' && 'minimum' in s) return `must be a number from ${String(s.minimum)} to ${String(s.maximum)}${unit}`;
  if (s.type === 'integer') return `must be a whole number from ${String(s.minimum)} to ${String(s.maximum)}`;
  switch (keyword) {
    case 'required':
      return 'is required';
    case 'false':
      return 'is not allowed';
    case 'enum':
      return `must be one of ${list(s.enum as unknown[])}`;
    case 'const':
      return `must be ${JSON.stringify(s.const)}`;
    case 'pattern':
      return `must be written as ${String(s.$comment)}`;
    case 'minLength':
      return 'is not allowed to be empty';
    case 'maxLength':
      return `must not be longer than ${String(s.maxLength)} characters`;
    case 'minItems':
    case 'maxItems':
      return s.minItems === s.maxItems ? `must hold ${String(s.minItems)} values` : `must hold ${Number(s.minItems ?? 0)} to ${String(s.maxItems)} values`;
    case 'maxProperties':
      return `must hold at most ${String(s.maxProperties)}`;
    default:
      return `must be ${TYPES[String(s.type)] ?? `of type ${String(s.type)}`}`;
  }
}
