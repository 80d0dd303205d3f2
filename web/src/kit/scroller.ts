/** What scrolls: an element, or the page itself. */
export type Scroller = HTMLElement | Window;

/** What scrolls around an element. */
export function scrollerAround(element: HTMLElement): Scroller {
  for (let around = element.parentElement; around && around !== document.body; around = around.parentElement)
    if (/auto|scroll/.test(getComputedStyle(around).overflowY)) return around;
  return window;
}
