import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from "react";

const ROW_HEIGHT = 29;

/** Of many rows those in sight, with the room of the others; the chosen one is brought into sight. */
export function ManyRows({
  count,
  chosen,
  columns,
  scroll,
  row,
}: {
  count: number;
  /** Place of the chosen row; -1 for none. */
  chosen: number;
  columns: number;
  scroll: HTMLElement | null;
  row: (index: number, measure: (element: Element | null) => void) => ReactNode;
}) {
  const first = useRef<HTMLTableRowElement>(null);
  const [above, setAbove] = useState(0);
  // other things may stand above the table in what scrolls
  useLayoutEffect(() => {
    if (!first.current || !scroll) return;
    const top = first.current.getBoundingClientRect().top - scroll.getBoundingClientRect().top + scroll.scrollTop;
    setAbove(Math.max(0, Math.round(top)));
  }, [scroll]);
  const virtual = useVirtualizer({
    count,
    scrollMargin: above,
    getScrollElement: () => scroll,
    estimateSize: () => ROW_HEIGHT,
    overscan: 6,
    useFlushSync: false,
  });
  useEffect(() => {
    if (chosen >= 0) virtual.scrollToIndex(chosen);
  }, [chosen, virtual]);
  const shown = virtual.getVirtualItems();
  return (
    <>
      <tr ref={first} aria-hidden />
      <Gap height={(shown[0]?.start ?? above) - above} span={columns} />
      {shown.map(({ index }) => row(index, virtual.measureElement))}
      <Gap height={virtual.getTotalSize() - ((shown.at(-1)?.end ?? above) - above)} span={columns} />
    </>
  );
}

/** The room of rows that are out of sight. */
export function Gap({ height, span }: { height: number; span: number }) {
  return height > 0 ? (
    <tr data-gap style={{ height }}>
      <td colSpan={span} className="p-0" />
    </tr>
  ) : null;
}
