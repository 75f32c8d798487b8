import { nextTick } from 'vue';

/** What is moved to another place in the page loses the focus: gives it back once that is done. */
export function keepFocus(): void {
  const had = document.activeElement;
  void nextTick(() => {
    if (had instanceof HTMLElement && had.isConnected && had !== document.activeElement) had.focus({ preventScroll: true });
  });
}
