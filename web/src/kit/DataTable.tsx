import {
  type ColumnDef,
  columnFilteringFeature,
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  createFilteredRowModel,
  createSortedRowModel,
  filterFn_includesString,
  globalFilteringFeature,
  rowSortingFeature,
  sortFn_alphanumeric,
  type TableState,
  tableFeatures,
  useTable,
} from "@tanstack/react-table";
import { type KeyboardEvent, type ReactNode, Suspense, useCallback, useEffect, useMemo, useState } from "react";
import { BodyRow, type DataColumn, PlainRow, type RowComponent } from "./BodyRow.tsx";
import { Checkbox } from "./Checkbox.tsx";
import { ColumnHead } from "./ColumnHead.tsx";
import { Optional, part } from "./part.tsx";
import { type Scroller, scrollerAround } from "./scroller.ts";
import { useKeptState } from "./useKeptState.ts";
import { useNarrow } from "./useMedia.ts";

interface Props<T> {
  label: string;
  items: readonly T[];
  columns: readonly DataColumn<T>[];
  idOf: (item: T) => string;
  /** The item that is chosen, and how another one is; arrows choose too. */
  chosen?: string | null;
  onChoose?: (item: T) => void;
  /** Rows can be ticked, many at once; the tick at the head takes those that are found. */
  ticks?: { ticked: ReadonlySet<string>; onTick: (ticked: ReadonlySet<string>) => void; nameOf: (item: T) => string };
  /** Instead of rows, when there are none. */
  empty?: ReactNode;
  /** Name under which widths, order and shown columns are kept in this browser; brings a bar to find in it and to choose columns. */
  keptAs?: string;
  /** More at the head of that bar. */
  bar?: ReactNode;
  /** A second line below an item's own. */
  below?: (item: T) => ReactNode;
  /** The row element, when it must do more than stand there. */
  row?: RowComponent<T>;
  /** The table scrolls with what it stands in. */
  flowing?: boolean;
  className?: string;
}

const features = tableFeatures({
  rowSortingFeature,
  columnFilteringFeature,
  globalFilteringFeature,
  columnVisibilityFeature,
  columnSizingFeature,
  columnResizingFeature,
  sortedRowModel: createSortedRowModel(),
  filteredRowModel: createFilteredRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric },
  filterFns: { includesString: filterFn_includesString },
});
type Features = typeof features;

/** Above so many rows only those in sight are drawn; of a table that scrolls with what it stands in, above so many. */
const MOST_DRAWN = 50;
const MOST_FLOWING = 150;

// what only long tables, or those that can be searched, need is loaded with the first of them
const ManyRows = part(async () => (await import("./ManyRows.tsx")).ManyRows);
const TableBar = part(async () => (await import("./TableBar.tsx")).TableBar);

type Kept = Partial<Pick<TableState<Features>, "sorting" | "columnVisibility" | "columnSizing">>;

/** The table behind what is drawn: its rows as sorted and found, its columns as shown and sized, kept in this browser. */
function useDataTable<T>({ items, columns, idOf, keptAs }: Props<T>) {
  const [kept, setKept] = useKeptState<Kept>(keptAs ? `table-${keptAs}` : null, {});
  const [wanted, setWanted] = useState("");
  const narrow = useNarrow();
  const data = useMemo(() => [...items], [items]);
  const defs = useMemo(() => columns.map((column) => defOf(column)), [columns]);
  const keep =
    <K extends keyof Kept>(name: K) =>
    (next: unknown) =>
      setKept((now) => ({
        ...now,
        [name]: typeof next === "function" ? next(now[name] ?? (name === "sorting" ? [] : {})) : next,
      }));
  const table = useTable({
    features,
    data: data as object[],
    columns: defs as unknown as ColumnDef<Features, object>[],
    getRowId: (item) => idOf(item as T),
    columnResizeMode: "onChange",
    globalFilterFn: "includesString",
    state: {
      sorting: kept.sorting ?? [],
      columnVisibility: { ...leftOut(columns, narrow), ...kept.columnVisibility },
      columnSizing: kept.columnSizing ?? {},
      globalFilter: wanted,
    },
    onSortingChange: keep("sorting"),
    onColumnVisibilityChange: keep("columnVisibility"),
    onColumnSizingChange: keep("columnSizing"),
  });
  return { table, kept, wanted, setWanted };
}

