import type { ReactNode } from 'react';
import { ContextMenu, DropdownMenu } from 'radix-ui';

/** An entry of a menu; a rule stands between groups. */
export type MenuEntry = { readonly name: string; readonly keys?: string; readonly off?: boolean; run(): void } | 'rule';

const MENU = 'z-50 min-w-[220px] rounded-sm border border-rule bg-panel p-1.5 shadow-lg';
const ITEM = 'flex cursor-pointer justify-between gap-6 px-2 py-1 outline-none data-[highlighted]:bg-well data-[disabled]:opacity-45';
const RULE = 'my-1 border-t border-rule';

type Kind = typeof ContextMenu | typeof DropdownMenu;

const entriesIn = ({ Item, Separator }: Pick<Kind, 'Item' | 'Separator'>, entries: readonly MenuEntry[]): ReactNode =>
  entries.map((entry, i) =>
    entry === 'rule' ? (
      <Separator key={i} className={RULE} />
    ) : (
      <Item key={entry.name} className={ITEM} disabled={entry.off} onSelect={() => entry.run()}>
        {entry.name} {entry.keys && <kbd className="mono text-faint">{entry.keys}</kbd>}
      </Item>
    ),
  );

interface Props {
  entries: readonly MenuEntry[];
  /** The one element that is clicked. */
  children: ReactNode;
  /** What was chosen has the focus then, and keeps it. */
  keepsFocus?: boolean;
}

/** What can be done with a thing, by a right click on it or the menu key. */
export function OnRightClick({ entries, keepsFocus = false, children }: Props) {
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU} onCloseAutoFocus={(event) => keepsFocus && event.preventDefault()}>
          {entriesIn(ContextMenu, entries)}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}

/** What can be done with a thing, by a button. */
export function MenuButton({ entries, children }: Omit<Props, 'keepsFocus'>) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{children}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={MENU} align="start">
          {entriesIn(DropdownMenu, entries)}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
