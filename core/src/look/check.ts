import { parseTree, type ParseError } from 'jsonc-parser';
import { carrierById, carriers } from '../carriers';
import type { Motion } from '../motion/motion';
import type { Setting } from '../traits/settings';
import type { AnyTrait } from '../traits/trait';
import { traitById, traits } from '../traits/known';
import { lacking } from '../traits/fits';
import { followProblems } from './follows';
import { frameSchema, mayMove, motionSchema, useSchema, type MovingSetting } from './json-schema';
import { LOOK_LIMITS, type Look, type TraitUse } from './look';
import { LookError, pathText, SchemaCheck, wordsFor, type Path, type Problem } from './schema-check';
import { broughtUp } from './versions';

/** What is named at once. */
const MOST_PROBLEMS = 20;
const MOTIONS: readonly Motion['motion'][] = ['wander', 'jump', 'keys', 'follow'];

const list = (words: readonly string[]): string => words.join(', ');

/** Checks are made when they are first needed. */
let frame: SchemaCheck | undefined;
const uses = new Map<AnyTrait, SchemaCheck>();
const motions = new Map<MovingSetting, Map<string, SchemaCheck>>();

const kept = <K, V>(map: Map<K, V>, key: K, make: () => V): V => {
  if (!map.has(key)) map.set(key, make());
  return map.get(key)!;
};

/** Things that are to rise from one to the next, of which one does not. */
const falls = (values: readonly number[]): boolean => values.some((v, i) => i > 0 && v <= values[i - 1]!);

const unitOf = (s: Setting | undefined): string => (s?.kind === 'number' ? `${s.sign ? ` ${s.sign}` : ''}, without the unit` : '');

function motionProblems(trait: AnyTrait, key: string, motion: unknown, at: Path): Problem[] {
  const setting = (trait.settings as Record<string, Setting>)[key];
  if (!setting || !mayMove(setting)) return [];
  const kind = MOTIONS.find((name) => name === (motion as { motion?: unknown } | null)?.motion);
  if (!kind) return [{ path: pathText(at), message: `must be an object with a "motion": one of ${list(MOTIONS)}` }];
  const check = kept(
    kept(motions, setting, () => new Map<string, SchemaCheck>()),
    kind,
    () => new SchemaCheck(motionSchema(setting, kind)),
  );
  const wrong = check.wrong(motion).map((place) => ({ path: pathText([...at, ...place.path]), message: wordsFor(place, place.path.at(-1) === 'value' ? unitOf(setting) : '') }));
  if (wrong.length) return wrong;
  const known = motion as Motion;
  if (known.motion === 'keys' && falls(known.keys.map((k) => k.at))) return [{ path: pathText([...at, 'keys']), message: 'must stand in order of time, no two at one moment' }];
  return [];
}

/** Rules that no schema can say: what must rise. */
function orderProblems(trait: AnyTrait, use: TraitUse, at: Path): Problem[] {
  const curves: (readonly [Path, unknown])[] = Object.entries(trait.settings as Record<string, Setting>).flatMap(([key, s]) =>
    s.kind === 'curve' && use.settings?.[key] ? [[['settings', key], use.settings[key]] as const] : [],
  );
  if (use.zone?.tones) curves.push([['zone', 'tones'], use.zone.tones]);
  return [
    ...curves
      .filter(([, points]) => falls((points as readonly (readonly [number, number])[]).map(([x]) => x)))
      .map(([path]) => ({ path: pathText([...at, ...path]), message: 'must rise in the first number of each point' })),
    ...(falls((use.zone?.keys ?? []).map(({ at: moment }) => moment))
      ? [{ path: pathText([...at, 'zone', 'keys']), message: 'must stand in order of time, no two at one moment' }]
      : []),
    ...(use.when ?? []).flatMap(({ from, to }, i) => (to <= from ? [{ path: pathText([...at, 'when', i, 'to']), message: 'must be later than from' }] : [])),
  ];
}

function useProblems(use: unknown, at: Path): Problem[] {
  const id = (use as { trait?: unknown } | null)?.trait;
  if (typeof use !== 'object' || use === null || typeof id !== 'string') return [{ path: pathText(at), message: 'must be an object with a "trait"' }];
  const trait = traitById(id);
  if (!trait) return [{ path: pathText([...at, 'trait']), message: `there is no trait "${id.slice(0, 60)}"; there are ${list(traits.map((t) => t.id))}` }];
  const settings = trait.settings as Record<string, Setting>;
  const check = kept(uses, trait, () => new SchemaCheck(useSchema(trait)));
  const wrong = check.wrong(use).map((place) => {
    const [part, key] = place.path;
    const unknown = place.keyword === 'false' && place.path.length === 2;
    const message =
      unknown && part === 'settings'
        ? `is no setting of ${id}; there are ${list(Object.keys(settings))}`
        : unknown && part === 'motions'
          ? `is no setting of ${id} that can move; there are ${list(Object.keys(settings).filter((name) => mayMove(settings[name]!)))}`
          : wordsFor(place, part === 'settings' && place.path.length === 2 ? unitOf(settings[key as string]) : '');
    return { path: pathText([...at, ...place.path]), message };
  });
  const moving = (use as TraitUse).motions;
  const moves = typeof moving === 'object' && moving !== null ? Object.entries(moving).flatMap(([key, motion]) => motionProblems(trait, key, motion, [...at, 'motions', key])) : [];
  return wrong.length + moves.length ? [...wrong, ...moves] : orderProblems(trait, use as TraitUse, at);
}

