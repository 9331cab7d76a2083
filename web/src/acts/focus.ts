import { onRenewal } from '../state/renewal';

/** Where the focus was before something took it, so that it can go back there. */
let before: HTMLElement | null = null;

export function rememberFocus(): void {
  const at = document.activeElement;
  if (at instanceof HTMLElement && at !== document.body && !at.closest('[role="menu"]')) before = at;
}

/** Gives the focus back where it was, else to the stage; unless it has gone on somewhere else by itself. */
export function returnFocus(): void {
  requestAnimationFrame(() => {
    const now = document.activeElement;
    if (now && now !== document.body && now.isConnected && !now.closest('[data-plan]')) return;
    (before?.isConnected ? before : document.querySelector<HTMLElement>('[data-stage]'))?.focus({
      preventScroll: true,
    });
  });
}

onRenewal(() => {
  before = null;
});
