import { ArrowDown, ArrowUp } from "lucide-react";
import type { ComponentProps } from "react";

/** What a heading needs of a column of the table package. */
export interface Head {
  column: {
    getIsSorted: () => false | "asc" | "desc";
    getCanSort: () => boolean;
    getToggleSortingHandler: () => ((event: unknown) => void) | undefined;
    resetSize: () => void;
  };
  getResizeHandler: () => (event: unknown) => void;
}

/** A heading that sorts by its column, up, down, and not at all, and whose edge makes it wider; a double click resets it. */
export function ColumnHead({
  head,
  title,
  untitled = false,
  figures = false,
  width,
  className = "",
  button,
}: {
  head: Head;
  title: string;
  /** Only read out. */
  untitled?: boolean;
  figures?: boolean;
  width?: number | undefined;
  className?: string;
  button?: ComponentProps<"button"> & { "data-head"?: string };
}) {
  const { column } = head;
  const sorted = column.getIsSorted();
  const Arrow = sorted === "asc" ? ArrowUp : ArrowDown;
  return (
    <th
      scope="col"
      aria-sort={sorted === "asc" ? "ascending" : sorted === "desc" ? "descending" : undefined}
      style={width === undefined ? undefined : { width }}
      className={`group sticky top-0 z-1 h-7 border-b border-rule-2 bg-sheet px-1.5 font-head text-label font-semibold text-ink-2 first:pl-3 max-sm:px-1 ${figures ? "text-right" : "text-left"} ${className}`}
    >
      {column.getCanSort() && !untitled ? (
        <button
          type="button"
          className={`inline-flex max-w-full items-center gap-0.5 ${figures ? "flex-row-reverse" : ""}`}
          onClick={column.getToggleSortingHandler()}
          {...button}
        >
          <span className="truncate">{title}</span>
          {sorted && <Arrow size={12} aria-hidden="true" />}
        </button>
      ) : (
        <span className={untitled ? "sr-only" : ""}>{title}</span>
      )}
      <span
        aria-hidden="true"
        className="absolute inset-y-1 right-0 w-1.5 cursor-col-resize touch-none border-r border-transparent group-hover:border-rule-2"
        onMouseDown={head.getResizeHandler()}
        onTouchStart={head.getResizeHandler()}
        onDoubleClick={() => column.resetSize()}
      />
    </th>
  );
}
