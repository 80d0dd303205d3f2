import { COLUMNS } from "@alderman/core";
import type { Look } from "./gridRows.ts";

/** The headings of the list; each sorts by its column, up, down, and not at all. */
export function GridHead({ look, sortBy }: { look: Look; sortBy: (column: string) => void }) {
  return (
    <>
      <colgroup>
        {COLUMNS.map(({ id }) => (
          <col key={id} style={{ width: WIDTHS[id] }} />
        ))}
      </colgroup>
      <thead>
        <tr>
          {COLUMNS.map(({ id, title }) => (
            <th
              key={id}
              scope="col"
              aria-sort={look.sort?.column !== id ? "none" : look.sort.down ? "descending" : "ascending"}
            >
              <button type="button" className="w-full text-left" onClick={() => sortBy(id)} title={`Sort by ${title}`}>
                {title}
                {look.sort?.column === id && (look.sort.down ? " ↓" : " ↑")}
              </button>
            </th>
          ))}
        </tr>
      </thead>
    </>
  );
}

const WIDTHS: Record<string, string> = {
  label: "7%",
  name: "12%",
  hand: "5%",
  zone: "8.5%",
  with: "8%",
  motor: "18.5%",
  driver: "6.5%",
  control: "9%",
  frog: "7.5%",
  lamp: "7%",
  address: "6%",
  run: "5%",
};
