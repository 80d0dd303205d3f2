import {
  COLUMNS,
  type Column,
  type Finding,
  type RailwayRecord,
  type Turnout,
  turnoutsInOrder,
  type Zone,
} from "@alderman/core";
import {
  type ColumnDef,
  columnFilteringFeature,
  columnGroupingFeature,
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  createFilteredRowModel,
  createGroupedRowModel,
  createSortedRowModel,
  type FilterFn,
  globalFilteringFeature,
  rowSortingFeature,
  type SortFn,
  type TableState,
  tableFeatures,
  useTable,
} from "@tanstack/react-table";
import { type Dispatch, type SetStateAction, useMemo } from "react";
import { type Verdict, verdictFor } from "../../drawing/verdict.ts";
import { useNarrow } from "../../kit/useMedia.ts";
import { textsOf } from "./cellTexts.ts";

/** How the list is looked at; nothing of it is part of the railway. */
export interface Look {
  /** Only turnouts in one of whose cells this stands. */
  text: string;
  show: "all" | "open" | "findings";
  grouped: boolean;
  sorting: TableState<Features>["sorting"];
  columnVisibility: Record<string, boolean>;
  columnSizing: Record<string, number>;
}

export const PLAIN_LOOK: Look = {
  ...{ text: "", show: "all", grouped: false, sorting: [], columnVisibility: {}, columnSizing: {} },
};

/** A row of the grid: a turnout with its place among those shown, or the heading of a zone. */
export type GridItem = { kind: "turnout"; turnout: Turnout; row: number } | { kind: "zone"; title: string };

/** What findings say of each turnout's cells: the worst of each column, by leader. */
export type CellVerdicts = ReadonlyMap<string, ReadonlyMap<string, Verdict>>;

const GRAVEST: Verdict[] = ["wrong", "doubtful", "open"];

/** The worst verdict of each cell, by leader and column. */
export function cellVerdicts(findings: readonly Finding[]): CellVerdicts {
  const verdicts = new Map<string, Map<string, Verdict>>();
  for (const { kept, column, severity, ruleId, turnoutIds } of findings) {
    if (kept !== null || column === null) continue;
    const verdict = ruleId === "turnout-incomplete" ? "open" : verdictFor(severity);
    for (const id of turnoutIds) {
      const own = verdicts.get(id) ?? new Map<string, Verdict>();
      const known = own.get(column);
      if (!known || GRAVEST.indexOf(verdict) < GRAVEST.indexOf(known)) own.set(column, verdict);
      verdicts.set(id, own);
    }
  }
  return verdicts;
}

/** A turnout with what its cells say, as the table works on it. */
export interface GridRecord {
  turnout: Turnout;
  /** Read when the table sorts or searches by them. */
  readonly texts: readonly string[];
  /** What findings say of its cells, for what is shown. */
  verdicts: ReadonlyMap<string, Verdict>;
}

const NO_VERDICTS: ReadonlyMap<string, Verdict> = new Map();
const NO_RECORDS: GridRecord[] = [];

const ORDER = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

/** As people count; what is empty has no place and comes last either way (`sortUndefined`). */
const asPeopleCount: SortFn<Features, GridRecord> = (a, b, id) =>
  ORDER.compare(a.getValue<string>(id), b.getValue<string>(id));

/** Whether a text stands in any cell of a row, and the row is one of those to be shown. */
const isShown: FilterFn<Features, GridRecord> = ({ original: { texts, verdicts } }, _id, { text, show }: Look) => {
  if (show === "open" && ![...verdicts.values()].includes("open")) return false;
  if (show === "findings" && verdicts.size === 0) return false;
  const wanted = text.trim().toLowerCase();
  return wanted === "" || texts.some((each) => each.toLowerCase().includes(wanted));
};

const features = tableFeatures({
  rowSortingFeature,
  columnFilteringFeature,
  globalFilteringFeature,
  columnGroupingFeature,
  columnVisibilityFeature,
  columnSizingFeature,
  columnResizingFeature,
  filteredRowModel: createFilteredRowModel(),
  groupedRowModel: createGroupedRowModel(),
  sortedRowModel: createSortedRowModel(),
});
type Features = typeof features;

/** Widths to begin with, as shares of the list. */
const WIDTHS: Record<string, number> = {
  ...{ label: 72, name: 112, hand: 50, zone: 78, with: 76, motor: 104, driver: 66, control: 88, frog: 78, lamp: 66 },
  ...{ address: 62, run: 52 },
};

const columnDefs = COLUMNS.map(
  ({ id, title }, index): ColumnDef<Features, GridRecord> => ({
    ...{ id, header: title, size: WIDTHS[id] ?? 80, minSize: 36 },
    accessorFn: ({ texts }: GridRecord) => texts[index] || undefined,
    sortFn: asPeopleCount,
    sortUndefined: "last",
    enableHiding: id !== "label",
  }),
);

