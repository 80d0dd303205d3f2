/** What scrolls: an element, or the page itself. */
export type Scroller = HTMLElement | Window;

/** What scrolls around an element; the page, where all around it grow with what they hold, as on a narrow screen. */
export function scrollerAround(element: HTMLElement): Scroller {
  for (let around = element.parentElement; around && around !== document.body; around = around.parentElement)
    if (/auto|scroll/.test(getComputedStyle(around).overflowY) && isHeld(around, element)) return around;
  return window;
}

/** Higher than any screen, pixels. */
const TALL = 100_000;

/** Whether an element stays as high as it is, however much it holds. */
function isHeld(around: HTMLElement, within: HTMLElement): boolean {
  const { minHeight } = within.style;
  within.style.minHeight = `${TALL}px`;
  const isHigher = around.clientHeight >= TALL;
  within.style.minHeight = minHeight;
  return !isHigher;
}
