import { type ReactNode, useCallback, useRef, useState } from "react";
import { useInSight } from "./inSight.ts";
import { type Scroller, scrollerAround } from "./scroller.ts";
import { useNarrow } from "./useMedia.ts";

/** Above so many only those in sight are drawn. */
const MOST_DRAWN = 150;

interface Props<T> {
  label: string;
  items: readonly T[];
  idOf: (item: T) => string;
  item: (item: T) => ReactNode;
  /** Height of one, pixels. */
  height: number;
}

/** A list that scrolls with what it stands in; of a long one those in sight are drawn. */
export function ManyItems<T>(props: Props<T>) {
  const { label, items, idOf, item } = props;
  if (items.length > MOST_DRAWN) return <ItemsInSight {...props} />;
  return (
    <ul aria-label={label}>
      {items.map((each) => (
        <li key={idOf(each)}>{item(each)}</li>
      ))}
    </ul>
  );
}

function ItemsInSight<T>({ label, items, idOf, item, height }: Props<T>) {
  const [scroll, setScroll] = useState<Scroller | null>(null);
  const first = useRef<HTMLUListElement | null>(null);
  const narrow = useNarrow();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what scrolls depends on how wide the screen is
  const setFirst = useCallback(
    (own: HTMLUListElement | null) => {
      first.current = own;
      setScroll(own && scrollerAround(own));
    },
    [narrow],
  );
  const { shown, before, after } = useInSight(scroll, first, items.length, height);
  return (
    <ul aria-label={label} ref={setFirst} style={{ paddingTop: before, paddingBottom: after }}>
      {shown.flatMap((index) => {
        const each = items[index];
        return each === undefined ? (
          []
        ) : (
          <li key={idOf(each)} aria-setsize={items.length} aria-posinset={index + 1}>
            {item(each)}
          </li>
        );
      })}
    </ul>
  );
}
