import {
  addTurnout,
  COLUMNS,
  count,
  MOST_CHARACTERS,
  RecordError,
  removeTurnouts,
  type Turnout,
  turnoutsFromTable,
  turnoutsInOrder,
  writeCell,
} from "@alderman/core";
import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { type ClipboardEvent, Fragment, type KeyboardEvent, useMemo, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { useEdit } from "../../parts/FindingCard.tsx";
import { Mark } from "../../parts/Mark.tsx";
import { Sheet } from "../../parts/Sheet.tsx";
import { commit } from "../../store/railway.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { useResults } from "../../worker/derive.ts";
import { AllotDialog } from "./AllotDialog.tsx";
import { CellInput } from "./CellInput.tsx";
import { GridCell, type Place } from "./GridCell.tsx";
import { verdictOf } from "./Roster.tsx";
import { readTable } from "./readTable.ts";

/** The turnouts as a grid to type into: arrows move, typing or Enter edits, the row at the foot adds. */
export function TurnoutGrid() {
  const record = useAppSelector((state) => state.railway.record);
  const { overview } = useResults();
  const dispatch = useAppDispatch();
  const act = useEdit();
  const [editing, setEditing] = useState<(Place & { begin: string | null }) | null>(null);
  const [allotting, setAllotting] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [here, setHere] = useState<Place>({ row: 0, column: 0 });
  const table = useRef<HTMLTableElement>(null);
  const scroll = useRef<HTMLDivElement>(null);
  const turnouts = useMemo(() => (record ? turnoutsInOrder(record) : []), [record]);
  const rows = useVirtualizer({
    count: turnouts.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 10,
    // the current row stays, wherever it is scrolled to, so that the keyboard is not lost
    rangeExtractor: (range) => withRow(defaultRangeExtractor(range), here.row, turnouts.length),
  });
  const shown = rows.getVirtualItems();
  if (!record) return null;

  /** Makes a cell the current one, at once: the next key typed must find it. */
  const requestFocus = (place: Place) => {
    flushSync(() => {
      setHere(place);
      setEditing(null);
    });
    table.current?.querySelector<HTMLElement>(`[data-cell="${place.row}:${place.column}"]`)?.focus();
  };
  const focusCell = (place: Place) => {
    const row = Math.max(0, Math.min(turnouts.length, place.row));
    const column = row === turnouts.length ? 0 : Math.max(0, Math.min(COLUMNS.length - 1, place.column));
    requestFocus({ row, column });
  };
  /** Writes a cell; false, with the sentence shown, when it cannot be. */
  const write = ({ row, column }: Place, text: string): boolean => {
    try {
      const turnout = turnouts[row];
      const group = turnout
        ? writeCell(record, turnout.id, COLUMNS[column]?.id ?? "", text)
        : text.trim() === ""
          ? null
          : addTurnout(record, text.trim());
      if (group) dispatch(commit(group));
      setProblem(null);
      return true;
    } catch (error) {
      if (!(error instanceof RecordError)) throw error;
      setProblem(error.message);
      return false;
    }
  };
  const onCellKey = (event: KeyboardEvent, place: Place) => {
    const { row, column } = place;
    const moves: Record<string, Place> = {
      ArrowDown: { row: row + 1, column },
      ArrowUp: { row: row - 1, column },
      ArrowLeft: { row, column: column - 1 },
      ArrowRight: { row, column: column + 1 },
      Home: { row, column: 0 },
      End: { row, column: COLUMNS.length - 1 },
    };
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const move = moves[event.key];
    if (move) focusCell(move);
    else if (event.key === "Enter" || event.key === "F2") setEditing({ ...place, begin: null });
    else if (event.key === "Delete" || event.key === "Backspace") write(place, "");
    else if (event.key.length === 1 && event.key !== "?" && event.key !== "/")
      setEditing({ ...place, begin: event.key });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const takeIn = (text: string) => {
    try {
      act(turnoutsFromTable(record, readTable(text)));
      setProblem(null);
    } catch (error) {
      setProblem(error instanceof Error ? `Nothing was taken in. ${error.message}` : String(error));
    }
  };
  const onPaste = (event: ClipboardEvent) => {
    if (event.target instanceof HTMLInputElement) return;
    const text = event.clipboardData.getData("text/plain");
    if (!/[\t\n,;]/.test(text.trim())) return;
    event.preventDefault();
    takeIn(text);
  };
  const openFile = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > MOST_CHARACTERS)
      setProblem(
        `Nothing was taken in. ${file.name} has ${Math.round(file.size / 1e6)} MB; a table may have ${MOST_CHARACTERS / 1e6} MB.`,
      );
    else takeIn(await file.text());
  };

  return (
    <Sheet
      title="Turnouts"
      about={
        turnouts.length === 0
          ? "type a label and press Enter"
          : `${count(turnouts.length, "turnout")}; type into a cell, Enter goes down, Tab to the right`
      }
      actions={
        <>
          <button type="button" className="btn" onClick={() => setAllotting(true)}>
            Allot
          </button>
          <label className="btn cursor-pointer focus-within:outline-3 focus-within:outline-focus">
            Take in CSV
            <input
              type="file"
              accept=".csv,.tsv,.txt,text/csv"
              className="sr-only"
              onChange={(event) => {
                void openFile(event.target.files?.[0]);
                event.target.value = "";
              }}
            />
          </label>
          <button
            type="button"
            className="btn"
            disabled={!turnouts[here.row]}
            onClick={() => {
              const turnout = turnouts[here.row];
              if (turnout) act(removeTurnouts(record, [turnout.id]));
            }}
          >
            Remove {turnouts[here.row]?.label ?? "turnout"}
          </button>
        </>
      }
    >
      {allotting && <AllotDialog close={() => setAllotting(false)} />}
      {problem && (
        <p role="alert" className="flex items-start gap-2 border-b border-rule bg-red-wash px-3 py-2">
          <Mark verdict="wrong" /> <span className="flex-1">{problem}</span>
          <button type="button" className="btn !min-h-6" onClick={() => setProblem(null)}>
            Close
          </button>
        </p>
      )}
      <div className="scroll" ref={scroll} onPaste={onPaste}>
        <table
          ref={table}
          className="list cells table-fixed"
          aria-label="List of turnouts"
          aria-rowcount={turnouts.length + 2}
        >
          <colgroup>
            {COLUMNS.map(({ id }) => (
              <col key={id} style={{ width: WIDTHS[id] }} />
            ))}
            <col style={{ width: 30 }} />
          </colgroup>
          <thead>
            <tr>
              {COLUMNS.map(({ id, title }) => (
                <th key={id} scope="col">
                  {title}
                </th>
              ))}
              <th aria-label="Verdict" />
            </tr>
          </thead>
          <tbody>
            {shown.map(({ index: row, start }, at) => {
              const turnout = turnouts[row];
              const before = start - (shown[at - 1]?.end ?? 0);
              return turnout ? (
                <Fragment key={turnout.id}>
                  {before > 0 && <Gap height={before} />}
                  <tr aria-selected={row === here.row} aria-rowindex={row + 2}>
                    {COLUMNS.map((column, index) => (
                      <GridCell
                        key={column.id}
                        column={column}
                        turnout={turnout}
                        place={{ row, column: index }}
                        editing={editing?.row === row && editing.column === index ? editing : null}
                        current={here.row === row && here.column === index}
                        focus={(place) => {
                          setHere(place);
                          dispatch(choose(turnout.id));
                        }}
                        begin={(place) => setEditing({ ...place, begin: null })}
                        onKey={onCellKey}
                        write={write}
                        move={focusCell}
                      />
                    ))}
                    <td className="text-center">{overview && <Verdict turnout={turnout} overview={overview} />}</td>
                  </tr>
                </Fragment>
              ) : null;
            })}
            <Gap height={rows.getTotalSize() - (shown.at(-1)?.end ?? 0)} />
            <tr>
              <td>
                {editing?.row === turnouts.length ? (
                  <CellInput
                    label="New turnout"
                    begin={editing.begin ?? ""}
                    choices={[]}
                    done={(text, step) => {
                      if (text.trim() !== "" && !write({ row: turnouts.length, column: 0 }, text)) return false;
                      // with Tab the new turnout's next cell, with Enter the row for the next one
                      const added = text.trim() !== "";
                      requestFocus({
                        row: turnouts.length + (added && step !== "right" ? 1 : 0),
                        column: added && step === "right" ? 1 : 0,
                      });
                      return true;
                    }}
                    cancel={() => focusCell({ row: turnouts.length, column: 0 })}
                  />
                ) : (
                  <button
                    type="button"
                    data-cell={`${turnouts.length}:0`}
                    className="quiet"
                    onFocus={() => setHere({ row: turnouts.length, column: 0 })}
                    onClick={() => setEditing({ row: turnouts.length, column: 0, begin: null })}
                    onKeyDown={(event) => onCellKey(event, { row: turnouts.length, column: 0 })}
                  >
                    new ...
                  </button>
                )}
              </td>
              <td colSpan={COLUMNS.length} className="quiet !pl-1.5 text-[12px]">
                {turnouts.length === 0 &&
                  "Or paste a table from a spreadsheet: its first row names the columns, at least label."}
              </td>
            </tr>
          </tbody>
        </table>
        {turnouts.length === 0 && <FirstSteps takeIn={takeIn} />}
      </div>
    </Sheet>
  );
}

