import { say } from '../acts/open';

/** Where texts are typed. */
const texts = 'input:not([type="checkbox"], [type="range"], [type="radio"], [type="file"]), textarea';

/** What can have the focus. */
const reachable =
  'a[href], button:not(:disabled), input:not(:disabled), textarea, select, [tabindex]:not([tabindex="-1"])';

/** Keys of a text that has gone are heard by nobody for so long after the one before. */
const rest = 1500;

/** How long whoever took something away may take to lead the focus on by itself, as menus do. */
const ownWay = 60;

/** Around what had the focus last, from within: what stood after it and before it, so that a place is known when it has gone. */
interface Place {
  parent: Element;
  next: Element | null;
  before: Element | null;
}

let typed: Element | null = null;
let focused: Element | null = null;
let places: Place[] = [];
/** Until when keys belong to a text that has gone. */
let lostUntil = 0;

/** Whether something was typed in a text that has not been kept or left yet: its keys are its own, undo as well. */
export const isTyped = (at: Element | null): boolean => at !== null && at === typed;

/**
 * Watches over texts and the focus: a text that vanishes while one types takes its keys along, and the focus goes to what comes next in that place, never
 * to the page as a whole.
 */
export function listenToTyping(): () => void {
  const inputs = (event: Event) => (typed = event.target as Element);
  const focuses = (event: FocusEvent) => {
    const at = event.target as Element;
    if (at !== typed) typed = null;
    focused = at;
    places = around(at);
  };
  const blurs = (event: FocusEvent) => {
    // Left by hand it is not lost; where it goes in this moment, its place is still known.
    const left = event.target as Element;
    setTimeout(() => focused === left && left.isConnected && (focused = null));
  };
  const keys = (event: KeyboardEvent) => {
    if (performance.now() < lostUntil && isText(event)) {
      lostUntil = performance.now() + rest;
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    lostUntil = 0;
    if (event.key === 'Enter' || event.key === 'Escape') typed = null;
  };
  const presses = () => (lostUntil = 0);
  const gone = new MutationObserver(() => {
    if (!focused || focused.isConnected) return;
    const [was, whence] = [focused, places];
    focused = null;
    if (was.matches(texts)) {
      if (was === typed) {
        lostUntil = performance.now() + rest;
        say({ kind: 'info', text: 'What was typed in is gone, so it was not kept.' });
      }
      typed = null;
    }
    setTimeout(() => {
      const now = document.activeElement;
      if (!now || now === document.body) successor(whence)?.focus({ preventScroll: true });
    }, ownWay);
  });
  document.addEventListener('input', inputs, true);
  document.addEventListener('focusin', focuses);
  document.addEventListener('focusout', blurs);
  window.addEventListener('keydown', keys, true);
  window.addEventListener('pointerdown', presses, true);
  gone.observe(document.body, { childList: true, subtree: true });
  return () => {
    document.removeEventListener('input', inputs, true);
    document.removeEventListener('focusin', focuses);
    document.removeEventListener('focusout', blurs);
    window.removeEventListener('keydown', keys, true);
    window.removeEventListener('pointerdown', presses, true);
    gone.disconnect();
  };
}

/** What a text would take: letters and figures, and what ends or takes back what was typed. */
function isText({ key, ctrlKey, metaKey }: KeyboardEvent): boolean {
  return (key.length === 1 && !ctrlKey && !metaKey) || key === 'Enter' || key === 'Backspace' || key === 'Delete';
}

function around(at: Element): Place[] {
  const all: Place[] = [];
  for (let one = at; one.parentElement && one !== document.body; one = one.parentElement)
    all.push({ parent: one.parentElement, next: one.nextElementSibling, before: one.previousElementSibling });
  return all;
}

/** What comes next in a place of which something has gone: after it, else before it, else around it. */
function successor(whence: Place[]): HTMLElement | null {
  for (const { parent, next, before } of whence) {
    if (!parent.isConnected) continue;
    const found =
      (next?.isConnected && firstIn(next)) ||
      (before?.isConnected && firstIn(before)) ||
      (parent !== document.body && firstIn(parent));
    if (found) return found;
  }
  return document.querySelector<HTMLElement>('[data-stage]');
}

function firstIn(within: Element): HTMLElement | null {
  const all = within.matches(reachable)
    ? [within, ...within.querySelectorAll(reachable)]
    : within.querySelectorAll(reachable);
  for (const one of all) if (one instanceof HTMLElement && one.offsetParent !== null) return one;
  return null;
}
