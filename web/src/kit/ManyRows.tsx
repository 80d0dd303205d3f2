import { type ReactNode, useEffect, useRef } from "react";
import { useInSight } from "./inSight.ts";
import type { Scroller } from "./scroller.ts";

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
  scroll: Scroller | null;
  row: (index: number, measure: (element: Element | null) => void) => ReactNode;
}) {
  const first = useRef<HTMLTableRowElement>(null);
  const { virtual, shown, before, after } = useInSight(scroll, first, count, ROW_HEIGHT);
  const shownFirst = useRef(scroll instanceof Window ? chosen : -1);
  useEffect(() => {
    // a page begins at its top, whatever is chosen in it
    if (chosen >= 0 && chosen !== shownFirst.current) virtual.scrollToIndex(chosen);
    shownFirst.current = -1;
  }, [chosen, virtual]);
  return (
    <>
      <tr ref={first} aria-hidden />
      <Gap height={before} span={columns} />
      {shown.map((index) => row(index, virtual.measureElement as (element: Element | null) => void))}
      <Gap height={after} span={columns} />
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
