/** What may hold the keyboard, where it is shown and enabled. */
const FOCUSABLE =
  'a[href], button, input:not([type=hidden]), select, textarea, summary, [tabindex]:not([tabindex="-1"]), [contenteditable=true]';
/** Where the keyboard was lately; what is older is not gone back to. */
const REMEMBERED = 12;

interface Place {
  element: HTMLElement;
  /** From its parent up. */
  above: HTMLElement[];
  /** Those after it in the page, and those before it, nearest first. */
  after: HTMLElement[];
  before: HTMLElement[];
}

const isThere = (element: HTMLElement) =>
  element.isConnected && !element.matches(':disabled, [aria-disabled=true], [aria-hidden=true] *, [inert] *') && element.checkVisibility();

const within = (root: ParentNode): HTMLElement[] => [...root.querySelectorAll<HTMLElement>(FOCUSABLE)];

/** How many neighbours of a place are remembered either way. */
const NEIGHBOURS = 40;

function placeOf(element: HTMLElement): Place {
  const above: HTMLElement[] = [];
  for (let up = element.parentElement; up && up !== document.body; up = up.parentElement) above.push(up);
  // The page's root, or the drawer, dialog or list that lies over it.
  const all = within(above.at(-1) ?? document);
  const at = all.indexOf(element);
  return {
    element,
    above,
    after: all.slice(at + 1, at + 1 + NEIGHBOURS),
    before: all.slice(Math.max(0, at - NEIGHBOURS), Math.max(0, at)).reverse(),
  };
}

/** What is nearest to where the keyboard was: in the same group the next one, else the one before; else the same in what is around it. */
function nearestTo({ element, above, after, before }: Place): HTMLElement | null {
  if (isThere(element)) return element;
  for (const group of above) {
    if (!group.isConnected || !group.checkVisibility()) continue;
    const inGroup = (one: HTMLElement) => group.contains(one) && isThere(one);
    const found = after.find(inGroup) ?? before.find(inGroup) ?? within(group).find(isThere);
    if (found) return found;
  }
  return null;
}

let keeping = false;
/** Whether what is given the keyboard right now only stands near to what went away: nobody meant it. */
export const isKept = () => keeping;

/**
 * Keeps the keyboard somewhere: where what has it goes away or can't be used any more, the nearest thing that is left takes it. Letting go
 * of it on purpose, as by a click beside everything, is left alone. Gives what ends it.
 */
export function keepFocus(): () => void {
  const places: Place[] = [];
  let asked = 0;
  const remember = ({ target }: FocusEvent) => {
    if (!(target instanceof HTMLElement) || target === document.body) return;
    places.unshift(placeOf(target));
    places.length = Math.min(places.length, REMEMBERED);
  };
  const letGo = ({ target, relatedTarget }: FocusEvent) => {
    // It is still there: a person let go of it.
    if (relatedTarget === null && target instanceof HTMLElement && isThere(target) && document.hasFocus()) {
      asked++;
      const mine = asked;
      // What is taken out in the same turn was not let go of.
      requestAnimationFrame(() => {
        if (mine === asked && document.activeElement === document.body && isThere(target)) places.length = 0;
      });
    }
  };
  const look = () => {
    if (document.activeElement !== document.body && document.activeElement !== null) return;
    for (const place of places) {
      const to = nearestTo(place);
      if (!to) continue;
      keeping = true;
      to.focus({ preventScroll: true });
      keeping = false;
      if (document.activeElement === to) return;
    }
  };
  let waiting = 0;
  const soon = () => {
    if (places.length === 0 || (document.activeElement !== document.body && document.activeElement !== null)) return;
    cancelAnimationFrame(waiting);
    // A turn later, so that whatever wants the keyboard for itself has taken it.
    waiting = requestAnimationFrame(() => (waiting = requestAnimationFrame(look)));
  };
  const watcher = new MutationObserver(soon);
  watcher.observe(document.body, {
    childList: true,
    subtree: true,
    attributes: true,
    attributeFilter: ['disabled', 'hidden', 'inert', 'style'],
  });
  document.addEventListener('focusin', remember);
  document.addEventListener('focusout', letGo);
  return () => {
    watcher.disconnect();
    cancelAnimationFrame(waiting);
    document.removeEventListener('focusin', remember);
    document.removeEventListener('focusout', letGo);
  };
}
