import type { Medium } from '@tin-ghost/contract';
import { useImportLeft, useLiveMedium } from '../api/live';
import { timeLeft } from './amounts';
import { texts } from '../messages/parts';

/** How far footage has come in, or why it has not. */
export function MediumState({ medium }: { medium: Medium }) {
  if (medium.state === 'failed') {
    return (
      <span className="block p-1 text-[12px] text-oxide" role="alert">
        <span className="line-clamp-4 break-words">
          {medium.name}: {medium.error}
        </span>
      </span>
    );
  }
  return (
    <span className="block p-1 text-[12px] text-faint" role="status">
      <Importing medium={medium} />
    </span>
  );
}

/** How far footage has come in, in words; as long as nothing is done of it, it waits for others. */
export function ImportWords({ medium }: { medium: Medium }) {
  const { state, progress } = useLiveMedium(medium);
  return state === 'working' && progress > 0 ? texts.importing(Math.floor(progress * 100)) : texts.waiting;
}

/** How far footage has come in, in words and as a bar. */
export function Importing({ medium }: { medium: Medium }) {
  const { progress } = useLiveMedium(medium);
  const left = useImportLeft(medium.id);
  return (
    <>
      <ImportWords medium={medium} />
      {left !== undefined && `, ${timeLeft(left)}`}
      <progress className="block h-1 w-full accent-oxide" value={progress} />
    </>
  );
}
