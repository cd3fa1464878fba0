import { texts } from '../messages/parts';

/** Where a skip link leads: a part of the screen, by a selector, and its name. */
export type Skip = readonly [selector: string, name: string];

/** The main part of any screen. */
export const TO_MAIN: readonly Skip[] = [['main', texts.page]];

/** Goes to a part of the screen: the next Tab is in it. */
function goTo(selector: string): void {
  const part = document.querySelector<HTMLElement>(selector);
  if (!part) return;
  if (!part.hasAttribute('tabindex')) part.tabIndex = -1;
  part.focus();
  part.scrollIntoView({ block: 'nearest' });
}

/** The first that Tab comes to, seen when it does: ways past what stands before the parts of a screen. */
export const SkipLinks = ({ skips }: { skips: readonly Skip[] }) => (
  <nav aria-label={texts.skipTo} className="contents">
    {skips.map(([selector, name]) => (
      <button
        key={selector}
        type="button"
        onClick={() => goTo(selector)}
        className="sr-only z-50 rounded-sm border border-oxide bg-panel px-3 py-1 focus:not-sr-only focus:absolute focus:top-1.5 focus:left-2"
      >
        {texts.toName(name)}
      </button>
    ))}
  </nav>
);
