import { type Column, count, type RailwayRecord, type Turnout } from "@alderman/core";
import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { type ClipboardEvent, Fragment, type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { useResults } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { Button } from "../../kit/Button.tsx";
import { Gap } from "../../kit/ManyRows.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { Tip } from "../../kit/Tooltip.tsx";
import { useKeptState } from "../../kit/useKeptState.ts";
import { useRecord } from "../../session/hooks.ts";
import { notify } from "../../store/notices.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { useLatest } from "../../tools/useLatest.ts";
import { AddRow } from "./AddRow.tsx";
import { AllotDialog } from "./AllotDialog.tsx";
import type { Begin } from "./CellInput.tsx";
import { textsOf } from "./cellTexts.ts";
import { FirstSteps } from "./FirstSteps.tsx";
import { GridBar, ImportButton } from "./GridBar.tsx";
import type { CellHandlers } from "./GridCell.tsx";
import { GridHead } from "./GridHead.tsx";
import { GridRow } from "./GridRow.tsx";
import { cellVerdicts, type GridItem, PLAIN_LOOK, useGridTable } from "./gridTable.ts";
import { Lacking } from "./Lacking.tsx";
import { type Place, rangeOf, withRow } from "./range.ts";
import { useGridEdits } from "./useGridEdits.ts";

/** The turnouts as a grid to type into: arrows move, Shift and arrows choose, Enter or a letter edits, the row at the foot adds. */
export function TurnoutGrid() {
  const record = useRecord();
  return record ? <Grid record={record} /> : null;
}

/** Height of a row, pixels; only rows in sight are drawn. */
const ROW_HEIGHT = 28;

type Editing = Place & { begin: Begin | null };

function Grid({ record }: { record: RailwayRecord }) {
  const { overview } = useResults();
  const [allotting, setAllotting] = useState(false);
  const [kept, setKept] = useKeptState("turnout-list", PLAIN_LOOK);
  // what was searched for is not kept: a list that hides turnouts after a reload would frighten
  const [look, setLook] = useState({ ...PLAIN_LOOK, ...kept, text: "", show: "all" as const } as typeof PLAIN_LOOK);
  useEffect(() => setKept(look), [look, setKept]);
  const verdicts = useMemo(() => cellVerdicts(overview?.findings ?? []), [overview?.findings]);
  const { table, items, columns } = useGridTable(record, verdicts, look, setLook);
  const turnouts = useMemo(() => items.flatMap((item) => (item.kind === "turnout" ? [item.turnout] : [])), [items]);
  const cells = useRef<HTMLTableElement>(null);
  const selection = useSelection(turnouts, columns, cells);
  const { here, range, several, editing } = selection;
  const edits = useGridEdits(record, { turnouts, columns, here, range, several });
  const onKey = (event: KeyboardEvent, place: Place) => {
    if (!onCellKey(event, place, { turnouts, columns, selection, edits })) return;
    event.preventDefault();
    event.stopPropagation();
  };
  const dispatch = useAppDispatch();
  const handlers = useLatest<CellHandlers>({
    focus: selection.focused,
    extend: (place) => selection.goTo(place, true),
    begin: (place) => selection.edit({ ...place, begin: null }),
    onKey,
    write: edits.write,
    tell: (sentence) => void dispatch(notify(sentence)),
    move: selection.move,
    go: selection.goTo,
  });
  const onPaste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData("text/plain");
    if (event.target instanceof HTMLInputElement || text.trim() === "") return;
    event.preventDefault();
    edits.paste(text);
  };
  const onCopy = (event: ClipboardEvent) => {
    const text = edits.copied();
    if (event.target instanceof HTMLInputElement || text === null) return;
    event.preventDefault();
    event.clipboardData.setData("text/plain", text);
  };
  const [scroll, setScroll] = useState<HTMLDivElement | null>(null);
  const current = turnouts[here.row];
  const empty = record.turnouts.length === 0;
  return (
    <Sheet
      title="Turnouts"
      about={
        empty
          ? "type a label and press Enter"
          : several
            ? `${count(edits.chosen.length, "turnout")} by ${count(edits.chosenColumns.length, "column")} chosen`
            : "Enter edits a cell; Shift and arrows choose several"
      }
      actions={
        <>
          {edits.chosen.length > 1 && (
            <>
              <Tip text="Ctrl+D">
                <Button onClick={edits.fill}>Fill down</Button>
              </Tip>
              <Button onClick={edits.alike}>Equip all like {turnouts[range.top]?.label}</Button>
            </>
          )}
          <Button onClick={() => setAllotting(true)}>Allot outputs</Button>
          <ImportButton importText={edits.importText} refuse={edits.setProblem} />
          <Button disabled={edits.chosen.length === 0} onClick={edits.remove}>
            Remove {edits.chosen.length > 1 ? count(edits.chosen.length, "turnout") : (current?.label ?? "turnout")}
          </Button>
        </>
      }
    >
      {allotting && <AllotDialog close={() => setAllotting(false)} />}
      {!empty && (
        <GridBar look={look} set={setLook} table={table} shown={turnouts.length} all={record.turnouts.length} />
      )}
      {edits.problem && (
        <p role="alert" className="flex items-start gap-2 border-b border-rule bg-red-wash px-3 py-2">
          <Mark verdict="wrong" /> <span className="flex-1">{edits.problem}</span>
          <Button size="small" onClick={() => edits.setProblem(null)}>
            Close
          </Button>
        </p>
      )}
      <div className="min-h-0 flex-1 overflow-auto" ref={setScroll} data-skip-to onPaste={onPaste} onCopy={onCopy}>
        <table
          ref={cells}
          aria-label="List of turnouts"
          aria-rowcount={turnouts.length + 2}
          className="w-full min-[700px]:min-w-[860px] table-fixed border-collapse"
        >
          <GridHead table={table} toCells={() => selection.goTo({ row: 0, column: here.column })} />
          <tbody>
            <Rows
              record={record}
              items={items}
              columns={columns}
              verdicts={verdicts}
              selection={selection}
              handlers={handlers}
              scroll={scroll}
            />
            <AddRow
              row={turnouts.length}
              columns={columns.length}
              editing={editing?.row === turnouts.length ? editing : null}
              hint={empty}
              handlers={handlers}
              current={here.row >= turnouts.length}
              begin={(begin) => selection.edit({ row: turnouts.length, column: 0, begin })}
              enter={() => selection.enter({ row: turnouts.length, column: 0 })}
            />
          </tbody>
        </table>
        {empty && <FirstSteps importText={edits.importText} />}
      </div>
      {current && (
        <Lacking
          turnout={current}
          go={(column) => selection.goTo({ row: here.row, column: columns.findIndex(({ id }) => id === column) })}
        />
      )}
    </Sheet>
  );
}

