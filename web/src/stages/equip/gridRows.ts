import { COLUMNS, type Finding, type RailwayRecord, type Turnout, turnoutsInOrder } from "@alderman/core";
import type { Verdict } from "../../parts/Mark.tsx";
import { verdictFor } from "../../parts/Mark.tsx";

/** How the list is looked at; nothing of it is part of the railway. */
export interface Look {
  /** Only turnouts in one of whose cells this stands. */
  text: string;
  show: "all" | "open" | "findings";
  /** Column by which it is sorted; null for the owner's order. */
  sort: { column: string; down: boolean } | null;
  grouped: boolean;
}

export const PLAIN_LOOK: Look = { text: "", show: "all", sort: null, grouped: false };

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

const ORDER = new Intl.Collator("en", { numeric: true, sensitivity: "base" });

/** The rows to be shown, in order. */
export function rowsOf(record: RailwayRecord, verdicts: CellVerdicts, look: Look): GridItem[] {
  const wanted = look.text.trim().toLowerCase();
  const leader = (turnout: Turnout) => turnout.movesWith ?? turnout.id;
  const shown = turnoutsInOrder(record).filter((turnout) => {
    const own = verdicts.get(leader(turnout));
    if (look.show === "open" && ![...(own?.values() ?? [])].includes("open")) return false;
    if (look.show === "findings" && !own) return false;
    return wanted === "" || COLUMNS.some((column) => column.read(record, turnout).toLowerCase().includes(wanted));
  });
  const { sort } = look;
  const column = sort && COLUMNS.find(({ id }) => id === sort.column);
  if (sort && column) {
    const texts = new Map(shown.map((turnout) => [turnout.id, column.read(record, turnout)]));
    const text = (turnout: Turnout) => texts.get(turnout.id) ?? "";
    // what is empty stands at the foot either way
    shown.sort(
      (a, b) =>
        Number(text(a) === "") - Number(text(b) === "") ||
        (sort.down ? ORDER.compare(text(b), text(a)) : ORDER.compare(text(a), text(b))),
    );
  }
  if (!look.grouped) return shown.map((turnout, row) => ({ kind: "turnout", turnout, row }));
  return grouped(record, shown);
}

function grouped(record: RailwayRecord, shown: readonly Turnout[]): GridItem[] {
  const zones = [...record.zones].sort((a, b) => a.order - b.order);
  const groups = [
    ...zones.map(({ id, label, name }) => ({ id: id as string | null, title: name ? `${label}, ${name}` : label })),
    { id: null, title: "No zone" },
  ];
  const items: GridItem[] = [];
  let row = 0;
  for (const { id, title } of groups) {
    const own = shown.filter(({ zoneId }) => zoneId === id);
    if (own.length === 0) continue;
    items.push({ kind: "zone", title: `${title} (${own.length})` });
    for (const turnout of own) items.push({ kind: "turnout", turnout, row: row++ });
  }
  return items;
}

/** Where each turnout stands among the items. */
export function placesOf(items: readonly GridItem[]): number[] {
  return items.flatMap((item, index) => (item.kind === "turnout" ? [index] : []));
}

/** Rows in sight and the current one, in order. */
export function withRow(visible: number[], current: number): number[] {
  if (current < 0 || visible.includes(current)) return visible;
  return [...visible, current].sort((a, b) => a - b);
}
