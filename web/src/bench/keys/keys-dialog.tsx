import { useState } from 'react';
import clsx from 'clsx';
import { Dialog } from 'radix-ui';
import { Button } from '../../parts/button';
import { shownKeys, type Action } from './actions';
import { changeKeys, keysRefused, pressedKeys, resetKeys, turnLetters, useOwnKeys } from './own-keys';
import { texts } from '../../messages/keys';

/** What keys do that are held, or that mean what has the focus. */
const OTHERS = [
  [texts.bHeld, texts.pictureBefore],
  [texts.deleteKey, texts.muteChosenEventElseRemove],
  [texts.inNumber, texts.stepWithShiftCoarse],
  [texts.onLaneOfEvents, texts.fromOneToNext],
  [texts.onTrait, texts.f2RenamesCtrlDDuplicates],
  [texts.onCurve, texts.clickSetsPointArrowsMove],
  [texts.onWipingLine, texts.arrowsMoveItWithShift],
  [texts.onShot, texts.f2RenamesCtrlDDuplicatesAlt],
  [texts.onZone, texts.arrowsMoveItWithAlt],
  [texts.onFraming, texts.arrowsMovePictureAndScaleIt],
  [texts.onSlider, texts.doubleClickGoesBackToDefault],
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
            <Dialog.Title className="text-[20px] font-semibold">{texts.keys}</Dialog.Title>
            <Dialog.Close asChild>
              <Button>{texts.close}</Button>
            </Dialog.Close>
          </div>
          <div className="mt-3 flex items-center gap-4">
            <label className="flex flex-1 items-center gap-2">
              <input type="checkbox" className="h-4 w-4 accent-oxide" checked={own.letters} onChange={(e) => turnLetters(e.currentTarget.checked)} />
              {texts.lettersAndSignsDoSomething}
            </label>
            <Button disabled={!changed} onClick={resetKeys}>
              {texts.resetAll}
            </Button>
          </div>
          <ul className="mt-3" aria-label={texts.actionsAndTheirKeys}>
            {actions.map(({ name, keys }) => (
              <li key={name} className="flex items-center gap-3 border-b border-rule py-0.5">
                <span className="flex-1">{name}</span>
                {own.changed[name] !== undefined && (
                  <button type="button" className="text-[13px] text-faint underline" aria-label={texts.resetKeyOf(name)} onClick={() => changeKeys(name)}>
                    {texts.reset}
                  </button>
                )}
                <button
                  type="button"
                  aria-label={texts.keyOf(name, shownKeys(keys) || texts.none)}
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
                  {asked === name ? texts.pressKey : shownKeys(keys) || texts.none}
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
