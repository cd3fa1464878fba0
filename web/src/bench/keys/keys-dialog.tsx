import { Dialog } from 'radix-ui';

const KEYS = [
  ['Space', 'play and pause'],
  ['← →', 'one picture back, on (with Shift: one second)'],
  ['Home End', 'first and last picture'],
  ['B (held)', 'the picture before'],
  ['W', 'worn or as shot'],
  ['C', 'alone, wiped, side by side, blinking, on all shots'],
  ['V', 'scopes'],
  ['Shift V', 'one line as a signal; the pointer chooses it'],
  ['G', 'full screen'],
  ['F', 'fit'],
  ['1', '1:1, from the original; drag to move'],
  ['I, O', 'begin, end the shot with this picture'],
  ['L', 'loop two seconds from here'],
  ['S', 'sound'],
  ['X', 'the chosen trait off and on'],
  ['Delete', 'mute the chosen event, else remove the chosen trait'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['D', 'lights down and up'],
  ['?', 'this list'],
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
export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#1b1e1f]/55" />
        <Dialog.Content className="fixed top-20 left-1/2 z-50 w-[520px] -translate-x-1/2 rounded-sm border border-rule bg-panel p-5 shadow-xl" aria-describedby={undefined}>
          <Dialog.Title className="text-[20px] font-bold">Keys</Dialog.Title>
          <dl className="mt-3 grid grid-cols-[170px_1fr] gap-y-1">
            {KEYS.map(([key, does]) => (
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
