import type { Column, RailwayRecord, Turnout } from "@alderman/core";
import type { KeyboardEvent } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import type { Verdict } from "../../drawing/verdict.ts";
import { type Begin, CellInput } from "./CellInput.tsx";
import { useDragTurnout } from "./dragging.tsx";
import type { Place } from "./range.ts";

interface CellProps {
  column: Column;
  turnout: Turnout;
  text: string;
  /** What is drawn, when that is shorter than the text. */
  short: string;
  /** Label of the leading turnout where this cell is that one's; else null. */
  leader: string | null;
  place: Place;
  editing: { begin: Begin | null } | null;
  current: boolean;
  /** One of several chosen cells. */
  chosen: boolean;
  /** The worst that findings say of it. */
  verdict: Verdict | null;
  record: RailwayRecord;
  handlers: CellHandlers;
}

/** What a cell can ask of the grid; the same object for as long as the grid is there. */
export interface CellHandlers {
  focus: (place: Place, turnoutId: string) => void;
  /** Chooses all cells from the current one to this. */
  extend: (place: Place) => void;
  begin: (place: Place) => void;
  onKey: (event: KeyboardEvent, place: Place) => void;
  write: (place: Place, text: string) => boolean;
  /** Says a sentence. */
  tell: (sentence: string) => void;
  /** Goes to a cell, kept within the list. */
  move: (place: Place) => void;
  /** Goes to a cell that is about to be there. */
  go: (place: Place) => void;
}

const CELL = "relative h-7 border-b border-rule p-0";
const FACE =
  "block h-7 w-full overflow-hidden px-1.5 text-left text-ellipsis whitespace-nowrap focus-visible:-outline-offset-3";

/** One cell: what it holds, or the field to type into. */
export function GridCell(props: CellProps) {
  const { record, column, turnout, text, leader, place, editing, chosen } = props;
  const { write, move } = props.handlers;
  if (editing && leader === null) {
    return (
      <td className={CELL}>
        <CellInput
          label={`${column.title} of ${turnout.label}`}
          begin={editing.begin ?? { text, letter: false }}
          choices={column.choices?.(record, turnout) ?? []}
          done={(typed, step) => {
            if (!write(place, typed)) return false;
            if (step === "right") move({ ...place, column: place.column + 1 });
            else if (step === "down") move({ ...place, row: place.row + 1 });
            else move(place);
            return true;
          }}
          cancel={() => move(place)}
        />
      </td>
    );
  }
  return (
    <td className={`${CELL} ${chosen ? "bg-copper-wash" : ""}`}>
      {column.id === "label" ? <LabelFace {...props} /> : <Face {...props} />}
    </td>
  );
}

function Face(props: CellProps) {
  const { column, leader, short, verdict } = props;
  return (
    <button type="button" className={`${FACE} ${verdict ? "pr-4.5" : ""}`} {...faceProps(props)}>
      {leader && column.id !== "address" ? <span className="text-ink-2">with {leader}</span> : short}
      <CellMark verdict={verdict} leader={leader} />
    </button>
  );
}

/** The label, by which the turnout is dragged to a board or an output. */
function LabelFace(props: CellProps) {
  const { turnout, text, verdict, leader } = props;
  const { ref, listeners } = useDragTurnout(turnout.movesWith ?? turnout.id, text, `list ${turnout.id}`);
  const { onKeyDown: _, onMouseDown: drag, ...touch } = listeners;
  const face = faceProps(props);
  return (
    <button
      type="button"
      ref={ref}
      className={`${FACE} touch-manipulation pl-3 ${verdict ? "pr-4.5" : ""}`}
      {...touch}
      {...face}
      onMouseDown={(event) => {
        face.onMouseDown(event);
        if (!event.shiftKey) drag?.(event);
      }}
    >
      <b>{text}</b>
      <CellMark verdict={verdict} leader={leader} />
    </button>
  );
}

function CellMark({ verdict, leader }: Pick<CellProps, "verdict" | "leader">) {
  return verdict && leader === null ? (
    <span className="absolute top-1.25 right-0.75">
      <Mark verdict={verdict} size={12} />
    </span>
  ) : null;
}

function faceProps({ column, turnout, text, short, leader, place, current, handlers }: CellProps) {
  const { focus, extend, begin, onKey, tell } = handlers;
  const says = text || (leader ? `with ${leader}` : "empty");
  return {
    "data-cell": `${place.row}:${place.column}`,
    tabIndex: current ? 0 : -1,
    "aria-label": `${column.title} of ${turnout.label}: ${says}`,
    // the list has hundreds of cells: what is cut off is said by the browser itself
    ...(short !== text || text.length > 9 ? { title: text } : {}),
    onFocus: () => focus(place, turnout.id),
    onMouseDown: (event: React.MouseEvent) => {
      if (!event.shiftKey) return;
      event.preventDefault();
      extend(place);
    },
    onDoubleClick: () =>
      leader === null ? begin(place) : tell(`${turnout.label} moves with ${leader}: this is set there.`),
    onKeyDown: (event: KeyboardEvent) => onKey(event, place),
  };
}