/** The rows in sight, with the room of those that are not. */
function Rows({
  record,
  items,
  columns,
  verdicts,
  selection: { here, range, several, editing },
  handlers,
  scroll,
}: {
  record: RailwayRecord;
  items: readonly GridItem[];
  columns: readonly Column[];
  verdicts: ReturnType<typeof cellVerdicts>;
  selection: Selection;
  handlers: CellHandlers;
  scroll: HTMLDivElement | null;
}) {
  const currentItem = items.findIndex((item) => item.kind === "turnout" && item.row === here.row);
  const rows = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroll,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
    // several scroll events in one frame are drawn once
    useFlushSync: false,
    // the current row stays, wherever it is scrolled to, so that the keyboard is not lost
    rangeExtractor: (visible) => withRow(defaultRangeExtractor(visible), currentItem),
  });
  const shown = rows.getVirtualItems();
  return (
    <>
      {shown.map(({ index, start }, at) => {
        const item = items[index];
        const before = start - (shown[at - 1]?.end ?? 0);
        if (!item) return null;
        const chosen = item.kind === "turnout" && several && item.row >= range.top && item.row <= range.bottom;
        return (
          <Fragment key={item.kind === "zone" ? `zone ${item.title}` : item.turnout.id}>
            <Gap height={before} span={columns.length} />
            {item.kind === "zone" ? (
              <tr style={{ height: ROW_HEIGHT }}>
                <th
                  colSpan={columns.length}
                  scope="rowgroup"
                  className="border-b border-rule bg-sheet-2 px-3 text-left font-head text-label font-semibold"
                >
                  {item.title}
                </th>
              </tr>
            ) : (
              <GridRow
                record={record}
                turnout={item.turnout}
                columns={columns}
                texts={textsOf(record, item.turnout)}
                row={item.row}
                here={item.row === here.row ? here.column : null}
                editing={editing?.row === item.row ? editing : null}
                from={chosen ? range.left : null}
                to={chosen ? range.right : null}
                verdicts={verdicts.get(item.turnout.movesWith ?? item.turnout.id)}
                handlers={handlers}
              />
            )}
          </Fragment>
        );
      })}
      <Gap height={rows.getTotalSize() - (shown.at(-1)?.end ?? 0)} span={columns.length} />
    </>
  );
}

type Selection = ReturnType<typeof useSelection>;

