import { type ComponentProps, type ComponentType, memo, type ReactNode } from "react";

/** A column of a table. */
export interface DataColumn<T> {
  id: string;
  /** Heading; for a column of marks or buttons, only read out. */
  title: string;
  untitled?: boolean;
  /** What it is sorted and found by; a number is sorted as one. Without it, it is neither. */
  value?: (item: T) => string | number | null;
  /** What is drawn; the value when not said. */
  cell?: (item: T) => ReactNode;
  /** Figures, at the right and in mono. */
  figures?: boolean;
  mono?: boolean;
  /** Left out at first where the screen is narrow; it can be shown by the bar, when there is one. */
  spare?: boolean;
  /** Left out at first wherever; the bar shows it. */
  hidden?: boolean;
  /** Pixels to begin with; the rest shares what is left. */
  width?: number;
  wraps?: boolean;
}

/** The element of a row. */
export type RowComponent<T> = ComponentType<{ item: T } & ComponentProps<"tr">>;

/** A row with the cells of the columns that are shown, and what stands below it. */
export function BodyRow<T>({
  item,
  columns,
  more,
  isChosen,
  as: Row,
  own,
}: {
  item: T;
  columns: readonly DataColumn<T>[];
  more: ReactNode;
  isChosen: boolean;
  as: RowComponent<T>;
  /** What the row element gets, so that it can be measured, chosen and reached by keys. */
  own: ComponentProps<"tr"> & { "data-index": number };
}) {
  const joined = more !== undefined && more !== null;
  return (
    <>
      <Row
        item={item}
        {...own}
        className={`focus-visible:-outline-offset-3 ${own.onClick ? "cursor-pointer" : ""} ${isChosen ? "bg-copper-wash [&>td:first-child]:shadow-[inset_3px_0_0_var(--copper)]" : ""}`}
      >
        <Cells item={item} columns={columns as readonly DataColumn<unknown>[]} joined={joined} />
      </Row>
      {more && (
        <tr>
          <td colSpan={columns.length} className="border-b border-rule px-3 pb-1.5 text-small">
            {more}
          </td>
        </tr>
      )}
    </>
  );
}

/** The cells of a row; while the table is scrolled they stay as they are. */
const Cells = memo(function Cells({
  item,
  columns,
  joined,
}: {
  item: unknown;
  columns: readonly DataColumn<unknown>[];
  joined: boolean;
}) {
  return columns.map((column) => (
    <td key={column.id} className={cellClass(column, joined)}>
      {column.cell ? column.cell(item) : column.value?.(item)}
    </td>
  ));
});

/** The row element of a table whose rows do nothing more than stand there. */
export function PlainRow({ item: _, ...rest }: { item: unknown } & ComponentProps<"tr">) {
  return <tr {...rest} />;
}

function cellClass<T>(column: DataColumn<T>, joined: boolean): string {
  const line = joined ? "" : "border-b border-rule";
  const text = column.figures
    ? "text-right font-mono text-[12px] whitespace-nowrap"
    : column.mono
      ? "font-mono text-[12px] whitespace-nowrap"
      : column.wraps
        ? "align-top py-1"
        : "whitespace-nowrap overflow-hidden text-ellipsis";
  return `h-7 px-1.5 max-sm:px-1 first:pl-3 last:pr-3 ${line} ${text}`;
}
