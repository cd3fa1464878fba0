import { lazy, Suspense, useEffect, useState, type ComponentType, type ReactNode } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { BrowserRouter, Link, Route, Routes, useLocation } from 'react-router';
import { Toaster } from 'sonner';
import { askAhead, useLocked } from './api/client';
import { followNews } from './api/news';
import { openSender } from './api/upload';
import { FileDrop } from './parts/file-drop';
import { TopBar } from './parts/top-bar';
import { useTitle } from './parts/use-title';
import { PasswordScreen } from './password/password-screen';
import { EndedPrints } from './prints/ended-prints';
import { preview } from './render/preview';
import { Shelf } from './shelf/shelf';
import { texts } from './messages/app';

/** Screens that are not open are loaded so long after the first. */
const LOADED_LATER_MS = 2000;
/** After so long the page shows its bar rather than nothing. */
const WAITED_FOR_MS = 400;

interface Screen {
  (): ReactNode;
  load(): Promise<unknown>;
}

/** A screen that is loaded when it is first opened, or before. */
function screen(open: () => Promise<ComponentType>): Screen {
  let loaded: ComponentType | undefined;
  const load = (): Promise<{ default: ComponentType }> =>
    open().then(
      (component) => ({ default: (loaded = component) }),
      () => ({ default: NotLoaded }),
    );
  const Later = lazy(load);
  /** What is at hand is shown at once: React holds back for 0.3 s whatever comes in place of a fallback. */
  const Shown = () => {
    const [Component] = useState(() => loaded ?? Later);
    return <Component />;
  };
  return Object.assign(Shown, { load });
}

const Bench = screen(() => import('./bench/bench').then(({ Bench }) => Bench));
const Stockroom = screen(() => import('./stockroom/stockroom').then(({ Stockroom }) => Stockroom));
const Prints = screen(() => import('./prints/prints').then(({ Prints }) => Prints));
const Machines = screen(() => import('./prints/machines').then(({ Machines }) => Machines));
const PATHS: readonly (readonly [RegExp, Screen])[] = [
  [/^\/reels\//, Bench],
  [/^\/stockroom/, Stockroom],
  [/^\/prints/, Prints],
  [/^\/machines/, Machines],
];

/** Loads the screen that a page opens on, but waits no longer than a moment. Its parts, what it shows and what renders are asked for side by side, not one after the other. */
export async function hurry(path: string): Promise<void> {
  const reel = /^\/reels\/([^/]+)/.exec(path)?.[1];
  const shown = reel ? [`/reels/${reel}`] : path.startsWith('/stockroom') ? ['/looks', '/reels'] : [];
  if (shown.length > 0) preview();
  shown.forEach(askAhead);
  const loading = PATHS.find(([pattern]) => pattern.test(path))?.[1].load();
  await Promise.race([loading, new Promise((done) => setTimeout(done, WAITED_FOR_MS))]);
}

export function App() {
  const locked = useLocked((s) => s.locked);
  useEffect(() => (locked ? undefined : followNews()), [locked]);
  useEffect(() => {
    // The others are at hand before they are asked for, also where the server has gone by then; and what renders for them.
    const idle = setTimeout(() => {
      preview();
      void Promise.allSettled([Bench.load(), Stockroom.load(), Prints.load(), Machines.load(), openSender()]);
    }, LOADED_LATER_MS);
    return () => clearTimeout(idle);
  }, []);
  if (locked) return <PasswordScreen />;
  return (
    <BrowserRouter>
      <Screens />
      <FileDrop />
      <EndedPrints />
      <Toaster position="bottom-center" toastOptions={{ className: '!rounded-sm !border-rule !bg-panel !text-ink !font-sans' }} />
    </BrowserRouter>
  );
}

/** The screen of the address. One that fails says so in its place; the way to the others stays. */
function Screens() {
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[useLocation().pathname]}>
      <Suspense fallback={<TopBar />}>
        <Routes>
          <Route path="/" element={<Shelf />} />
          <Route path="/reels/:reel/shots?/:shot?" element={<Bench />} />
          <Route path="/stockroom" element={<Stockroom />} />
          <Route path="/prints" element={<Prints />} />
          <Route path="/machines" element={<Machines />} />
          <Route path="*" element={<Nowhere />} />
        </Routes>
      </Suspense>
    </ErrorBoundary>
  );
}

/** A page with one sentence. */
function Sentence({ title, children }: { title: string; children: ReactNode }) {
  useTitle(title);
  return (
    <div className="flex h-full flex-col">
      <TopBar />
      <main className="grid flex-1 place-items-center">
        <p>{children}</p>
      </main>
    </div>
  );
}

const TryAgain = () => (
  <button className="text-oxide underline" onClick={() => location.reload()}>
    {texts.tryAgain}
  </button>
);

const NotLoaded = () => (
  <Sentence title={texts.notLoaded}>
    {texts.thisScreenCouldNot} <TryAgain />
  </Sentence>
);

const Broken = ({ error }: FallbackProps) => (
  <Sentence title={texts.broken}>
    {texts.thisScreenStopped(error instanceof Error ? error.message : String(error))} <TryAgain />
  </Sentence>
);

const Nowhere = () => (
  <Sentence title={texts.nothingHere}>
    {texts.thereIsNothingHere}{' '}
    <Link to="/" className="text-oxide underline">
      {texts.toShelf}
    </Link>
  </Sentence>
);
