import { unfold } from '../panels/Fold';
import type { Place } from './places';

/** Milliseconds until a stage that was gone to is there. */
const WITHIN = 20_000;
const LOOKS = 60;

/** Brings a place of the stage in view, with the keyboard on it; the stage may still be on its way. */
export function showPlace({ title, section }: Place): void {
  const began = performance.now();
  const look = () => {
    // A section is opened where it stands; what is in it is only there once it is open.
    const onIt = title === section ? null : (buttonOf(title) ?? headOf(title));
    if (onIt) return reach(onIt);
    if (section && headOf(section)) {
      unfold(section);
      return void setTimeout(() => reach(buttonOf(title) ?? headOf(section)!), LOOKS);
    }
    if (performance.now() - began < WITHIN && !left) setTimeout(look, LOOKS);
  };
  // Whoever does something else meanwhile is not pulled away from it.
  let left = false;
  const leave = () => (left = true);
  for (const deed of ['keydown', 'pointerdown'] as const) window.addEventListener(deed, leave, { once: true, capture: true });
  setTimeout(look, LOOKS);
}

function reach(element: HTMLElement): void {
  element.scrollIntoView({ block: 'nearest' });
  const target = element.closest<HTMLElement>('button, a, input') ?? element;
  if (target === element && element.tabIndex < 0) element.tabIndex = -1;
  target.focus();
}

const says = (element: Element, title: string) =>
  element.getAttribute('aria-label') === title || element.textContent?.replace(/ …$/, '').trim() === title;

function buttonOf(title: string): HTMLElement | undefined {
  return [...document.querySelectorAll<HTMLElement>('main button:not([aria-expanded]), main [role="button"], main input')].find(
    (one) => says(one, title) && !(one as HTMLButtonElement).disabled,
  );
}

function headOf(title: string): HTMLElement | undefined {
  return [...document.querySelectorAll<HTMLElement>('main h2, main h3')].find((one) => says(one, title));
}
