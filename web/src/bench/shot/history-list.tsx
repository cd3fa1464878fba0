import { Popover } from 'radix-ui';
import clsx from 'clsx';
import { Tool } from '../../parts/toolbar';
import { goToState, useHistory, useStates } from '../state/document';
import { changeWords } from '../state/change-words';
import { texts } from '../../messages/shot';

/** What was done to the shot, in words, the newest first; each is a click away, back and on. */
export function HistoryList() {
  const some = useHistory((past) => past.pastStates.length + past.futureStates.length > 0);
  return (
    <Popover.Root>
      <Tool disabled={!some}>
        <Popover.Trigger disabled={!some} className="rounded-sm border border-rule bg-tin px-3 py-1 hover:bg-well disabled:opacity-45">
          {texts.history}
        </Popover.Trigger>
      </Tool>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-h-[70vh] w-[300px] overflow-y-auto rounded-sm border border-rule bg-panel py-1.5 shadow-lg"
          aria-label={texts.whatWasDoneToThisShot}
        >
          <States />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Worked out when it is opened. */
function States() {
  const { states, at } = useStates();
  return (
    <ol>
      {states
        .map((_, i) => i)
        .reverse()
        .map((i) => (
          <li key={i}>
            <button
              type="button"
              aria-current={i === at ? 'step' : undefined}
              onClick={() => goToState(i - at)}
              className={clsx('block w-full px-3 py-1 text-left', i === at ? 'bg-oxide text-oxide-ink' : 'hover:bg-well', i > at && 'text-faint line-through')}
            >
              {i === 0 ? texts.asItWas : changeWords(states[i - 1]!, states[i]!)}
            </button>
          </li>
        ))}
    </ol>
  );
}
