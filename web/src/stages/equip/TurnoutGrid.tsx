import { type Column, count, type RailwayRecord, type Turnout } from "@alderman/core";
import { defaultRangeExtractor, useVirtualizer } from "@tanstack/react-virtual";
import { type ClipboardEvent, Fragment, type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { Button } from "../../kit/Button.tsx";
import { Gap } from "../../kit/ManyRows.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { Tip } from "../../kit/Tooltip.tsx";
import { useKeptState } from "../../kit/useKeptState.ts";
import { useRecord } from "../../session/hooks.ts";
import { notify } from "../../store/notices.ts";
import { useAppDispatch } from "../../store/store.ts";
import { useLatest } from "../../tools/useLatest.ts";
import { AddRow } from "./AddRow.tsx";
import { AllotDialog } from "./AllotDialog.tsx";
import { onCellKey } from "./cellKeys.ts";
import { textsOf } from "./cellTexts.ts";
import { FirstSteps } from "./FirstSteps.tsx";
import { GridBar, ImportButton } from "./GridBar.tsx";
import type { CellHandlers } from "./GridCell.tsx";
import { GridHead } from "./GridHead.tsx";
import { GridRow } from "./GridRow.tsx";
import { cellVerdicts, type GridItem, PLAIN_LOOK, useGridTable } from "./gridTable.ts";
import { HeadingsDialog } from "./HeadingsDialog.tsx";
import { Lacking } from "./Lacking.tsx";
import { type Place, withRow } from "./range.ts";
import { type GridEdits, useGridEdits } from "./useGridEdits.ts";
import { type Selection, useSelection } from "./useSelection.ts";

/** The turnouts as a grid to type into: arrows move, Shift and arrows choose, Enter or a letter edits, the row at the foot adds. */
export function TurnoutGrid() {
  const record = useRecord();
  return record ? <Grid record={record} /> : null;
}

/** Height of a row, pixels; only rows in sight are drawn. */
const ROW_HEIGHT = 28;

function Grid({ record }: { record: RailwayRecord }) {
  const overview = useOverview();
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
  const { toCells } = useLatest({ toCells: () => selection.goTo({ row: 0, column: here.column }) });
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
      actions={<Actions edits={edits} like={turnouts[range.top]} current={current} allot={() => setAllotting(true)} />}
    >
      {allotting && <AllotDialog close={() => setAllotting(false)} />}
      {edits.asking && <HeadingsDialog cells={edits.asking.cells} take={edits.explain} close={edits.leave} />}
      {!empty && (
        <GridBar {...{ table, look, columns }} set={setLook} shown={turnouts.length} all={record.turnouts.length} />
      )}
      {edits.problem && <ProblemBar words={edits.problem} close={() => edits.setProblem(null)} />}
      <div className="min-h-0 flex-1 overflow-auto" ref={setScroll} data-skip-to {...clipboardOf(edits)}>
        <table
          ref={cells}
          aria-label="List of turnouts"
          aria-rowcount={turnouts.length + 2}
          className="w-full min-[700px]:min-w-[860px] table-fixed border-collapse"
        >
          <GridHead {...{ table, look, columns }} toCells={toCells} />
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

/** Cells go to the clipboard and come from it, unless a cell is being typed into. */
function clipboardOf(edits: GridEdits) {
  return {
    onPaste: (event: ClipboardEvent) => {
      const text = event.clipboardData.getData("text/plain");
      if (event.target instanceof HTMLInputElement || text.trim() === "") return;
      event.preventDefault();
      edits.paste(text);
    },
    onCopy: (event: ClipboardEvent) => {
      const text = edits.copied();
      if (event.target instanceof HTMLInputElement || text === null) return;
      event.preventDefault();
      event.clipboardData.setData("text/plain", text);
    },
  };
}

/** Why the last edit was not made. */
function ProblemBar({ words, close }: { words: string; close: () => void }) {
  return (
    <p role="alert" className="flex items-start gap-2 border-b border-rule bg-red-wash px-3 py-2">
      <Mark verdict="wrong" /> <span className="flex-1">{words}</span>
      <Button size="small" onClick={close}>
        Close
      </Button>
    </p>
  );
}

/** What can be done with the turnouts that are chosen, or with the current one. */
function Actions({
  edits,
  like,
  current,
  allot,
}: {
  edits: GridEdits;
  /** The first that is chosen. */
  like: Turnout | undefined;
  current: Turnout | undefined;
  allot: () => void;
}) {
  const several = edits.chosen.length > 1;
  return (
    <>
      {several && (
        <>
          <Tip text="Ctrl+D">
            <Button onClick={edits.fill}>Fill down</Button>
          </Tip>
          <Button onClick={edits.alike}>Equip all like {like?.label}</Button>
        </>
      )}
      <Button onClick={allot}>Allot outputs</Button>
      <ImportButton importText={edits.importText} refuse={edits.setProblem} />
      <Button disabled={edits.chosen.length === 0} onClick={edits.remove}>
        Remove {several ? count(edits.chosen.length, "turnout") : (current?.label ?? "turnout")}
      </Button>
    </>
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
