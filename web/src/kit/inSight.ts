import {
  observeElementOffset,
  observeElementRect,
  observeWindowOffset,
  observeWindowRect,
  useVirtualizer,
  type Virtualizer,
  windowScroll,
} from "@tanstack/react-virtual";
import { type RefObject, useLayoutEffect, useState } from "react";
import type { Scroller } from "./scroller.ts";

type Options = Parameters<typeof useVirtualizer<HTMLElement, HTMLElement>>[0];

// the package has a hook of its own for the page; which of the two a list needs is known once it is drawn only
const OF_PAGE = {
  observeElementRect: observeWindowRect,
  observeElementOffset: observeWindowOffset,
  scrollToFn: windowScroll,
} as unknown as Partial<Options>;
const OF_ELEMENT: Partial<Options> = { observeElementRect, observeElementOffset };

interface InSight {
  virtual: Virtualizer<HTMLElement, HTMLElement>;
  /** Which of the list are to be drawn. */
  shown: number[];
  /** Room of what is out of sight before and after these, pixels. */
  before: number;
  after: number;
}

/**
 * Which of a long list are in sight, or nearly.
 * @param first stands where the list begins: other things may stand above it in what scrolls
 * @param height of one, about, pixels
 */
export function useInSight(
  scroll: Scroller | null,
  first: RefObject<HTMLElement | null>,
  count: number,
  height: number,
): InSight {
  const [above, setAbove] = useState(0);
  const [head, setHead] = useState(0);
  useLayoutEffect(() => {
    if (!first.current || !scroll) return;
    const { top } = first.current.getBoundingClientRect();
    const begins = scroll instanceof Window ? scroll.scrollY : scroll.scrollTop - scroll.getBoundingClientRect().top;
    setAbove(Math.max(0, Math.round(top + begins)));
    setHead(first.current.closest("table")?.tHead?.offsetHeight ?? 0);
  }, [scroll, first]);
  const virtual = useVirtualizer<HTMLElement, HTMLElement>({
    count,
    scrollMargin: above,
    // headings stand over what is scrolled below them
    scrollPaddingStart: head,
    getScrollElement: () => scroll as HTMLElement | null,
    estimateSize: () => height,
    overscan: 6,
    useFlushSync: false,
    ...(scroll instanceof Window ? OF_PAGE : OF_ELEMENT),
  });
  const items = virtual.getVirtualItems();
  return {
    virtual,
    shown: items.map(({ index }) => index),
    before: (items[0]?.start ?? above) - above,
    after: virtual.getTotalSize() - ((items.at(-1)?.end ?? above) - above),
  };
}