/**
 * A table: its headings sort, its columns can be made wider, found in and left out, and only rows in sight are drawn when
 * there are many.
 */
export function DataTable<T>(props: Props<T>) {
  const { label, items, columns, chosen = null, onChoose, empty, keptAs, bar, below, flowing = false } = props;
  const { table, kept, wanted, setWanted } = useDataTable(props);
  // as state: what draws only the rows in sight must be drawn again once it is there
  const [scroll, setScroll] = useState<Scroller | null>(null);
  const narrow = useNarrow();
  // on a narrow screen other things scroll: it is looked for again
  // biome-ignore lint/correctness/useExhaustiveDependencies: what scrolls depends on how wide the screen is
  const setScrollAround = useCallback((own: HTMLDivElement | null) => setScroll(own && scrollerAround(own)), [narrow]);
  const rows = table.getRowModel().rows;
  const many = rows.length > (flowing ? MOST_FLOWING : MOST_DRAWN);
  const at = rows.findIndex(({ id }) => id === chosen);
  useEffect(() => {
    if (at >= 0 && !many && scroll instanceof HTMLElement)
      scroll.querySelector('[aria-selected="true"]')?.scrollIntoView?.({ block: "nearest" });
  }, [at, many, scroll]);
  const visible = table.getVisibleLeafColumns().flatMap(({ id }) => columns.find((column) => column.id === id) ?? []);
  const tickColumn = tickColumnOf(props);
  const shown = tickColumn ? [tickColumn, ...visible] : visible;
  const onRowKey = (event: KeyboardEvent<HTMLTableRowElement>, index: number) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    const next = rows[index + step];
    if (!onChoose || event.target !== event.currentTarget) return;
    if (step !== 0 && next) {
      onChoose(next.original as T);
      const sibling = step > 0 ? event.currentTarget.nextElementSibling : event.currentTarget.previousElementSibling;
      if (sibling instanceof HTMLElement) sibling.focus();
    } else if (event.key === "Enter" || event.key === " ") {
      const own = rows[index];
      if (own) onChoose(own.original as T);
    } else return;
    event.preventDefault();
  };
  const drawRow = (index: number, measure: ((element: Element | null) => void) | null) => {
    const row = rows[index];
    if (!row) return null;
    const item = row.original as T;
    return (
      <BodyRow
        key={row.id}
        item={item}
        columns={shown}
        more={below?.(item)}
        isChosen={row.id === chosen}
        as={props.row ?? PlainRow}
        own={{
          "data-index": index,
          "aria-rowindex": index + 2,
          ref: measure,
          ...(onChoose
            ? {
                "aria-selected": row.id === chosen,
                tabIndex: row.id === chosen || (at < 0 && index === 0) ? 0 : -1,
                onClick: () => onChoose(item),
                onKeyDown: (event: KeyboardEvent<HTMLTableRowElement>) => onRowKey(event, index),
              }
            : {}),
        }}
      />
    );
  };
  return (
    <>
      {keptAs && items.length > 0 && (
        <Optional>
          <TableBar
            label={label}
            bar={bar}
            wanted={wanted}
            setWanted={setWanted}
            words={rows.length === items.length ? "" : `${rows.length} of ${items.length}`}
            columns={table.getAllLeafColumns().map((column) => ({
              id: column.id,
              text: titleOf(columns, column.id),
              shown: column.getIsVisible(),
              toggle: (shown) => column.toggleVisibility(shown),
            }))}
          />
        </Optional>
      )}
      <div ref={flowing ? setScrollAround : setScroll} className={flowing ? "" : "min-h-0 flex-1 overflow-auto"}>
        {items.length === 0 && empty}
        {items.length > 0 && (
          <table
            aria-label={label}
            aria-rowcount={rows.length + 1}
            className={`w-full border-collapse ${Object.keys(kept.columnSizing ?? {}).length > 0 ? "table-fixed" : ""} ${props.className ?? ""}`}
          >
            <Head
              table={table}
              columns={columns}
              widths={kept.columnSizing}
              first={props.ticks && <TickHead ticks={props.ticks} shown={rows.map(({ id }) => id)} />}
            />
            <tbody>
              {many ? (
                // the first rows are there while what draws those in sight is on its way
                <Suspense fallback={rows.slice(0, MOST_DRAWN).map((_, index) => drawRow(index, null))}>
                  <ManyRows count={rows.length} chosen={at} columns={shown.length} scroll={scroll} row={drawRow} />
                </Suspense>
              ) : (
                rows.map((_, index) => drawRow(index, null))
              )}
            </tbody>
          </table>
        )}
        {items.length > 0 && rows.length === 0 && <p className="p-3 text-ink-2">Nothing here holds “{wanted}”.</p>}
      </div>
    </>
  );
}

