import { RotateCcw, Trash2 } from 'lucide-react';
import { traitById, type TraitUse } from '@tin-ghost/core';
import { Button } from '../../parts/button';
import { plainNumber } from '../../parts/plain-number';
import type { Source } from '../../render/protocol';
import { editEvent, isChanged, isMuted, muteEvent, pinEvent, restoreEvent, type EventEdit } from '../state/event-edits';
import type { UseAt } from '../state/look-edits';
import { NumberRow } from './setting-row';
import { changeLook, useDocument } from '../state/document';
import { useEvents } from '../state/events';
import { selectEvent, useSession } from '../state/session';
import { usePlayback } from '../state/playback';
import { texts } from '../../messages/card';

const SCALE = plainNumber(texts.force, texts.itsStrengthAgainstWhatWasGenerated, '%', { default: 100, max: 200 });
const ACROSS = plainNumber(texts.across, texts.itsPlaceFromLeft, '% W', { default: 50, step: 0.5 });
const DOWN = plainNumber(texts.down, texts.itsPlaceFromTop, '% H', { default: 50, step: 0.5 });

/** The chosen event of a trait, to be changed by hand; or, where none is chosen, how to choose or pin one. */
export function EventPanel({ at, use, source }: { at: UseAt; use: TraitUse; source: Source }) {
  const look = useDocument((s) => s.look);
  const chosen = useSession((s) => s.event);
  const events = useEvents().filter((e) => e.life === at.life && e.index === at.index);
  const event = events.find((e) => e.id === chosen);
  const seconds = source.frames / source.rate;
  const place = traitById(use.trait)?.events?.place;
  const edit = (more: EventEdit): void => event && changeLook(editEvent(useDocument.getState().look, at, event, more));
  const pin = (): void => {
    const pinned = pinEvent(look, at, usePlayback.getState().frame / source.rate);
    changeLook(pinned.look);
    selectEvent(at, pinned.id);
  };
  const shown = events.filter((e) => !isMuted(e)).length;
  return (
    <section aria-label={texts.event} className="mb-2 border-b border-rule pb-2">
      <div className="flex items-baseline gap-2">
        <h3 className="label flex-1 !text-[11px]">
          {event ? (event.pinned ? texts.eventPinned : isMuted(event) ? texts.eventMuted : texts.event) : texts.eventsInThisShot(shown)}
        </h3>
        <Button onClick={pin} title={texts.enterOnItsLane}>
          {texts.pinOneHere}
        </Button>
      </div>
      {!event && <p className="mt-1 text-[13px] text-faint">{texts.eachIsMarkOnLane}</p>}
      {event && (
        <>
          <NumberRow
            setting={plainNumber(texts.at, texts.itsMomentInShot, 's', { max: Math.round(seconds * 100) / 100, step: 0.01 })}
            value={Math.round(event.at * 1000) / 1000}
            onChange={(v) => edit({ at: v ?? event.at })}
          />
          {place && <NumberRow setting={ACROSS} value={Math.round(event.x * 1000) / 10} onChange={(v) => edit({ x: (v ?? 50) / 100 })} />}
          {place === 'both' && <NumberRow setting={DOWN} value={Math.round(event.y * 1000) / 10} onChange={(v) => edit({ y: (v ?? 50) / 100 })} />}
          {!isMuted(event) && <NumberRow setting={SCALE} value={Math.round(event.scale * 100)} onChange={(v) => edit({ scale: Math.max(0.01, (v ?? 100) / 100) })} />}
          <div className="mt-1 flex flex-wrap gap-2">
            <Button onClick={() => changeLook(muteEvent(look, at, event.id, !isMuted(event)))} title={texts.deleteKey}>
              {isMuted(event) ? texts.unmute : texts.mute}
            </Button>
            {event.pinned && (
              <Button
                onClick={() => {
                  changeLook(restoreEvent(look, at, event.id));
                  selectEvent(at, null);
                }}
                aria-label={texts.removeThisEvent}
              >
                <Trash2 size={14} />
              </Button>
            )}
            {!event.pinned && isChanged(use, event.id) && (
              <Button onClick={() => changeLook(restoreEvent(look, at, event.id))}>
                <RotateCcw size={14} /> {texts.asItCame}
              </Button>
            )}
          </div>
        </>
      )}
    </section>
  );
}
