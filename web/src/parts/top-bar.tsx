import { create } from 'zustand';
import type { ReactNode } from 'react';
import { Link, NavLink } from 'react-router';
import clsx from 'clsx';
import { Button } from './button';
import { Tool, Toolbar } from './toolbar';
import { SkipLinks, TO_MAIN, type Skip } from './skip-links';
import { api, useServerSession } from '../api/client';
import { texts } from '../messages/parts';

const KEY = 'tin-ghost/lights';

export const useLights = create<{ down: boolean; flip: () => void }>((set, get) => ({
  down: localStorage.getItem(KEY) === 'down',
  flip() {
    const down = !get().down;
    localStorage.setItem(KEY, down ? 'down' : 'up');
    set({ down });
  },
}));

// Before whoever draws in the page's colours is told: they read them from the page.
const shine = ({ down }: { down: boolean }): void => void (document.documentElement.dataset.lights = down ? 'down' : 'up');
shine(useLights.getState());
useLights.subscribe(shine);

/** The screens that are always at hand. */
export const PLACES = [
  ['/', texts.shelf],
  ['/stockroom', texts.stockroom],
  ['/prints', texts.prints],
] as const;

/** Screens that are one step away from those. */
export const FURTHER_PLACES = [['/machines', texts.machines]] as const;

/** The bar over every screen: where one is, and on the right what can be done there. */
export function TopBar({ path, skips = TO_MAIN, children }: { path?: ReactNode; skips?: readonly Skip[]; children?: ReactNode }) {
  const { down, flip } = useLights();
  const session = useServerSession();
  return (
    <header className="flex min-h-11 shrink-0 items-center gap-3 border-b border-rule bg-panel px-3.5 max-[1150px]:flex-wrap max-[1150px]:gap-y-0 max-[1150px]:py-1">
      <SkipLinks skips={skips} />
      <Link to="/" className="text-[15px] font-semibold tracking-[0.18em]">
        {texts.wordmark}
      </Link>
      <nav className="flex items-center gap-3 border-l border-rule pl-3" aria-label={texts.places}>
        {PLACES.map(([to, name]) => (
          <NavLink
            key={to}
            to={to}
            end
            className={({ isActive }) => clsx('hover:text-oxide', isActive ? 'font-semibold underline decoration-oxide decoration-2 underline-offset-4' : 'text-faint')}
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <div className="flex min-w-[120px] flex-1 items-center gap-2 truncate">{path}</div>
      <Toolbar label={texts.actions} className="flex items-center gap-2">
        {children}
        <Tool>
          <Button onClick={flip}>{down ? texts.lightsUp : texts.lightsDown}</Button>
        </Tool>
        {session?.needed && (
          // What was not kept yet is held in this browser, and sent when it is opened again.
          <Tool>
            <Button onClick={() => void api('/session', { method: 'DELETE' }).then(() => location.reload())}>{texts.logOut}</Button>
          </Tool>
        )}
      </Toolbar>
    </header>
  );
}
