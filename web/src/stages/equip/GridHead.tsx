import { ArrowDown, ArrowUp } from "lucide-react";
import type { GridTable } from "./gridTable.ts";

/** The headings of the list; each sorts by its column, up, down, and not at all, and its edge makes it wider. */
export function GridHead({ table, toCells }: { table: GridTable; toCells: () => void }) {
  const headers = table.getHeaderGroups()[0]?.headers ?? [];
  const whole = headers.reduce((sum, header) => sum + header.getSize(), 0);
  return (
    <>
      <colgroup>
        {headers.map((header) => (
          <col key={header.id} style={{ width: `${(100 * header.getSize()) / whole}%` }} />
        ))}
      </colgroup>
      <thead>
        <tr>
          {headers.map((header) => {
            const sorted = header.column.getIsSorted();
            const title = String(header.column.columnDef.header);
            return (
              <th
                key={header.id}
                scope="col"
                aria-sort={sorted === "asc" ? "ascending" : sorted === "desc" ? "descending" : "none"}
                className="group sticky top-0 z-1 h-7 border-b border-rule-2 bg-sheet px-1.5 text-left font-head text-label font-semibold whitespace-nowrap text-ink-2 first:pl-3"
              >
                {/* reached by the arrow up from the first row, so that Tab comes to the cells at once */}
                <button
                  type="button"
                  tabIndex={-1}
                  data-head={header.id}
                  className="flex w-full items-center gap-0.5 text-left"
                  aria-label={`Sort by ${title}`}
                  onClick={header.column.getToggleSortingHandler()}
                  onKeyDown={(event) => {
                    if (event.key !== "ArrowDown") return;
                    event.preventDefault();
                    toCells();
                  }}
                >
                  <span className="truncate">{title}</span>
                  {sorted === "asc" && <ArrowUp size={12} aria-hidden="true" />}
                  {sorted === "desc" && <ArrowDown size={12} aria-hidden="true" />}
                </button>
                <span
                  aria-hidden="true"
                  className="absolute inset-y-1 right-0 w-1.5 cursor-col-resize touch-none border-r border-transparent group-hover:border-rule-2"
                  onMouseDown={header.getResizeHandler()}
                  onTouchStart={header.getResizeHandler()}
                  onDoubleClick={() => header.column.resetSize()}
                />
              </th>
            );
          })}
        </tr>
      </thead>
    </>
  );
}
