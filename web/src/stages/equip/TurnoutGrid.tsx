import {
  addTurnout,
  COLUMNS,
  copyBlock,
  count,
  type EditGroup,
  equipLike,
  fillDown,
  moveBy,
  pasteBlock,
  type RailwayRecord,
  RecordError,
  removeTurnouts,
  turnoutsFromTable,
  writeCell,
} from "@alderman/core";
import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { type ClipboardEvent, Fragment, type KeyboardEvent, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { useResults } from "../../derivation/hooks.ts";
import { Mark } from "../../parts/Mark.tsx";
import { Sheet } from "../../parts/Sheet.tsx";
import { useLatest } from "../../parts/useLatest.ts";
import { commit } from "../../session/actions.ts";
import { useRecord } from "../../session/hooks.ts";
import { notify } from "../../store/notices.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { AddRow } from "./AddRow.tsx";
import { AllotDialog } from "./AllotDialog.tsx";
import { FirstSteps } from "./FirstSteps.tsx";
import { GridBar, TakeInButton } from "./GridBar.tsx";
import type { CellHandlers, Place } from "./GridCell.tsx";
import { GridHead } from "./GridHead.tsx";
import { GridRow, textsOf } from "./GridRow.tsx";
import { cellVerdicts, PLAIN_LOOK, placesOf, rowsOf, withRow } from "./gridRows.ts";
import { Lacking } from "./Lacking.tsx";
import { rangeOf } from "./range.ts";
import { hasHeadings, readTable } from "./readTable.ts";

/** The turnouts as a grid to type into: arrows move, Shift and arrows choose, typing or Enter edits, the row at the foot adds. */
export function TurnoutGrid() {
  const record = useRecord();
  return record ? <Grid record={record} /> : null;
}

function Grid({ record }: { record: RailwayRecord }) {
  const { overview } = useResults();
  const dispatch = useAppDispatch();
  const [editing, setEditing] = useState<(Place & { begin: string | null }) | null>(null);
  const [allotting, setAllotting] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [look, setLook] = useState(PLAIN_LOOK);
  const [here, setHere] = useState<Place>({ row: 0, column: 0 });
  /** The corner of what is chosen that stays; the other is where one is. */
  const [anchor, setAnchor] = useState<Place | null>(null);
  const table = useRef<HTMLTableElement>(null);
  const scroll = useRef<HTMLDivElement>(null);
  const verdicts = useMemo(() => cellVerdicts(overview?.findings ?? []), [overview?.findings]);
  const items = useMemo(() => rowsOf(record, verdicts, look), [record, verdicts, look]);
  const turnouts = useMemo(() => items.flatMap((item) => (item.kind === "turnout" ? [item.turnout] : [])), [items]);
  const places = useMemo(() => placesOf(items), [items]);
  const range = rangeOf(anchor ?? here, here, turnouts.length);
  const rows = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
    // several scroll events in one frame are drawn once
    useFlushSync: false,
    // the current row stays, wherever it is scrolled to, so that the keyboard is not lost
    rangeExtractor: (visible) => withRow(defaultRangeExtractor(visible), places[here.row] ?? -1),
  });
  const shown = rows.getVirtualItems();
  const chosen = turnouts.slice(range.top, range.bottom + 1).map(({ id }) => id);
  const columns = COLUMNS.slice(range.left, range.right + 1).map(({ id }) => id);
  const several = chosen.length > 1 || columns.length > 1;

  /** Makes a cell the current one, at once: the next key typed must find it. */
  const requestFocus = (place: Place, keep = false) => {
    flushSync(() => {
      setAnchor(keep ? (anchor ?? here) : null);
      setHere(place);
      setEditing(null);
    });
    table.current?.querySelector<HTMLElement>(`[data-cell="${place.row}:${place.column}"]`)?.focus();
  };
  const focusCell = (place: Place, keep = false) => {
    // what is chosen by Shift ends with the last turnout; below it stands the row that adds
    const last = keep ? turnouts.length - 1 : turnouts.length;
    const row = Math.max(0, Math.min(last, place.row));
    const column = row === turnouts.length ? 0 : Math.max(0, Math.min(COLUMNS.length - 1, place.column));
    requestFocus({ row, column }, keep);
  };
  /** Makes edits; false, with the sentence shown, when they cannot be made. */
  const tryTo = (make: () => EditGroup | null, before = ""): boolean => {
    try {
      const group = make();
      if (group) dispatch(commit(group));
      setProblem(null);
      return true;
    } catch (error) {
      if (!(error instanceof RecordError)) throw error;
      setProblem(`${before}${error.message}`);
      return false;
    }
  };
  const write = ({ row, column }: Place, text: string): boolean =>
    tryTo(() => {
      const turnout = turnouts[row];
      if (turnout) return writeCell(record, turnout.id, COLUMNS[column]?.id ?? "", text);
      return text.trim() === "" ? null : addTurnout(record, text.trim());
    });
  const clear = (place: Place) => {
    if (!several) return void write(place, "");
    const clearing = columns.filter((id) => id !== "label");
    tryTo(() =>
      pasteBlock(
        record,
        chosen,
        clearing,
        chosen.map(() => clearing.map(() => "")),
      ),
    );
  };
  const fill = () => tryTo(() => fillDown(record, chosen, columns));
  const onCellKey = (event: KeyboardEvent, place: Place) => {
    const { row, column } = place;
    const moves: Record<string, Place> = {
      ArrowDown: { row: row + 1, column },
      ArrowUp: { row: row - 1, column },
      ArrowLeft: { row, column: column - 1 },
      ArrowRight: { row, column: column + 1 },
      Home: { row, column: 0 },
      End: { row, column: COLUMNS.length - 1 },
      PageDown: { row: row + 20, column },
      PageUp: { row: row - 20, column },
    };
    const command = event.ctrlKey || event.metaKey;
    const move = moves[event.key];
    if (event.altKey) {
      const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
      const turnout = turnouts[row];
      if (step === 0 || !turnout || COLUMNS[column]?.id !== "driver") return;
      tryTo(() => moveBy(record, turnout.movesWith ?? turnout.id, step));
    } else if (command && event.key.toLowerCase() === "d") fill();
    else if (command && event.key.toLowerCase() === "a") {
      flushSync(() => setAnchor({ row: 0, column: 0 }));
      setHere({ row: turnouts.length - 1, column: COLUMNS.length - 1 });
    } else if (command) return;
    else if (move) focusCell(move, event.shiftKey);
    else if (event.key === "Enter" || event.key === "F2") setEditing({ ...place, begin: null });
    else if (event.key === "Escape") setAnchor(null);
    else if (event.key === "Delete" || event.key === "Backspace") clear(place);
    else if (event.key.length === 1 && event.key !== "?" && event.key !== "/")
      setEditing({ ...place, begin: event.key });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const takeIn = (text: string) => tryTo(() => turnoutsFromTable(record, readTable(text)), "Nothing was taken in. ");
  const onPaste = (event: ClipboardEvent) => {
    if (event.target instanceof HTMLInputElement) return;
    const text = event.clipboardData.getData("text/plain");
    if (text.trim() === "") return;
    event.preventDefault();
    tryTo(() => {
      const cells = readTable(text.replace(/\r?\n$/, ""));
      if (hasHeadings(cells) || turnouts.length === 0 || here.row >= turnouts.length)
        return turnoutsFromTable(record, cells);
      const [[only] = []] = cells;
      const single = cells.length === 1 && cells[0]?.length === 1;
      // one cell pasted over several goes into each
      if (single && several)
        return pasteBlock(
          record,
          chosen,
          columns,
          chosen.map(() => columns.map(() => only ?? "")),
        );
      const ids = turnouts.slice(range.top).map(({ id }) => id);
      return pasteBlock(
        record,
        ids,
        COLUMNS.slice(range.left).map(({ id }) => id),
        cells,
      );
    }, "Nothing was pasted. ");
  };
  const onCopy = (event: ClipboardEvent) => {
    if (event.target instanceof HTMLInputElement || chosen.length === 0) return;
    event.preventDefault();
    event.clipboardData.setData("text/plain", copyBlock(record, chosen, columns));
  };
  const sortBy = (column: string) => {
    const { sort } = look;
    setLook({
      ...look,
      sort: sort?.column !== column ? { column, down: false } : sort.down ? null : { column, down: true },
    });
  };
  const current = turnouts[here.row];
  const [pattern] = chosen;
  const handlers = useLatest<CellHandlers>({
    focus: (place, turnoutId) => {
      if (place.row !== here.row || place.column !== here.column) {
        setHere(place);
        setAnchor(null);
      }
      dispatch(choose(turnoutId));
    },
    extend: (place) => requestFocus(place, true),
    begin: (place) => setEditing({ ...place, begin: null }),
    onKey: onCellKey,
    write,
    tell: (sentence) => void dispatch(notify(sentence)),
    move: focusCell,
    go: requestFocus,
  });

  return (
    <Sheet
      title="Turnouts"
      about={
        record.turnouts.length === 0
          ? "type a label and press Enter"
          : several
            ? `${count(chosen.length, "turnout")} by ${count(columns.length, "column")} chosen`
            : "type into a cell; Shift and arrows choose several"
      }
      actions={
        <>
          {several && chosen.length > 1 && (
            <>
              <button type="button" className="btn" onClick={fill} title="Ctrl+D">
                Fill down
              </button>
              <button
                type="button"
                className="btn"
                onClick={() => tryTo(() => equipLike(record, pattern ?? "", chosen))}
              >
                Equip all like {turnouts[range.top]?.label}
              </button>
            </>
          )}
          <button type="button" className="btn" onClick={() => setAllotting(true)}>
            Allot
          </button>
          <TakeInButton takeIn={takeIn} refuse={setProblem} />
          <button
            type="button"
            className="btn"
            disabled={chosen.length === 0}
            onClick={() => tryTo(() => removeTurnouts(record, chosen))}
          >
            Remove {chosen.length > 1 ? count(chosen.length, "turnout") : (current?.label ?? "turnout")}
          </button>
        </>
      }
    >
      {allotting && <AllotDialog close={() => setAllotting(false)} />}
      {record.turnouts.length > 0 && (
        <GridBar look={look} set={setLook} shown={turnouts.length} all={record.turnouts.length} />
      )}
      {problem && (
        <p role="alert" className="flex items-start gap-2 border-b border-rule bg-red-wash px-3 py-2">
          <Mark verdict="wrong" /> <span className="flex-1">{problem}</span>
          <button type="button" className="btn !min-h-6" onClick={() => setProblem(null)}>
            Close
          </button>
        </p>
      )}
      <div className="scroll" ref={scroll} onPaste={onPaste} onCopy={onCopy}>
        <table
          ref={table}
          className="list cells table-fixed"
          aria-label="List of turnouts"
          aria-rowcount={turnouts.length + 2}
        >
          <GridHead look={look} sortBy={sortBy} />
          <tbody>
            {shown.map(({ index, start }, at) => {
              const item = items[index];
              const before = start - (shown[at - 1]?.end ?? 0);
              if (!item) return null;
              const key = item.kind === "zone" ? `zone ${item.title}` : item.turnout.id;
              return (
                <Fragment key={key}>
                  {before > 0 && <Gap height={before} />}
                  {item.kind === "zone" ? (
                    <tr className="group" style={{ height: ROW_HEIGHT }}>
                      <th colSpan={COLUMNS.length} scope="rowgroup">
                        {item.title}
                      </th>
                    </tr>
                  ) : (
                    <GridRow
                      record={record}
                      turnout={item.turnout}
                      texts={textsOf(record, item.turnout)}
                      row={item.row}
                      here={item.row === here.row ? here.column : null}
                      editing={editing?.row === item.row ? editing : null}
                      from={several && range.holds(item.row, range.left) ? range.left : null}
                      to={several && range.holds(item.row, range.left) ? range.right : null}
                      verdicts={verdicts.get(item.turnout.movesWith ?? item.turnout.id)}
                      handlers={handlers}
                    />
                  )}
                </Fragment>
              );
            })}
            <Gap height={rows.getTotalSize() - (shown.at(-1)?.end ?? 0)} />
            <AddRow
              row={turnouts.length}
              editing={editing?.row === turnouts.length ? editing : null}
              hint={record.turnouts.length === 0}
              handlers={handlers}
              begin={(begin) => setEditing({ row: turnouts.length, column: 0, begin })}
              enter={() => setHere({ row: turnouts.length, column: 0 })}
            />
          </tbody>
        </table>
        {record.turnouts.length === 0 && <FirstSteps takeIn={takeIn} />}
      </div>
      {current && (
        <Lacking
          turnout={current}
          go={(column) => requestFocus({ row: here.row, column: COLUMNS.findIndex(({ id }) => id === column) })}
        />
      )}
    </Sheet>
  );
}

/** Height of a row, pixels; only rows in sight are drawn. */
const ROW_HEIGHT = 29;

/** The room of rows that are out of sight. */
function Gap({ height }: { height: number }) {
  return height > 0 ? (
    <tr style={{ height }}>
      <td colSpan={COLUMNS.length} className="!border-0 !p-0" />
    </tr>
  ) : null;
}
