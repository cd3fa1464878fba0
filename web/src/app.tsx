import { lazy, Suspense, useEffect, type ComponentType, type ReactNode } from 'react';
import { BrowserRouter, Link, Route, Routes } from 'react-router';
import { Toaster } from 'sonner';
import { askForReel, useLocked } from './api/client';
import { followNews } from './api/news';
import { openSender } from './api/upload';
import { FileDrop } from './parts/file-drop';
import { TopBar } from './parts/top-bar';
import { useTitle } from './parts/use-title';
import { PasswordScreen } from './password/password-screen';
import { EndedPrints } from './prints/ended-prints';
import { Shelf } from './shelf/shelf';
import { texts } from './messages/app';

/** Screens that are not open are loaded so long after the first. */
const LOADED_LATER_MS = 2000;

const openBench = () => import('./bench/bench').then(({ Bench }) => ({ default: Bench }));
const openStockroom = () => import('./stockroom/stockroom').then(({ Stockroom }) => ({ default: Stockroom }));
const openPrints = () => import('./prints/prints').then(({ Prints }) => ({ default: Prints }));
const openMachines = () => import('./prints/machines').then(({ Machines }) => ({ default: Machines }));
/** A screen that is loaded when it is first opened. */
const screen = (open: () => Promise<{ default: ComponentType }>) => lazy(() => open().catch(() => ({ default: NotLoaded })));
const [Bench, Stockroom, Prints, Machines] = [screen(openBench), screen(openStockroom), screen(openPrints), screen(openMachines)];

/** A page that opens on the bench asks for its parts, the reel and what renders side by side, not one after the other. */
export function hurryToBench(path: string): void {
  const reel = /^\/reels\/([^/]+)/.exec(path)?.[1];
  if (!reel) return;
  askForReel(reel);
  void openBench().catch(() => undefined);
  void import('./render/preview').then(
    ({ preview }) => preview(),
    () => undefined,
  );
}

export function App() {
  const locked = useLocked((s) => s.locked);
  useEffect(() => (locked ? undefined : followNews()), [locked]);
  useEffect(() => {
    // The others are at hand before they are asked for, also where the server has gone by then.
    const idle = setTimeout(() => void Promise.allSettled([openBench(), openStockroom(), openPrints(), openSender()]), LOADED_LATER_MS);
    return () => clearTimeout(idle);
  }, []);
  if (locked) return <PasswordScreen />;
  return (
    <BrowserRouter>
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
      <FileDrop />
      <EndedPrints />
      <Toaster position="bottom-center" toastOptions={{ className: '!rounded-sm !border-rule !bg-panel !text-ink !font-sans' }} />
    </BrowserRouter>
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

const NotLoaded = () => (
  <Sentence title={texts.notLoaded}>
    {texts.thisScreenCouldNot}{' '}
    <button className="text-oxide underline" onClick={() => location.reload()}>
      {texts.tryAgain}
    </button>
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