/** Columns that are left out at first where the screen is narrow. */
const SPARED: Record<string, boolean> = Object.fromEntries(
  COLUMNS.filter(({ id }) => !["label", "motor", "driver", "address"].includes(id)).map(({ id }) => [id, false]),
);

/** The table of turnouts: which rows and columns are shown, in which order. */
export function useGridTable(
  record: RailwayRecord,
  verdicts: CellVerdicts,
  look: Look,
  setLook: Dispatch<SetStateAction<Look>>,
) {
  const { text, show } = look;
  const filter = useMemo(() => (text.trim() === "" && show === "all" ? undefined : { text, show }), [text, show]);
  const { turnouts } = record;
  const inOrder = useMemo(() => turnoutsInOrder({ turnouts }), [turnouts]);
  // in the owner's order without any left out the table has nothing to work on, which takes a while for thousands
  const isPlain = filter === undefined && look.sorting.length === 0 && !look.grouped;
  const data = useMemo(
    () =>
      isPlain
        ? NO_RECORDS
        : inOrder.map(
            (turnout): GridRecord => ({
              turnout,
              get texts() {
                return textsOf(record, turnout);
              },
              verdicts: verdicts.get(turnout.movesWith ?? turnout.id) ?? NO_VERDICTS,
            }),
          ),
    [isPlain, inOrder, record, verdicts],
  );
  const keep =
    <K extends "sorting" | "columnVisibility" | "columnSizing">(name: K) =>
    (next: Look[K] | ((now: Look[K]) => Look[K])) =>
      setLook((now) => ({ ...now, [name]: typeof next === "function" ? next(now[name]) : next }));
  const narrow = useNarrow();
  const visibility = useMemo(
    () => ({ ...(narrow ? SPARED : {}), ...look.columnVisibility }),
    [narrow, look.columnVisibility],
  );
  const table = useTable<Features, GridRecord>({
    features,
    data,
    columns: columnDefs,
    getRowId: ({ turnout }) => turnout.id,
    columnResizeMode: "onChange",
    globalFilterFn: isShown,
    getColumnCanGlobalFilter: () => true,
    // cells stay in the order of their columns
    groupedColumnMode: false,
    enableSortingRemoval: true,
    sortDescFirst: false,
    state: {
      ...{ sorting: look.sorting, columnVisibility: visibility, columnSizing: look.columnSizing },
      ...{ globalFilter: filter, grouping: look.grouped ? ["zone"] : [] },
    },
    onSortingChange: keep("sorting"),
    onColumnVisibilityChange: keep("columnVisibility"),
    onColumnSizingChange: keep("columnSizing"),
  });
  const { rows } = table.getSortedRowModel();
  const { zones } = record;
  const items = useMemo(
    () => (isPlain ? turnoutItems(inOrder) : itemsOf(zones, rows, look.grouped)),
    [isPlain, inOrder, zones, rows, look.grouped],
  );
  const columns = useMemo(() => COLUMNS.filter(({ id }) => visibility[id] !== false), [visibility]);
  return { table, items, columns };
}

export type GridTable = ReturnType<typeof useGridTable>["table"];

/** How the list is shown. */
export interface Shown {
  /** The table, another object each time; what it says follows from the others. */
  table: GridTable;
  look: Look;
  columns: readonly Column[];
}

/** Whether nothing is to be drawn otherwise for properties that are the same but for the table. */
export function isShownAlike<P extends Shown>({ table: _, ...a }: P, { table: __, ...b }: P): boolean {
  return Object.entries(a).every(([name, value]) => value === (b as Record<string, unknown>)[name]);
}

interface SortedRow {
  original: GridRecord;
  subRows: readonly SortedRow[];
}

/** Rows of turnouts, one after the other. @param before how many there are before them */
function turnoutItems(turnouts: readonly Turnout[], before = 0): GridItem[] {
  return turnouts.map((turnout, index) => ({ kind: "turnout", turnout, row: before + index }));
}

/** The rows as they are drawn, zone by zone in the owner's order when they are grouped. */
function itemsOf(zones: readonly Zone[], rows: readonly SortedRow[], grouped: boolean): GridItem[] {
  const turnouts = (of: readonly SortedRow[]) => of.map(({ original: { turnout } }) => turnout);
  if (!grouped) return turnoutItems(turnouts(rows));
  const zoneOf = new Map(zones.map((zone) => [zone.id, zone]));
  const groups = rows.map(({ subRows }) => ({ subRows, zone: zoneOf.get(subRows[0]?.original.turnout.zoneId ?? "") }));
  groups.sort((a, b) => (a.zone?.order ?? Number.POSITIVE_INFINITY) - (b.zone?.order ?? Number.POSITIVE_INFINITY));
  let before = 0;
  return groups.flatMap(({ zone, subRows }) => {
    const name = zone ? (zone.name ? `${zone.label}, ${zone.name}` : zone.label) : "No zone";
    const items = turnoutItems(turnouts(subRows), before);
    before += subRows.length;
    return [{ kind: "zone", title: `${name} (${subRows.length})` }, ...items];
  });
}
