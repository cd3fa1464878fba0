import type { Medium, Shot } from '@tin-ghost/contract';
import { timeLeft } from '../../parts/amounts';
import { useTimeLeft } from '../../parts/time-left';
import { texts } from '../../messages/shot';

/** How far a shot's footage has come in, or why it has not. */
export function MediumState({ shot }: { shot: Pick<Shot, 'id' | 'medium'> }) {
  const { medium } = shot;
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
      {medium.state === 'waiting' ? texts.waiting : <Importing medium={medium} />}
      <progress className="h-1 w-full accent-oxide" value={medium.progress} />
    </span>
  );
}

function Importing({ medium: { progress } }: { medium: Medium }) {
  const left = useTimeLeft(progress);
  return (
    <>
      {texts.importing} {Math.floor(progress * 100)} %{left !== undefined && `, ${timeLeft(left)}`}
    </>
  );
}
