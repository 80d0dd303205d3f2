import { ColumnHead } from "../../kit/ColumnHead.tsx";
import type { GridTable } from "./gridTable.ts";

/** The headings of the list. */
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
            const title = String(header.column.columnDef.header);
            return (
              <ColumnHead
                key={header.id}
                head={header}
                title={title}
                className="whitespace-nowrap"
                button={{
                  // reached by the arrow up from the first row, so that Tab comes to the cells at once
                  tabIndex: -1,
                  "data-head": header.id,
                  "aria-label": `Sort by ${title}`,
                  className: "flex w-full items-center gap-0.5 text-left",
                  onKeyDown: (event) => {
                    if (event.key !== "ArrowDown") return;
                    event.preventDefault();
                    toCells();
                  },
                }}
              />
            );
          })}
        </tr>
      </thead>
    </>
  );
}