/** Height of a row, pixels; only rows in sight are drawn. */
const ROW_HEIGHT = 29;

/** Rows in sight and the current one, in order. */
function withRow(visible: number[], current: number, count: number): number[] {
  if (current >= count || visible.includes(current)) return visible;
  return [...visible, current].sort((a, b) => a - b);
}

/** The room of rows that are out of sight. */
function Gap({ height }: { height: number }) {
  return height > 0 ? (
    <tr style={{ height }}>
      <td colSpan={COLUMNS.length + 1} className="!border-0 !p-0" />
    </tr>
  ) : null;
}

const WIDTHS: Record<string, string> = {
  label: "8%",
  name: "14%",
  hand: "6%",
  zone: "9%",
  with: "7%",
  motor: "14%",
  driver: "8%",
  control: "8%",
  frog: "8%",
  lamp: "7%",
  address: "6%",
  run: "5%",
};

function Verdict({
  turnout,
  overview,
}: {
  turnout: Turnout;
  overview: NonNullable<ReturnType<typeof useResults>["overview"]>;
}) {
  const thread = overview.threads.find((each) => each.turnout.id === (turnout.movesWith ?? turnout.id));
  return thread ? <Mark verdict={verdictOf(thread, overview)} size={15} /> : null;
}

const EXAMPLE = `label,name,hand,zone,with,motor,driver,control,lamp,run
A1,Goods loop west,left,Station,,stall-motor,stall-decoder-8,,lamp-two-colour,1.2
A2,Goods loop east,right,Station,,stall-motor,D1-2,,lamp-two-colour,2.0
B1,Coal stage,left,Yard,,twin-coil-under-board,cdu,toggle-centre-off,,0.8`;

/** What an empty list says: how to begin, and an example to take in. */
function FirstSteps({ takeIn }: { takeIn: (text: string) => void }) {
  return (
    <div className="grid max-w-[640px] justify-items-start gap-3 p-6">
      <h3>How to begin</h3>
      <p>
        Type the label of your first turnout and press Enter; the next row opens by itself. Then go to the right with
        Tab for its motor, driver, control and lamp: type a few letters and choose. A crossover's second turnout moves
        with the first.
      </p>
      <p>A table from a spreadsheet can be pasted, or taken in as CSV. Its first row names the columns:</p>
      <pre className="mono border border-rule bg-sheet-2 p-3 text-[11.5px]">{EXAMPLE}</pre>
      <button type="button" className="btn" onClick={() => takeIn(EXAMPLE)}>
        Take in this example
      </button>
    </div>
  );
}
