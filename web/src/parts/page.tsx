import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { TopBar } from './top-bar';
import { useTitle } from './use-title';

interface PageProps {
  /** What the page is of; its title in the browser, too. */
  readonly heading: string;
  /** Title in the browser, where it is another. */
  readonly title?: string;
  /** What stands beside the heading. */
  readonly beside?: ReactNode;
  /** Why what the page shows could not be read. */
  readonly error?: { readonly message: string };
  readonly children: ReactNode;
}

/** A screen that is a list under a heading. */
export function Page({ heading, title = heading, beside, error, children }: PageProps) {
  useTitle(title);
  return (
    <div className="flex h-full flex-col">
      <TopBar />
      <main className="flex-1 overflow-y-auto px-8 py-6">
        <div className="mb-5 flex items-end justify-between">
          <h1 className="text-[26px] font-semibold">{heading}</h1>
          {beside}
        </div>
        {error && (
          <p role="alert" className="mb-4 border-l-4 border-oxide bg-well px-3 py-2">
            {error.message}
          </p>
        )}
        {children}
      </main>
    </div>
  );
}

/** A way from a page to one that belongs to it. */
export function PageLink({ to, children }: { to: string; children: ReactNode }) {
  return (
    <Link to={to} className="text-faint underline underline-offset-4 hover:text-oxide">
      {children}
    </Link>
  );
}