/** Everything that is wrong in the form of a look. */
function formProblems(value: unknown): Problem[] {
  frame ??= new SchemaCheck(frameSchema());
  const wrong = frame.wrong(value).map((place) => ({ path: pathText(place.path), message: wordsFor(place) }));
  const lives = (value as { lives?: unknown } | null)?.lives;
  if (!Array.isArray(lives)) return wrong;
  const inside = lives.flatMap((life: { carrier?: unknown; traits?: unknown } | null, l) => {
    const { carrier, traits: all } = life ?? {};
    // More carriers may come, so they are asked for when a look is checked.
    const lost =
      typeof carrier === 'string' && !carrierById(carrier) ? [{ path: pathText(['lives', l, 'carrier']), message: `must be one of ${list(carriers.map((c) => c.id))}` }] : [];
    return [...lost, ...(Array.isArray(all) ? all.flatMap((use: unknown, i) => useProblems(use, ['lives', l, 'traits', i])) : [])];
  });
  return [...wrong, ...inside];
}

/** Uses that are on and whose carrier has not what they need. */
const unfitProblems = (look: Look): Problem[] =>
  look.lives.flatMap((life, l) =>
    life.traits.flatMap((use, index) => {
      const carrier = carrierById(life.carrier)!;
      const lack = use.on === false ? undefined : lacking(traitById(use.trait)!, carrier);
      return lack ? [{ path: pathText(['lives', l, 'traits', index, 'trait']), message: `"${use.trait}" needs ${lack}; ${carrier.id} has none` }] : [];
    }),
  );

/** Counts before looking closer, so that a look of a million traits is refused at once. */
function counted(value: unknown): Problem | undefined {
  const lives = (value as { lives?: unknown } | null)?.lives;
  if (!Array.isArray(lives)) return undefined;
  if (lives.length > LOOK_LIMITS.lives) return { path: 'lives', message: `holds ${lives.length}; a look has at most ${LOOK_LIMITS.lives} lives` };
  for (const [i, life] of lives.entries()) {
    const all = (life as { traits?: unknown } | null)?.traits;
    if (Array.isArray(all) && all.length > LOOK_LIMITS.traits)
      return { path: `lives[${i}].traits`, message: `holds ${all.length}; a life has at most ${LOOK_LIMITS.traits} traits` };
  }
  return undefined;
}

/**
 * Checks a parsed look, and brings one of an older version up to the present one.
 * @returns the look, typed; the same object where it is of the present version
 * @throws LookError that names every wrong place (the first 20)
 */
export function checkLook(value: unknown): Look {
  const tooMany = counted(value);
  if (tooMany) throw new LookError([tooMany]);
  const present = broughtUp(value);
  const form = formProblems(present);
  if (form.length) throw new LookError(form.slice(0, MOST_PROBLEMS));
  const look = present as Look;
  const unfit = unfitProblems(look);
  if (unfit.length) throw new LookError(unfit.slice(0, MOST_PROBLEMS));
  const follows = followProblems(look);
  if (follows.length) throw new LookError(follows.map((p) => ({ path: pathText(['lives', p.life, 'traits', p.index, 'motions', p.key]), message: p.message })));
  return look;
}

/**
 * Reads a look from the text of a file.
 * @throws LookError also where the text is no JSON, with line and column
 */
export function parseLook(text: string): Look {
  if (text.length > LOOK_LIMITS.bytes) throw new LookError([{ path: '', message: `the file holds ${text.length} characters; a look has at most ${LOOK_LIMITS.bytes}` }]);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new LookError([{ path: '', message: `not JSON${placeOf(text)}` }]);
  }
  return checkLook(value);
}

/** Line and column of the first fault; JSON.parse itself does not always say. */
function placeOf(text: string): string {
  if (text.trim() === '') return ': the file is empty';
  const faults: ParseError[] = [];
  parseTree(text, faults, { disallowComments: true });
  const before = text.slice(0, faults[0]?.offset ?? text.length).split('\n');
  return ` at line ${before.length}, column ${before.at(-1)!.length + 1}`;
}
