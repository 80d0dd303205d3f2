import { memo } from "react";
import { ColumnHead } from "../../kit/ColumnHead.tsx";
import { isShownAlike, type Shown } from "./gridTable.ts";

interface HeadProps extends Shown {
  /** Goes to the first row. */
  toCells: () => void;
}

/** The headings of the list; drawn anew when it is looked at otherwise, and not with every edit. */
export const GridHead = memo(function GridHead({ table, toCells }: HeadProps) {
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
}, isShownAlike);
