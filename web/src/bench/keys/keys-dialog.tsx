import { Dialog } from 'radix-ui';
import { Button } from '../../parts/button';
import { shownKeys, type Action } from './actions';

/** What keys do that are held, or that mean what has the focus. */
const OTHERS = [
  ['B (held)', 'the picture before'],
  ['Delete', 'mute the chosen event, else remove the chosen trait'],
  ['In a number', '↑ ↓ step, with Shift coarse, with Alt fine; sums such as 0.3*2 are worked out'],
  ['On a lane of events', '← → from one to the next, Enter pins one at this picture, Delete mutes it'],
  ['On a curve', 'click sets a point, arrows move it, Delete takes it away'],
  ['On the wiping line', 'arrows move it, with Shift they turn it'],
  ['On a shot', 'F2 renames, Ctrl D duplicates, Alt ↑ ↓ moves it, Ctrl C and V copy its look, Delete'],
  ['On a zone', 'arrows move it, with Alt they size it'],
  ['On the framing', 'arrows move the picture, + and − scale it'],
  ['On a slider', 'double-click goes back to the default'],
] as const;

/** The keys, listed. */
export function KeysDialog({ actions, open, onOpenChange }: { actions: readonly Action[]; open: boolean; onOpenChange: (open: boolean) => void }) {
  const lines = [...actions.map(({ keys, name }) => [shownKeys(keys), name] as const), ...OTHERS];
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#1b1e1f]/55" />
        <Dialog.Content
          className="fixed top-16 left-1/2 z-50 max-h-[calc(100vh-80px)] w-[min(560px,94vw)] -translate-x-1/2 overflow-y-auto rounded-sm border border-rule bg-panel p-5 shadow-xl"
          aria-describedby={undefined}
        >
          <div className="flex items-center justify-between">
            <Dialog.Title className="text-[20px] font-bold">Keys</Dialog.Title>
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
          <dl className="mt-3 grid grid-cols-[170px_1fr] gap-y-1">
            {lines.map(([key, does]) => (
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
