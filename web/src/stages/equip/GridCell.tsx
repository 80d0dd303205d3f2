import type { Column, RailwayRecord, Turnout } from "@alderman/core";
import type { KeyboardEvent } from "react";
import { Mark, type Verdict } from "../../parts/Mark.tsx";
import { CellInput } from "./CellInput.tsx";
import { draggable } from "./Outputs.tsx";

/** A cell of the grid. */
export interface Place {
  row: number;
  column: number;
}

interface CellProps {
  column: Column;
  turnout: Turnout;
  text: string;
  /** Label of the leading turnout where this cell is that one's; else null. */
  leader: string | null;
  place: Place;
  editing: { begin: string | null } | null;
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

/** One cell: what it holds, or the field to type into. */
export function GridCell(props: CellProps) {
  const { record, column, turnout, text, leader, place, editing, current, chosen, verdict } = props;
  const { focus, extend, begin, onKey, write, move } = props.handlers;
  const follows = leader !== null;
  if (editing && !follows) {
    return (
      <td>
        <CellInput
          label={`${column.title} of ${turnout.label}`}
          begin={editing.begin ?? text}
          choices={column.choices?.(record, turnout) ?? []}
          done={(typed, step) => {
            if (!write(place, typed)) return false;
            move(
              step === "right"
                ? { ...place, column: place.column + 1 }
                : step === "down"
                  ? { ...place, row: place.row + 1 }
                  : place,
            );
            return true;
          }}
          cancel={() => move(place)}
        />
      </td>
    );
  }
  return (
    <td data-chosen={chosen || undefined}>
      <button
        type="button"
        data-cell={`${place.row}:${place.column}`}
        tabIndex={current ? 0 : -1}
        aria-label={`${column.title} of ${turnout.label}: ${text || (leader ? `with ${leader}` : "empty")}`}
        title={text}
        {...(column.id === "label" ? draggable(turnout.movesWith ?? turnout.id) : {})}
        onFocus={() => focus(place, turnout.id)}
        onMouseDown={(event) => {
          if (!event.shiftKey) return;
          event.preventDefault();
          extend(place);
        }}
        onDoubleClick={() =>
          follows ? props.handlers.tell(`${turnout.label} moves with ${leader}: this is set there.`) : begin(place)
        }
        onKeyDown={(event) => onKey(event, place)}
      >
        {leader && column.id !== "address" ? (
          <span className="quiet">with {leader}</span>
        ) : column.id === "label" ? (
          <b>{text}</b>
        ) : (
          text
        )}
        {verdict && !follows && (
          <span className="cell-mark">
            <Mark verdict={verdict} size={12} />
          </span>
        )}
      </button>
    </td>
  );
}