/** Where one is in the grid, what is chosen around it, and whether a cell is being typed into. */
function useSelection(
  turnouts: readonly Turnout[],
  columns: readonly Column[],
  cells: React.RefObject<HTMLTableElement | null>,
) {
  const dispatch = useAppDispatch();
  const chosen = useAppSelector(({ view }) => (view.chosen?.kind === "turnout" ? view.chosen.id : null));
  const [here, setHere] = useState<Place>(() => ({
    row: Math.max(
      0,
      turnouts.findIndex(({ id }) => id === chosen),
    ),
    column: 0,
  }));
  /** The corner of what is chosen that stays; the other is where one is. */
  const [anchor, setAnchor] = useState<Place | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const range = rangeOf(anchor ?? here, here, turnouts.length);
  const several = range.bottom > range.top || range.right > range.left;
  // a turnout that was chosen elsewhere, as by its label, is the current one here as well
  const latest = useRef(turnouts);
  latest.current = turnouts;
  useEffect(() => {
    const row = latest.current.findIndex(({ id }) => id === chosen);
    if (row >= 0) setHere((now) => (now.row === row ? now : { ...now, row }));
  }, [chosen]);

  /** Makes a cell the current one, at once: the next key typed must find it. */
  const goTo = (place: Place, keep = false) => {
    flushSync(() => {
      setAnchor(keep ? (anchor ?? here) : null);
      setHere(place);
      setEditing(null);
    });
    cells.current?.querySelector<HTMLElement>(`[data-cell="${place.row}:${place.column}"]`)?.focus();
  };
  return {
    ...{ here, range, several, editing, goTo },
    edit: setEditing,
    enter: setHere,
    letGo: () => setAnchor(null),
    /** Goes to a cell, kept within the list; what is chosen by Shift ends with the last turnout, below it is the row that adds. */
    move: (place: Place, keep = false) => {
      const last = keep ? turnouts.length - 1 : turnouts.length;
      const row = Math.max(0, Math.min(last, place.row));
      const column = row === turnouts.length ? 0 : Math.max(0, Math.min(columns.length - 1, place.column));
      goTo({ row, column }, keep);
    },
    all: () => {
      flushSync(() => setAnchor({ row: 0, column: 0 }));
      setHere({ row: turnouts.length - 1, column: columns.length - 1 });
    },
    /** A cell has the focus. */
    focused: (place: Place, turnoutId: string) => {
      if (place.row !== here.row || place.column !== here.column) {
        setHere(place);
        setAnchor(null);
      }
      dispatch(choose({ kind: "turnout", id: turnoutId }));
    },
    toHeading: (column: number) =>
      cells.current?.querySelector<HTMLElement>(`[data-head="${columns[column]?.id}"]`)?.focus(),
  };
}

/** What a key does on a cell. @returns whether it was the cell's to take */
function onCellKey(
  event: KeyboardEvent,
  place: Place,
  {
    turnouts,
    columns,
    selection,
    edits,
  }: {
    turnouts: readonly Turnout[];
    columns: readonly Column[];
    selection: Selection;
    edits: ReturnType<typeof useGridEdits>;
  },
): boolean {
  const { row, column } = place;
  const turnout = turnouts[row];
  const here = columns[column]?.id;
  const key = event.key;
  if (event.altKey) {
    const step = key === "ArrowDown" ? 1 : key === "ArrowUp" ? -1 : 0;
    if (step === 0 || !turnout || here !== "driver") return false;
    edits.move(turnout.movesWith ?? turnout.id, step);
    return true;
  }
  if (event.ctrlKey || event.metaKey) {
    if (key.toLowerCase() === "d") edits.fill();
    else if (key.toLowerCase() === "a") selection.all();
    else return false;
    return true;
  }
  if (key === "ArrowUp" && row === 0 && !event.shiftKey) {
    selection.toHeading(column);
    return true;
  }
  const to = placeAfter(key, place, columns.length);
  if (to) selection.move(to, event.shiftKey);
  else if (key === "Enter" || key === "F2") selection.edit({ ...place, begin: null });
  else if (key === "Escape") selection.letGo();
  else if (key === "Delete" || key === "Backspace") edits.clear(place);
  // a letter on a label is a command, as anywhere: a turnout is not called otherwise by mistake
  else if (key.length === 1 && key !== "?" && key !== "/" && (here !== "label" || !turnout))
    selection.edit({ ...place, begin: { text: key, letter: true } });
  else return false;
  return true;
}

/** Rows that a page key goes by. */
const PAGE = 20;

function placeAfter(key: string, { row, column }: Place, columns: number): Place | undefined {
  const places: Record<string, Place> = {
    ArrowDown: { row: row + 1, column },
    ArrowUp: { row: row - 1, column },
    ArrowLeft: { row, column: column - 1 },
    ArrowRight: { row, column: column + 1 },
    Home: { row, column: 0 },
    End: { row, column: columns - 1 },
    PageDown: { row: row + PAGE, column },
    PageUp: { row: row - PAGE, column },
  };
  return Object.hasOwn(places, key) ? places[key] : undefined;
}