/** The column of ticks, when there is one. */
function tickColumnOf<T>({ ticks, idOf }: Props<T>): DataColumn<T> | null {
  if (!ticks) return null;
  const { ticked, onTick, nameOf } = ticks;
  return {
    ...{ id: "tick", title: "Chosen" },
    cell: (item) => (
      <Checkbox
        label={`Choose ${nameOf(item)}`}
        checked={ticked.has(idOf(item))}
        onChange={(now) => {
          const next = new Set(ticked);
          if (now) next.add(idOf(item));
          else next.delete(idOf(item));
          onTick(next);
        }}
      />
    ),
  };
}

/** Ticks all rows that are found, or none of them; what is ticked and not found stays so. */
function TickHead<T>({ ticks, shown }: { ticks: NonNullable<Props<T>["ticks"]>; shown: readonly string[] }) {
  const { ticked, onTick } = ticks;
  const some = shown.filter((id) => ticked.has(id)).length;
  return (
    <th scope="col" className="sticky top-0 z-1 w-7 border-b border-rule-2 bg-sheet pl-3 text-left">
      <Checkbox
        label="Choose all that are shown"
        checked={some === 0 ? false : some === shown.length ? true : "indeterminate"}
        onChange={() => {
          const next = new Set(ticked);
          for (const id of shown)
            if (some === shown.length) next.delete(id);
            else next.add(id);
          onTick(next);
        }}
      />
    </th>
  );
}

/** The headings: they sort, and their edges size the columns. */
function Head<T>({
  table,
  columns,
  widths,
  first,
}: {
  table: ReturnType<typeof useDataTable<T>>["table"];
  columns: readonly DataColumn<T>[];
  /** Widths that somebody has set, by column. */
  widths: Readonly<Record<string, number>> | undefined;
  /** A heading before all others. */
  first: ReactNode;
}) {
  return (
    <thead>
      <tr>
        {first}
        {(table.getHeaderGroups()[0]?.headers ?? []).map((header) => {
          const column = columns.find(({ id }) => id === header.id);
          return (
            <ColumnHead
              key={header.id}
              head={header}
              title={titleOf(columns, header.id)}
              untitled={column?.untitled ?? false}
              figures={column?.figures ?? false}
              width={widths?.[header.id] ?? column?.width}
              className="whitespace-nowrap last:pr-3 max-sm:whitespace-normal"
            />
          );
        })}
      </tr>
    </thead>
  );
}

function defOf<T>(column: DataColumn<T>): object {
  const { id, value, width } = column;
  const size = width === undefined ? {} : { size: width };
  return value
    ? { id, accessorFn: value, sortFn: "alphanumeric", sortUndefined: "last", minSize: 36, ...size }
    : { id, enableSorting: false, enableGlobalFilter: false, minSize: 24, ...size };
}

const leftOut = <T,>(columns: readonly DataColumn<T>[], narrow: boolean) =>
  Object.fromEntries(columns.filter(({ spare, hidden }) => hidden || (narrow && spare)).map(({ id }) => [id, false]));

const titleOf = <T,>(columns: readonly DataColumn<T>[], id: string) =>
  columns.find((column) => column.id === id)?.title ?? id;
