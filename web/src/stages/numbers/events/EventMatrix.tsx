import {
  ACTION_WORDS,
  count,
  type EventAction,
  type EventLink,
  type EventPlan,
  eventNumber,
  type PlannedEvent,
  type RailwayRecord,
} from "@alderman/core";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, type MouseEvent, memo, useEffect, useMemo, useRef } from "react";
import { Sheet } from "../../../kit/Sheet.tsx";
import { ActionMark } from "./ActionMark.tsx";
import { actionByKey, cellKey, linksByCell, type Place, placeByKey } from "./matrix.ts";

/** Sizes of a cell, and of the headings of events and outputs. */
const CELL = { width: 40, height: 30 };
const HEAD = { width: 216, height: 112 };
/** Rows that one page goes. */
const PAGE = 10;

/** Events down, outputs across: a cell says what an output does upon an event. Worked by keys and mouse. */
export function EventMatrix({
  record,
  plan,
  here,
  go,
  act,
  actions,
}: {
  record: RailwayRecord;
  plan: EventPlan;
  here: Place;
  go: (place: Place) => void;
  /** Says what the output of a cell does. */
  act: (place: Place, action: EventAction | null) => void;
  actions?: React.ReactNode;
}) {
  const { events, outputs } = plan;
  const scroll = useRef<HTMLDivElement>(null);
  const links = useMemo(() => linksByCell(plan), [plan]);
  const rows = useVirtualizer({
    count: events.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => CELL.height,
    overscan: 3,
    paddingStart: HEAD.height,
    scrollPaddingStart: HEAD.height,
    useFlushSync: false,
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: outputs.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => CELL.width,
    overscan: 3,
    paddingStart: HEAD.width,
    scrollPaddingStart: HEAD.width,
    useFlushSync: false,
  });
  const focused = useRef(false);
  // the cell that one is in follows the keys into sight
  useEffect(() => {
    if (!focused.current) return;
    rows.scrollToIndex(here.row);
    columns.scrollToIndex(here.column);
  }, [here, rows, columns]);
  const linkAt = ({ row, column }: Place) => {
    const [event, output] = [events[row], outputs[column]];
    return event && output ? links.get(cellKey(event.id, output)) : undefined;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const to = placeByKey(event.key, here, events.length, outputs.length, PAGE);
    const action = to ? undefined : actionByKey(event.key, linkAt(here)?.action ?? null);
    if (!to && action === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    if (to) go(to);
    else if (action !== undefined) act(here, action);
  };
  const placeOf = ({ target }: MouseEvent): Place | null => {
    const cell = target instanceof Element ? target.closest("[data-cell]")?.getAttribute("data-cell") : null;
    if (!cell) return null;
    const [row = 0, column = 0] = cell.split(" ").map(Number);
    return { row, column };
  };
  const onClick = (event: MouseEvent) => {
    const place = placeOf(event);
    scroll.current?.focus({ preventScroll: true });
    if (place) go(place);
  };
  // as the space bar does, a double click goes on through what can be done
  const onDoubleClick = (event: MouseEvent) => {
    const place = placeOf(event);
    if (place) act(place, actionByKey(" ", linkAt(place)?.action ?? null) ?? null);
  };
  const shownRows = rows.getVirtualItems();
  const shownColumns = columns.getVirtualItems();
  const columnKey = shownColumns.map(({ index }) => index).join();
  // the list of columns is the same object for as long as the same are in sight, so that rows need not be drawn again
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key says which columns there are
  const across = useMemo(() => shownColumns.map(({ index, start }) => ({ index, start })), [columnKey]);
  const width = columns.getTotalSize();
  return (
    <Sheet
      title="Events and outputs"
      about={`${count(events.length, "event")}, ${count(outputs.length, "output")} of nodes`}
      actions={actions}
    >
      <div
        ref={scroll}
        role="grid"
        aria-label="Events and outputs"
        aria-rowcount={events.length + 1}
        aria-colcount={outputs.length + 1}
        aria-activedescendant={`cell-${here.row}-${here.column}`}
        tabIndex={0}
        className="relative min-h-0 flex-1 overflow-auto focus-visible:-outline-offset-3"
        onKeyDown={onKeyDown}
        onClick={onClick}
        onDoubleClick={onDoubleClick}
        onFocus={() => {
          focused.current = true;
        }}
        onBlur={() => {
          focused.current = false;
        }}
      >
        <div style={{ width, height: rows.getTotalSize() }} className="relative">
          <div
            role="row"
            tabIndex={-1}
            className="sticky top-0 z-20 border-b border-ink bg-sheet"
            style={{ height: HEAD.height, width }}
          >
            <div
              role="columnheader"
              tabIndex={-1}
              className="sticky left-0 z-30 flex items-end border-r border-ink bg-sheet px-3 pb-1 font-head text-label font-semibold text-ink-2"
              style={{ height: HEAD.height - 1, width: HEAD.width }}
            >
              Event, and what sends it
            </div>
            {across.map(({ index, start }) => (
              <OutputHead key={index} plan={plan} index={index} left={start} isHere={index === here.column} />
            ))}
          </div>
          {shownRows.map(({ index, start }) => {
            const event = events[index];
            return event ? (
              <EventRow
                key={event.id}
                record={record}
                event={event}
                plan={plan}
                links={links}
                row={index}
                top={start}
                width={width}
                across={across}
                here={index === here.row ? here.column : null}
              />
            ) : null;
          })}
        </div>
      </div>
      <Legend />
    </Sheet>
  );
}

/** What the shapes mean, with the keys that set them. */
function Legend() {
  const meanings: [EventAction, string, string][] = [
    ["acts", "acts", "a"],
    ["inverted", "inverted", "i"],
    ["on", "on only", "o"],
    ["off", "off only", "f"],
  ];
  return (
    <p className="flex flex-none flex-wrap items-center gap-x-2.5 border-t border-rule px-3 py-1 text-small text-ink-2">
      {meanings.map(([action, words, key]) => (
        <span key={action} className="flex items-center gap-1">
          <ActionMark action={action} taught={null} known={false} /> {words} <b className="mono">{key}</b>
        </span>
      ))}
      <span className="flex items-center gap-1">
        <svg viewBox="-8 4 16 9" width="16" height="9" aria-hidden="true">
          <path d="M-6 9H6" stroke="var(--ink)" strokeWidth="1.6" />
        </svg>
        taught so
      </span>
      <span className="flex items-center gap-1">
        <svg viewBox="-8 4 16 9" width="16" height="9" aria-hidden="true">
          <path d="M-6 9H6" stroke="var(--copper)" strokeWidth="3" />
        </svg>
        taught otherwise
      </span>
    </p>
  );
}

function OutputHead({
  plan: { outputs },
  index,
  left,
  isHere,
}: {
  plan: EventPlan;
  index: number;
  left: number;
  isHere: boolean;
}) {
  const output = outputs[index];
  if (!output) return null;
  return (
    <div
      role="columnheader"
      tabIndex={-1}
      title={`${output.label}: ${output.drives || "nothing hangs on it"}`}
      className={`absolute top-0 flex items-end justify-center border-r border-rule pb-1.5 ${isHere ? "bg-copper-wash" : ""}`}
      style={{ left, width: CELL.width, height: HEAD.height - 1 }}
    >
      <span
        className="overflow-hidden text-ellipsis whitespace-nowrap leading-[1.2]"
        style={{ writingMode: "vertical-rl", rotate: "180deg", maxHeight: HEAD.height - 12 }}
      >
        <b className="mono">{output.label}</b>
        <br />
        <span className="text-small text-ink-2">{output.drives}</span>
      </span>
    </div>
  );
}

/** One event with the cells that are in sight. */
const EventRow = memo(function EventRow({
  record,
  event,
  plan,
  links,
  row,
  top,
  width,
  across,
  here,
}: {
  record: RailwayRecord;
  event: PlannedEvent;
  plan: EventPlan;
  links: ReadonlyMap<string, EventLink>;
  row: number;
  top: number;
  width: number;
  across: readonly { index: number; start: number }[];
  /** The column that one is in, when it is in this row. */
  here: number | null;
}) {
  return (
    <div
      role="row"
      tabIndex={-1}
      className="absolute left-0 border-b border-rule"
      style={{ top, height: CELL.height, width }}
    >
      <div
        role="rowheader"
        tabIndex={-1}
        className={`sticky left-0 z-10 flex items-center gap-2 border-r border-ink px-3 ${here === null ? "bg-sheet" : "bg-copper-wash"}`}
        style={{ height: CELL.height - 1, width: HEAD.width }}
        title={eventNumber(record, event)}
      >
        <b className={`truncate ${event.standing === "kept" ? "" : "font-normal"}`}>{event.label}</b>
        <span className="mono flex-1 truncate text-right text-small text-ink-2">
          {event.inputs[0]?.label ?? (event.asks ? "asks" : "nothing")}
          {event.inputs.length > 1 && ` +${event.inputs.length - 1}`}
        </span>
      </div>
      {across.map(({ index, start }) => {
        const output = plan.outputs[index];
        return (
          <Cell
            key={index}
            row={row}
            column={index}
            left={start}
            isHere={here === index}
            event={event}
            output={output?.label ?? ""}
            link={output && links.get(cellKey(event.id, output))}
          />
        );
      })}
    </div>
  );
});

/** What one output does upon one event. */
const Cell = memo(function Cell({
  row,
  column,
  left,
  isHere,
  event,
  output,
  link,
}: {
  row: number;
  column: number;
  left: number;
  isHere: boolean;
  event: PlannedEvent;
  output: string;
  link: EventLink | undefined;
}) {
  return (
    <div
      role="gridcell"
      tabIndex={-1}
      id={`cell-${row}-${column}`}
      data-cell={`${row} ${column}`}
      aria-selected={isHere}
      aria-label={cellWords(event, output, link)}
      className={`absolute top-0 flex cursor-pointer items-center justify-center border-r border-rule ${isHere ? "bg-copper-wash outline-2 -outline-offset-2 outline-copper" : ""}`}
      style={{ left, width: CELL.width, height: CELL.height - 1 }}
    >
      {link && <ActionMark action={link.action} taught={link.taught} known={link.at !== null} />}
    </div>
  );
});

function cellWords({ label }: PlannedEvent, output: string, link: EventLink | undefined): string {
  const what = link?.action ? ACTION_WORDS[link.action] : "nothing";
  const taught = !link || link.at === null ? "" : link.taught === link.action ? ", taught" : ", taught otherwise";
  return `${output} upon ${label}: ${what}${taught}`;
}
