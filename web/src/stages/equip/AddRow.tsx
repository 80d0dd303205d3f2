import { COLUMNS } from "@alderman/core";
import { CellInput } from "./CellInput.tsx";
import type { CellHandlers } from "./GridCell.tsx";

interface AddRowProps {
  row: number;
  editing: { begin: string | null } | null;
  /** Says how else one may begin. */
  hint: boolean;
  handlers: CellHandlers;
  begin: (letter: string | null) => void;
  enter: () => void;
}

/** The row at the foot that adds a turnout. */
export function AddRow({ row, editing, hint, handlers, begin, enter }: AddRowProps) {
  const place = { row, column: 0 };
  return (
    <tr>
      <td>
        {editing ? (
          <CellInput
            label="New turnout"
            begin={editing.begin ?? ""}
            choices={[]}
            done={(text, step) => {
              const added = text.trim() !== "";
              if (added && !handlers.write(place, text)) return false;
              // with Tab the new turnout's next cell, with Enter the row for the next one
              handlers.go({
                row: row + (added && step !== "right" ? 1 : 0),
                column: added && step === "right" ? 1 : 0,
              });
              return true;
            }}
            cancel={() => handlers.move(place)}
          />
        ) : (
          <button
            type="button"
            data-cell={`${row}:0`}
            className="quiet"
            onFocus={enter}
            onClick={() => begin(null)}
            onKeyDown={(event) => handlers.onKey(event, place)}
          >
            new ...
          </button>
        )}
      </td>
      <td colSpan={COLUMNS.length - 1} className="quiet !pl-1.5 text-[12px]">
        {hint && "Or paste a table from a spreadsheet: its first row names the columns, at least label."}
      </td>
    </tr>
  );
}
