import { useEffect } from 'react';
import { BrowserRouter, Link, Route, Routes } from 'react-router';
import { Toaster } from 'sonner';
import { followNews } from './api/news';
import { Bench } from './bench/bench';
import { FileDrop } from './parts/file-drop';
import { TopBar } from './parts/top-bar';
import { useTitle } from './parts/use-title';
import { Prints } from './prints/prints';
import { Shelf } from './shelf/shelf';
import { Stockroom } from './stockroom/stockroom';

export function App() {
  useEffect(followNews, []);
  return (
    <BrowserRouter>
      <Routes>
        <Route path="/" element={<Shelf />} />
        <Route path="/reels/:reel/shots?/:shot?" element={<Bench />} />
        <Route path="/stockroom" element={<Stockroom />} />
        <Route path="/prints" element={<Prints />} />
        <Route path="*" element={<Nowhere />} />
      </Routes>
      <FileDrop />
      <Toaster position="bottom-center" toastOptions={{ className: '!rounded-sm !border-rule !bg-panel !text-ink !font-sans' }} />
    </BrowserRouter>
  );
}

function Nowhere() {
  useTitle('Nothing here');
  return (
    <div className="flex h-full flex-col">
      <TopBar />
      <main className="grid flex-1 place-items-center">
        <p>
          There is nothing here.{' '}
          <Link to="/" className="text-oxide underline">
            To the shelf
          </Link>
        </p>
      </main>
    </div>
  );
}
