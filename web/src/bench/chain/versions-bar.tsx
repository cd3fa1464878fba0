import { useState, type KeyboardEvent } from 'react';
import clsx from 'clsx';
import { DropdownMenu } from 'radix-ui';
import { Plus } from 'lucide-react';
import { useShallow } from 'zustand/react/shallow';
import { carrierById, carriers, freeName, switchCarrier, type Look } from '@tin-ghost/core';
import { MOST_VERSIONS } from '@tin-ghost/contract';
import { NameField } from '../../parts/name-field';
import { Tool, Toolbar } from '../../parts/toolbar';
import { compareAs, compareWith } from '../state/compare';
import { changeLook, changeVersions, useDocument } from '../state/document';
import { tellSwitched } from './tell-switched';
import { noteWithUndo } from '../state/undo-note';
import { addVersion, removeVersion, shownVersion, showVersion, versionsOf } from '../state/versions';
import { texts } from '../../messages/chain';

/** Versions are called by letters where there is little room; their names are those of their looks. */
const letter = (i: number): string => String.fromCharCode(65 + i);

const ITEM = 'cursor-pointer px-2 py-1 outline-none data-[highlighted]:bg-well data-[disabled]:opacity-45';

/** Looks that a shot keeps side by side: one is shown, another is a click away, and two are compared. */
export function VersionsBar() {
  const dressed = useDocument(useShallow(({ look, versions }) => ({ look, versions })));
  const [naming, setNaming] = useState(false);
  const looks = versionsOf(dressed);
  const shown = shownVersion(dressed);
  const beside = (look: Look): void => {
    compareWith({ kind: 'look', look });
    compareAs('side');
  };
  /** A new version stands beside the one it was made from. */
  const add = (made: Look): void => {
    changeVersions(addVersion(dressed, { ...made, name: freeName(made.name, new Set(looks.map(({ name }) => name))) }));
    beside(dressed.look);
  };
  const onCarrier = (id: string): void => {
    const { look, changes } = switchCarrier(dressed.look, 0, id);
    add({ ...look, name: `${dressed.look.name}, ${carrierById(id)!.name}` });
    tellSwitched(id, changes);
  };
  const remove = (): void => {
    changeVersions(removeVersion(dressed, shown));
    noteWithUndo(texts.versionRemoved(dressed.look.name));
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key === 'F2') setNaming(true);
    else if (event.key === 'Delete' && looks.length > 1) remove();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Toolbar className="flex shrink-0 items-center gap-1" label={texts.versionsOfLook}>
      {looks.length > 1 &&
        looks.map((look, i) =>
          naming && i === shown ? (
            <NameField
              key={i}
              name={look.name}
              className="w-[140px] bg-well text-[14px]"
              onDone={(name) => {
                setNaming(false);
                if (name) changeLook({ ...dressed.look, name });
              }}
            />
          ) : (
            <Tool key={i}>
              <button
                type="button"
                data-own-delete
                aria-pressed={i === shown}
                title={i === shown ? texts.renameOrRemove(look.name) : texts.showName(look.name)}
                aria-label={`${letter(i)}, ${look.name}`}
                onClick={() => i !== shown && changeVersions(showVersion(dressed, i))}
                onDoubleClick={() => i === shown && setNaming(true)}
                onKeyDown={i === shown ? onKeyDown : undefined}
                className={clsx('rounded-sm border px-2 py-0.5', i === shown ? 'border-oxide bg-oxide text-oxide-ink' : 'border-rule bg-tin hover:bg-well')}
              >
                {letter(i)}
              </button>
            </Tool>
          ),
        )}
      <DropdownMenu.Root>
        <Tool>
          <DropdownMenu.Trigger className="flex items-center gap-1 rounded-sm px-1.5 py-0.5 text-[14px] whitespace-nowrap text-faint hover:text-oxide">
            <Plus size={14} aria-hidden /> {texts.version}
          </DropdownMenu.Trigger>
        </Tool>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="z-50 max-h-[70vh] overflow-auto rounded-sm border border-rule bg-panel p-1.5 shadow-lg" align="start" sideOffset={4}>
            <DropdownMenu.Item className={ITEM} disabled={looks.length >= MOST_VERSIONS} onSelect={() => add(dressed.look)}>
              {texts.copyOfThisLook}
            </DropdownMenu.Item>
            {dressed.look.lives.length > 0 &&
              carriers
                .filter(({ id }) => id !== dressed.look.lives[0]!.carrier)
                .map(({ id, name }) => (
                  <DropdownMenu.Item key={id} className={ITEM} disabled={looks.length >= MOST_VERSIONS} onSelect={() => onCarrier(id)}>
                    {texts.onCarrier(name)}
                  </DropdownMenu.Item>
                ))}
            {looks.length > 1 && (
              <>
                <DropdownMenu.Separator className="my-1 border-t border-rule" />
                {looks.map((look, i) =>
                  i === shown ? null : (
                    <DropdownMenu.Item key={i} className={ITEM} onSelect={() => beside(look)}>
                      {texts.compareWithVersion(letter(i), look.name)}
                    </DropdownMenu.Item>
                  ),
                )}
                <DropdownMenu.Item className={ITEM} onSelect={remove}>
                  {texts.removeVersion(letter(shown), dressed.look.name)}
                </DropdownMenu.Item>
              </>
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </Toolbar>
  );
}
