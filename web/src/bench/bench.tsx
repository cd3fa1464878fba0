import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import type { Reel, Shot } from '@tin-ghost/contract';
import { useReel, useReferences } from '../api/client';
import { clockTime } from '../parts/amounts';
import { Button } from '../parts/button';
import { Tool } from '../parts/toolbar';
import { Later } from '../parts/later';
import type { Skip } from '../parts/skip-links';
import { TopBar } from '../parts/top-bar';
import { AddFootage, Sendings, useDroppedFootage } from '../parts/footage-files';
import { useTitle } from '../parts/use-title';
import { Card } from './card/card';
import { Foot } from './foot';
import { Hints } from './card/hints';
import { AddingPanel } from './chain/adding-panel';
import { Chain } from './chain/chain';
import { KeysDialog } from './keys/keys-dialog';
import { LooksPanel } from './chain/looks-panel';
import { VersionsBar } from './chain/versions-bar';
import { beginCompare, useCompare } from './state/compare';
import { HistoryList } from './shot/history-list';
import { MatchPanel, useReferenceScope } from './shot/match-panel';
import { Picture } from './picture/picture';
import { PrintDialog } from './shot/print-dialog';
import { openPrinting } from './state/printing';
import { ReferencesRail } from './shot/references-rail';
import { useScopes } from './state/scope';
import { Scopes } from './scopes/scopes';
import { SideHandle } from './side-handle';
import { useWidths } from './state/widths';
import { ShotCard } from './shot/shot-card';
import { CancelImport } from './shot/cancel-import';
import { MediumState } from '../parts/medium-state';
import { ShotsRail } from './shot/shots-rail';
import { earlySourceOf } from '../render/source';
import { closeShot, leaveBench, openShot, redo, settleContest, undo, useDocument, useHistory } from './state/document';
import { Lanes } from './strip/lanes';
import { MotionLane } from './strip/motion-lane';
import { Spells } from './strip/spells';
import { Strip } from './strip/strip';
import { Transport } from './picture/transport';
import { benchActions } from './keys/actions';
import { ActionsContext, useWithKeys } from './keys/actions-context';
import { useOwnKeys, withOwnKeys } from './keys/own-keys';
import { useBenchKeys } from './keys/use-bench-keys';
import { useSession } from './state/session';
import { keepWithin, setPlayable } from './state/playback';
import { actionNames } from '../messages/actions';
import { texts } from '../messages/bench';

/** When it is first asked for. */
const Palette = lazy(() => import('./keys/palette'));
/** With the charts, which most never open. */
const LineScope = lazy(() => import('./scopes/line-scope'));

/** Parts that are reached past what stands before them. */
const SKIPS: readonly Skip[] = [
  ['main', texts.picture],
  ['#chain', texts.chain],
  ['#strip', texts.strip],
  ['#card', texts.card],
];

/** The screen where a shot is worked on. */
export function Bench() {
  const { reel: reelId, shot: shotId } = useParams();
  const { data: reel, error } = useReel(reelId!);
  const shot = reel?.shots.find((s) => s.id === shotId) ?? reel?.shots[0];
  if (!reel || !shot) {
    const missing = error ? error.message : reel ? texts.thisReelHasNoShotsYet : '';
    return (
      <div className="flex h-full flex-col">
        <TopBar path={reel?.name} />
        <main className="grid flex-1 place-items-center">{reel ? <EmptyReel reel={reel} /> : <p role={error ? 'alert' : undefined}>{missing}</p>}</main>
      </div>
    );
  }
  return <ShotBench key={shot.id} reel={reel} shot={shot} />;
}

function EmptyReel({ reel }: { reel: Reel }) {
  useTitle(reel.name);
  useDroppedFootage(reel.id);
  return (
    <div className="rounded-sm border border-dashed border-faint bg-tin px-16 py-12 text-center">
      <p className="mb-3">{texts.footageGoesHereClipsStills}</p>
      <AddFootage reel={reel.id} kind="live" />
      <div className="mt-3 text-left">
        <Sendings />
      </div>
    </div>
  );
}

