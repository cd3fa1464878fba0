import { useState } from 'react';
import clsx from 'clsx';
import { Dialog } from 'radix-ui';
import { Button } from '../../parts/button';
import { shownKeys, type Action } from './actions';
import { changeKeys, keysRefused, pressedKeys, resetKeys, turnLetters, useOwnKeys } from './own-keys';

/** What keys do that are held, or that mean what has the focus. */
const OTHERS = [
  ['B (held)', 'the picture before'],
  ['Delete', 'mute the chosen event, else remove the chosen trait'],
  ['In a number', '↑ ↓ step, with Shift coarse, with Alt fine; sums such as 0.3*2 are worked out'],
  ['On a lane of events', '← → from one to the next, with Alt they move it, Enter pins one at this frame, Delete mutes it'],
  ['On a trait', 'F2 renames, Ctrl D duplicates, Ctrl C and V copy it, Alt ← → moves it, Delete'],
  ['On a curve', 'click sets a point, arrows move it, Delete removes it'],
  ['On the wiping line', 'arrows move it, with Shift they turn it'],
  ['On a shot', 'F2 renames, Ctrl D duplicates, Alt ↑ ↓ moves it, Ctrl C and V copy its look, Delete'],
  ['On a zone', 'arrows move it, with Alt they size it'],
  ['On the framing', 'arrows move the picture, + and − scale it'],
  ['On a slider', 'double-click goes back to the default'],
] as const;

/** The keys, listed and changed. */
export function KeysDialog({ actions, open, onOpenChange }: { actions: readonly Action[]; open: boolean; onOpenChange: (open: boolean) => void }) {
  const own = useOwnKeys();
  const [asked, setAsked] = useState<string | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const ask = (action: string | null): void => {
    setAsked(action);
    setRefused(null);
  };
  const changed = !own.letters || Object.keys(own.changed).length > 0;
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        ask(null);
        onOpenChange(next);
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#1b1e1f]/55" />
        <Dialog.Content
          className="fixed top-16 left-1/2 z-50 max-h-[calc(100vh-80px)] w-[min(600px,94vw)] -translate-x-1/2 overflow-y-auto rounded-sm border border-rule bg-panel p-5 shadow-xl"
          aria-describedby={undefined}
          // While a key is asked for, Escape is an answer.
          onEscapeKeyDown={(event) => asked !== null && event.preventDefault()}
        >
          <div className="flex items-center justify-between">
            <Dialog.Title className="text-[20px] font-semibold">Keys</Dialog.Title>
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
          <div className="mt-3 flex items-center gap-4">
            <label className="flex flex-1 items-center gap-2">
              <input type="checkbox" className="h-4 w-4 accent-oxide" checked={own.letters} onChange={(e) => turnLetters(e.currentTarget.checked)} />
              Letters and signs do something by themselves
            </label>
            <Button disabled={!changed} onClick={resetKeys}>
              Reset all
            </Button>
          </div>
          <ul className="mt-3" aria-label="Actions and their keys">
            {actions.map(({ name, keys }) => (
              <li key={name} className="flex items-center gap-3 border-b border-rule py-0.5">
                <span className="flex-1">{name}</span>
                {own.changed[name] !== undefined && (
                  <button type="button" className="text-[13px] text-faint underline" aria-label={`Reset the key of ${name}`} onClick={() => changeKeys(name)}>
                    reset
                  </button>
                )}
                <button
                  type="button"
                  aria-label={`Key of ${name}: ${shownKeys(keys) || 'none'}; press to change it`}
                  className={clsx('mono min-w-[110px] rounded-sm border px-2 py-0.5 text-left', asked === name ? 'border-oxide text-oxide' : 'border-rule bg-well')}
                  onClick={() => ask(name)}
                  onBlur={() => ask(null)}
                  onKeyDown={(event) => {
                    if (asked !== name) return;
                    event.preventDefault();
                    event.stopPropagation();
                    const pressed = pressedKeys(event.nativeEvent);
                    if (pressed === null) return;
                    if (pressed === 'escape') return ask(null);
                    const why = keysRefused(pressed, name, actions);
                    if (why) return setRefused(why);
                    changeKeys(name, pressed);
                    ask(null);
                  }}
                >
                  {asked === name ? 'press a key' : shownKeys(keys) || 'none'}
                </button>
              </li>
            ))}
          </ul>
          {refused && (
            <p role="alert" className="sticky bottom-0 mt-2 border border-oxide bg-panel px-2 py-1">
              {refused}
            </p>
          )}
          <dl className="mt-4 grid grid-cols-[170px_1fr] gap-y-1">
            {OTHERS.map(([key, does]) => (
              <div key={key} className="contents">
                <dt className="mono">{key}</dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
