import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useNavigate } from 'react-router';
import { carrierById, lacking, traitById, traits } from '@tin-ghost/core';
import type { Reel } from '@tin-ghost/contract';
import { useLooks } from '../../api/client';
import { FURTHER_PLACES, PLACES } from '../../parts/top-bar';
import { changeLook, useDocument } from '../state/document';
import { addUse } from '../state/look-edits';
import { select, useSession } from '../state/session';
import { focusCard } from '../card/focus-card';
import { shownKeys, type Action } from './actions';
import { texts } from '../../messages/keys';

const ITEM = 'flex cursor-pointer items-baseline gap-3 px-3 py-1.5 data-[selected=true]:bg-oxide data-[selected=true]:text-oxide-ink';
const GROUP =
  '[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:tracking-[0.1em] [&_[cmdk-group-heading]]:text-faint [&_[cmdk-group-heading]]:uppercase';

/** Every word that is typed stands in what is named, best at the beginning of a word there; else in what is said of it. */
function matches(value: string, typed: string, keywords: string[] = []): number {
  const [name, says] = [value.toLowerCase(), keywords.join(' ').toLowerCase()];
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.every((word) => ` ${name}`.includes(` ${word}`))) return 1;
  if (words.every((word) => name.includes(word))) return 0.6;
  return words.every((word) => name.includes(word) || says.includes(word)) ? 0.3 : 0;
}

/** Everything that can be done on the bench, found by typing: actions, traits to add and traits that are there, looks, shots. */
export default function Palette({ reel, actions, onClose }: { reel: Reel; actions: readonly Action[]; onClose: () => void }) {
  const navigate = useNavigate();
  const look = useDocument((s) => s.look);
  const { data: looks = [] } = useLooks();
  const at = useSession.getState().selected?.life ?? look.lives.length - 1;
  const carrier = look.lives[at] && carrierById(look.lives[at].carrier);
  const done = (act: () => void) => (): void => {
    onClose();
    act();
  };
  const there = look.lives.flatMap(({ traits: uses }, life) => uses.map((use, index) => ({ name: use.name ?? traitById(use.trait)!.name, at: { life, index } })));
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#1b1e1f]/55" />
        <Dialog.Content className="fixed top-16 left-1/2 z-50 w-[min(560px,94vw)] -translate-x-1/2 rounded-sm border border-rule bg-panel shadow-xl" aria-describedby={undefined}>
          <Dialog.Title className="sr-only">{texts.findAnything}</Dialog.Title>
          <Command loop label={texts.findAnything} filter={matches}>
            <Command.Input autoFocus placeholder={texts.traitActionLookShot} className="w-full border-b border-rule bg-transparent px-3 py-2.5 text-[17px] outline-none" />
            <Command.List className="max-h-[min(420px,60vh)] overflow-y-auto pb-2">
              <Command.Empty className="px-3 py-3 text-faint">{texts.nothingOfThatName}</Command.Empty>
              {there.length > 0 && (
                <Command.Group heading={texts.inThisLook} className={GROUP}>
                  {there.map(({ name, at }) => (
                    <Command.Item
                      key={`${at.life} ${at.index}`}
                      value={`open ${name} ${at.life} ${at.index}`}
                      className={ITEM}
                      onSelect={done(() => {
                        select(at);
                        focusCard();
                      })}
                    >
                      {name} <span className="ml-auto text-[13px] opacity-75">{texts.opensItsCard}</span>
                    </Command.Item>
                  ))}
                </Command.Group>
              )}
              <Command.Group heading={texts.actions} className={GROUP}>
                {actions
                  .filter(({ when }) => when?.() ?? true)
                  .map((action) => (
                    <Command.Item key={action.name} value={action.name} className={ITEM} onSelect={done(() => action.run())}>
                      {action.name} <kbd className="mono ml-auto text-[13px] opacity-75">{shownKeys(action.keys)}</kbd>
                    </Command.Item>
                  ))}
              </Command.Group>
              {carrier && (
                <Command.Group heading={texts.addToLife(at + 1, carrier.name)} className={GROUP}>
                  {traits
                    .filter((trait) => !lacking(trait, carrier))
                    .map((trait) => (
                      <Command.Item
                        key={trait.id}
                        value={`add ${trait.name}`}
                        keywords={[trait.says, trait.act]}
                        className={ITEM}
                        onSelect={done(() => {
                          const added = addUse(useDocument.getState().look, at, trait.id, trait.act);
                          changeLook(added.look, added.at);
                          focusCard();
                        })}
                      >
                        <span className="whitespace-nowrap">{texts.addName(trait.name)}</span> <span className="ml-auto truncate text-[13px] opacity-75">{trait.says}</span>
                      </Command.Item>
                    ))}
                </Command.Group>
              )}
              <Command.Group heading={texts.looks} className={GROUP}>
                {looks.map((stored) => (
                  <Command.Item key={stored.id} value={`look ${stored.look.name} ${stored.id}`} className={ITEM} onSelect={done(() => changeLook(stored.look, null))}>
                    {stored.look.name} <span className="ml-auto text-[13px] opacity-75">{texts.putsItOnThisShot}</span>
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading={texts.shotsAndPlaces} className={GROUP}>
                {reel.shots.map(({ id, name }) => (
                  <Command.Item key={id} value={`shot ${name} ${id}`} className={ITEM} onSelect={done(() => void navigate(`/reels/${reel.id}/shots/${id}`))}>
                    {name}
                  </Command.Item>
                ))}
                {[...PLACES, ...FURTHER_PLACES].map(([path, name]) => (
                  <Command.Item key={path} value={`place ${name}`} className={ITEM} onSelect={done(() => void navigate(path))}>
                    {name}
                  </Command.Item>
                ))}
              </Command.Group>
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