function ShotBench({ reel, shot }: { reel: Reel; shot: Shot }) {
  const { medium } = shot;
  const opened = useDocument((s) => s.shotId === shot.id);
  const preparation = useDocument((s) => s.preparation);
  const shotOpen = useSession((s) => s.shotOpen);
  const scopes = useScopes((s) => s.open);
  const line = useScopes((s) => s.lineOpen);
  const { data: references = [] } = useReferences(reel.id);
  const pinned = useCompare((s) => s.pinned);
  const reference = references.find((r) => r.id === pinned);
  useReferenceScope(reference);
  // Progress of imports, this one's too, must not disturb the picture: the source is made anew only when this footage or its preparation changes.
  const prepared = opened ? preparation : shot.preparation;
  const [read, ready] = [medium.footage !== null, medium.state === 'ready'];
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const source = useMemo(() => earlySourceOf(medium, prepared), [medium.id, read, ready, prepared]);
  const made = source?.proxy.made ?? false;
  useEffect(() => setPlayable(made), [made]);
  useEffect(() => {
    // A shorter shot has no later pictures.
    if (source && opened) keepWithin(source);
  }, [source, opened]);
  useDroppedFootage(reel.id);
  useTitle(shot.name, reel.name);
  const [sound, setSound] = useState(true);
  const [keys, setKeys] = useState(false);
  const [palette, setPalette] = useState(false);
  const [rail, setRail] = useState(false);
  const onSound = useCallback(() => setSound((s) => !s), []);
  const onHelp = useCallback(() => setKeys(true), []);
  const onPalette = useCallback(() => setPalette(true), []);
  const onPrint = useCallback(() => (made ? openPrinting([shot.id]) : toast(texts.printsOnceImported, { id: 'not imported' })), [made, shot.id]);
  const own = useOwnKeys();
  const widths = useWidths();
  // Room for a row of what can be added, where a look has few lanes.
  const adding = useSession((s) => s.adding !== null);
  const actions = useMemo(() => withOwnKeys(benchActions(source, { onSound, onHelp, onPalette, onPrint }), own), [source, onSound, onHelp, onPalette, onPrint, own]);
  useBenchKeys(actions);

  useEffect(() => {
    openShot(shot);
    beginCompare(shot.look);
    window.addEventListener('pagehide', leaveBench);
    return () => {
      closeShot();
      window.removeEventListener('pagehide', leaveBench);
    };
    // Opened once; later versions of the shot are its own kept changes.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [shot.id]);

  return (
    <ActionsContext value={actions}>
      <div className="flex h-full flex-col">
        <TopBar
          skips={source ? SKIPS : undefined}
          path={
            <>
              <span className="text-faint">/</span>
              <span className="truncate">{reel.name}</span>
              <span className="text-faint">/</span>
              <h1 className="truncate font-semibold">{shot.name}</h1>
              {source && opened && <VersionsBar />}
            </>
          }
        >
          <Tool>
            <Button className="min-[901px]:hidden" aria-pressed={rail} onClick={() => setRail((r) => !r)}>
              {texts.shots}
            </Button>
          </Tool>
          <Keeping />
          <Steps />
          <HistoryList />
          <Tool>
            <Button aria-label={texts.keys} onClick={onHelp}>
              ?
            </Button>
          </Tool>
          <Tool disabled={!made}>
            <Button kind="live" disabled={!made} title={source && !made ? texts.printsOnceImported : undefined} onClick={onPrint}>
              {texts.strikePrints}
            </Button>
          </Tool>
        </TopBar>
        <Contest />
        <div className="flex min-h-0 flex-1">
          <ShotsRail reel={reel} shotId={shot.id} open={rail}>
            <ReferencesRail reel={reel} references={references} />
          </ShotsRail>
          <SideHandle side="shots" />
          {source && opened ? (
            <>
              <main className="flex min-w-0 flex-1 flex-col overflow-x-hidden overflow-y-auto">
                <div data-screen className="flex min-h-0 flex-[1_0_auto] flex-col bg-tin">
                  <Picture medium={medium} source={source} shotId={shot.id} shots={reel.shots} reference={reference} sound={sound} />
                  {line && (
                    <Suspense fallback={<p className="px-3 py-2 text-faint">{texts.lineScopeIsBeingLoaded}</p>}>
                      <LineScope source={source} />
                    </Suspense>
                  )}
                  <Transport source={source} sound={medium.hasSound ? sound : null} onSound={onSound} />
                </div>
                <Foot least={adding ? 346 : 0}>
                  <Chain source={source} />
                  <Strip shot={shot} source={source} />
                  <MotionLane source={source} />
                  <Spells source={source} />
                  <Lanes source={source} />
                  <AddingPanel source={source} />
                </Foot>
              </main>
              {scopes && <Scopes />}
              <SideHandle side="card" />
              <aside id="card" className="shrink-0 overflow-y-auto border-l border-rule" style={{ width: widths.card }} aria-label={texts.cardColumn}>
                <Later>
                  <Hints />
                  {reference && <MatchPanel source={source} reference={reference} />}
                  {shotOpen ? <ShotCard medium={medium} source={source} /> : <Card source={source} />}
                  <LooksPanel source={source} />
                </Later>
              </aside>
            </>
          ) : source ? (
            <main className="flex-1 bg-surround" />
          ) : (
            <main className="grid flex-1 place-items-center bg-surround">
              <div className="w-[420px] rounded-sm bg-panel p-5">
                <h2 className="mb-2 text-[18px] font-semibold">{medium.state === 'failed' ? texts.thisFootageCouldNotBeImported : texts.footageIsBeingImported}</h2>
                <MediumState medium={medium} />
                {medium.state !== 'failed' && <CancelImport shot={shot} className="mt-2" />}
                {medium.state === 'failed' && (
                  <p className="mt-2 text-faint">
                    {texts.fileYouSentIsKept(
                      <Link className="text-oxide underline" to="/">
                        {texts.shelf}
                      </Link>,
                    )}
                  </p>
                )}
              </div>
            </main>
          )}
        </div>
        <Later>
          {made && <PrintDialog reel={reel} shot={shot} />}
          <KeysDialog actions={actions} open={keys} onOpenChange={setKeys} />
        </Later>
        {palette && (
          <Suspense>
            <Palette reel={reel} actions={actions} onClose={() => setPalette(false)} />
          </Suspense>
        )}
      </div>
    </ActionsContext>
  );
}

function Keeping() {
  const keeping = useDocument((s) => s.keeping);
  const text =
    keeping.state === 'kept'
      ? texts.savedAt(keeping.at ? clockTime(keeping.at) : '')
      : keeping.state === 'keeping'
        ? texts.saving
        : keeping.state === 'held'
          ? texts.savedInThisBrowserOnly
          : texts.changedElsewhere;
  return (
    <span className={keeping.state === 'held' ? 'text-oxide' : 'text-faint'} role="status" title={keeping.state === 'held' ? keeping.why : undefined} data-keeping={keeping.state}>
      {text}
    </span>
  );
}

function Steps() {
  const withKeys = useWithKeys();
  const past = useHistory((s) => s.pastStates.length);
  const future = useHistory((s) => s.futureStates.length);
  return (
    <>
      <Tool disabled={past === 0}>
        <Button disabled={past === 0} onClick={undo} title={withKeys(texts.undo, actionNames.undo)}>
          {texts.undo}
        </Button>
      </Tool>
      <Tool disabled={future === 0}>
        <Button disabled={future === 0} onClick={redo} title={withKeys(texts.redo, actionNames.redo)}>
          {texts.redo}
        </Button>
      </Tool>
    </>
  );
}

/** Two changes of one shot, made in two places: neither is lost before one is chosen. */
function Contest() {
  const keeping = useDocument((s) => s.keeping);
  if (keeping.state === 'held') {
    return (
      <p role="alert" className="border-b border-rule bg-well px-4 py-1.5">
        {texts.changeIsHeld(keeping.why)}
      </p>
    );
  }
  if (keeping.state !== 'contested') return null;
  return (
    <div role="alert" className="flex items-center gap-3 border-b border-rule bg-well px-4 py-1.5">
      <span className="flex-1">{texts.thisShotWasAlsoChanged}</span>
      <Button onClick={() => settleContest('mine')}>{texts.keepThisOne}</Button>
      <Button onClick={() => settleContest('theirs')}>{texts.takeOther}</Button>
    </div>
  );
}
