import { version } from '../package.json';
import { UsageError } from './arguments';
import * as commands from './commands';
import { reasonOf } from './reason';
import { watch } from './watch';

const USAGE = `tinghost: wears footage as analog media would

  tinghost render --in FILE --look LOOK.json|ID --out FILE.(mp4|webm|mov|mxf|mkv|gif|webp|wav)|DIR/%05d.(png|tif|exr)
                  [--seed N] [--size WxH] [--fps N] [--from N] [--to N] [--depth 8|10|16] [--no-sound] [--no-bars]
                  [--coding h264|h265|vp9|av1|prores|prores4444|dnxhr|dnxhr444|ffv1] [--quality check|deliver|master | --bitrate MBIT]
                  [--wear alpha|grey|black] [--first N] [--threads N]
                  [--preparation FILE.json] [--tables FOLDER] [--fonts FOLDER] [--plates FOLDER]
  tinghost frame  --in FILE --look LOOK.json|ID --at N --out FILE.png [--seed N] [--size WxH] [--no-bars]
                  [--preparation FILE.json] [--tables FOLDER] [--fonts FOLDER] [--plates FOLDER]
  tinghost watch  --in FOLDER --look LOOK.json|ID --out FOLDER [--as mp4|mov|mkv|...] [--every SECONDS] [--once]
                  and what render takes: every file that arrives is worn once, also when it is started again
  tinghost plan   LOOK.json|ID [--size WxH]
  tinghost looks [--json]
  tinghost look ID [--out FILE]
  tinghost check LOOK.json
  tinghost cube  LOOK.json|ID [--points N] [--out FILE.cube] [--tables FOLDER]
  tinghost colour FILE.(cube|cdl|ccc|cc)
  tinghost traits [--json]
  tinghost signal bars|ramp|sweep|grid|grey|pulse|steps --out FILE [--size WxH] [--fps N] [--seconds N] [--level 0..1]
  tinghost help | version

--from is the first picture, --to the one after the last, counted at --fps where that is given.
A size of another shape than the footage's is filled and cropped about the middle. --no-bars gives
a look that has its carrier's shape a file of that shape. --preparation frames, times and colours the shot
before its look; --tables holds the .cube files that look or preparation refer to, --fonts and --plates the fonts and plates that do not ship.
--wear makes the wear alone, to be laid over the picture elsewhere: with alpha by normal, over grey by
linear light, over black by add. --first is the number of the first of several images.
Exit codes: 0 done, 1 bad input or work that failed (nothing is left behind), 2 wrong usage.`;

const COMMANDS = new Map<string, (args: string[]) => void | Promise<void>>(
  Object.entries({
    render: commands.render,
    frame: commands.frame,
    plan: commands.plan,
    looks: commands.looks,
    look: commands.look,
    check: commands.check,
    cube: commands.cube,
    colour: commands.colour,
    traits: commands.listTraits,
    signal: commands.signal,
    watch,
  }),
);

/** Runs one command. @returns the exit code */
export async function main(args: string[]): Promise<number> {
  const [name, ...rest] = args;
  if (!name || name === 'help' || args.some((argument) => argument === '--help' || argument === '-h')) {
    process.stdout.write(`${USAGE}\n`);
    return name ? 0 : 2;
  }
  if (name === 'version' || name === '--version') {
    process.stdout.write(`tinghost ${version}\n`);
    return 0;
  }
  try {
    const command = COMMANDS.get(name);
    if (!command) throw new UsageError(`there is no command "${name}"`);
    await command(rest);
    return 0;
  } catch (error) {
    if (error instanceof UsageError) {
      process.stderr.write(`tinghost ${name}: ${error.message}\n\n${USAGE}\n`);
      return 2;
    }
    process.stderr.write(`tinghost ${name}: ${reasonOf(error)}\n`);
    return 1;
  }
}

// Whoever reads may have read enough: `tinghost traits | head`.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code === 'EPIPE') process.exit(0);
  throw error;
});
