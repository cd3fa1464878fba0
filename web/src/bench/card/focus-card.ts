/** Puts the focus on the card that was opened by keys, once it is there: on its first slider, where there is one. */
export function focusCard(): void {
  // After a dialog that closes has given the focus back.
  setTimeout(() => (document.querySelector<HTMLElement>('[data-card] [role="slider"]') ?? document.querySelector<HTMLElement>('#card'))?.focus(), 0);
}
