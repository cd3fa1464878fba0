/** What the hand is on: whatever was only clicked leaves the keys to the picture. */

const PRESSED = 'button, a[href], select, summary, input, textarea, [role="button"], [role="switch"], [role="menuitem"]';

/** What the pointer last pressed, as long as the focus has not gone elsewhere. */
let clicked: Element | null = null;
if (typeof window !== 'undefined') {
  window.addEventListener('pointerdown', (event) => (clicked = pressable(event.target)), true);
  window.addEventListener('focusin', (event) => {
    if (clicked && !clicked.contains(event.target as Node)) clicked = null;
  });
}

/** What can be pressed, ticked, opened or written in, at this place or round it; null where there is nothing. */
export const pressable = (target: EventTarget | null): Element | null => (target instanceof Element ? target.closest(PRESSED) : null);

/** Whether the focus came to it by a click: the hand is on the mouse, and means the picture by a key. */
export const wasClicked = (element: Element | null): boolean => element !== null && element === clicked;
