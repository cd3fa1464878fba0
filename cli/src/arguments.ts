import { parseArgs } from 'node:util';

/** The command line was used wrongly; exit code 2. */
export class UsageError extends Error {}

export type Options = Record<string, string | undefined> & { flags: Set<string> };

/** Options and plain words of one command. Throws UsageError for what the command does not know. */
export function readArguments(args: string[], values: readonly string[], flags: readonly string[]): { options: Options; words: string[] } {
  try {
    const parsed = parseArgs({
      args,
      allowPositionals: true,
      options: {
        ...Object.fromEntries(values.map((name) => [name, { type: 'string' as const }])),
        ...Object.fromEntries(flags.map((name) => [name, { type: 'boolean' as const }])),
      },
    });
    const given = parsed.values as Record<string, string | boolean>;
    const options = Object.fromEntries(Object.entries(given).filter(([, v]) => typeof v === 'string')) as Record<string, string>;
    return { options: Object.assign(options, { flags: new Set(Object.keys(given).filter((key) => given[key] === true)) }), words: parsed.positionals };
  } catch (error) {
    throw new UsageError(error instanceof Error ? error.message.split('. ')[0]! : String(error));
  }
}

export function required(options: Options, name: string): string {
  const value = options[name];
  if (!value) throw new UsageError(`--${name} is missing`);
  return value;
}

export function wholeNumber(options: Options, name: string, least: number, most = Number.MAX_SAFE_INTEGER): number | undefined {
  const text = options[name];
  if (text === undefined) return undefined;
  const value = Number(text);
  if (text.trim() === '' || !Number.isInteger(value) || value < least || value > most)
    throw new UsageError(`--${name} must be a whole number from ${least}${most < Number.MAX_SAFE_INTEGER ? ` to ${most}` : ''}, not "${text}"`);
  return value;
}

export function realNumber(options: Options, name: string, least: number, most: number): number | undefined {
  const text = options[name];
  if (text === undefined) return undefined;
  const value = Number(text);
  if (text.trim() === '' || !(value >= least && value <= most)) throw new UsageError(`--${name} must be a number from ${least} to ${most}, not "${text}"`);
  return value;
}

export function sizeOption(options: Options): { width: number; height: number } | undefined {
  const text = options.size;
  if (text === undefined) return undefined;
  const match = /^(\d{1,5})x(\d{1,5})$/.exec(text);
  const [width, height] = [Number(match?.[1]), Number(match?.[2])];
  if (!(width >= 1 && height >= 1 && width <= 16384 && height <= 16384)) throw new UsageError(`--size must be WIDTHxHEIGHT in pixels, at most 16384 each, not "${text}"`);
  return { width, height };
}

/** Pictures a second as a fraction; 23.976 and its like become thousandths of 1001. */
export function rateOption(options: Options): { num: number; den: number } | undefined {
  const text = options.fps;
  if (text === undefined) return undefined;
  const fraction = /^(\d+)\/(\d+)$/.exec(text);
  const value = fraction ? Number(fraction[1]) / Number(fraction[2]) : Number(text);
  if (!(value >= 1 && value <= 240)) throw new UsageError(`--fps must be a number from 1 to 240, not "${text}"`);
  if (fraction) return { num: Number(fraction[1]), den: Number(fraction[2]) };
  if (Number.isInteger(value)) return { num: value, den: 1 };
  const film = Math.round(value * 1.001);
  return Math.abs((film * 1000) / 1001 - value) < 0.006 ? { num: film * 1000, den: 1001 } : { num: Math.round(value * 1000), den: 1000 };
}
