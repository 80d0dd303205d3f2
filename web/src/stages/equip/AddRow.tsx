import { type Begin, CellInput } from "./CellInput.tsx";
import type { CellHandlers } from "./GridCell.tsx";

interface AddRowProps {
  row: number;
  columns: number;
  editing: { begin: Begin | null } | null;
  /** Says how else one may begin. */
  hint: boolean;
  handlers: CellHandlers;
  current: boolean;
  begin: (begin: Begin | null) => void;
  enter: () => void;
}

/** The row at the foot that adds a turnout. */
export function AddRow({ row, columns, editing, hint, handlers, current, begin, enter }: AddRowProps) {
  const place = { row, column: 0 };
  return (
    <tr>
      <td className="relative h-7 border-b border-rule p-0">
        {editing ? (
          <CellInput
            label="New turnout"
            begin={editing.begin ?? { text: "", letter: false }}
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
            tabIndex={current ? 0 : -1}
            className="block h-7 w-full pl-3 text-left text-ink-2 focus-visible:-outline-offset-3"
            onFocus={enter}
            onClick={() => begin(null)}
            onKeyDown={(event) => handlers.onKey(event, place)}
          >
            new ...
          </button>
        )}
      </td>
      <td colSpan={columns - 1} className="border-b border-rule pl-1.5 text-small text-ink-2">
        {hint && "Or paste a table from a spreadsheet: its first row names the columns, at least label."}
      </td>
    </tr>
  );
}
