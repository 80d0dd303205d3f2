import {
  addRoutes,
  amongRoutes,
  anotherButton,
  commandRoutes,
  controlsOfRoute,
  count,
  deviceOf,
  find,
  list,
  type Position,
  type RailwayRecord,
  ROUTE_SCHOOLS,
  type RouteSchool,
  renameRoute,
  routesInOrder,
  setInRoute,
  turnoutsInOrder,
  turnoutsOfRoute,
  wayName,
} from "@alderman/core";
import { Plus } from "lucide-react";
import { type KeyboardEvent, useRef, useState } from "react";
import { PositionMark } from "../../drawing/Mark.tsx";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { SheetBody } from "../../kit/Sheet.tsx";
import { TextField } from "../../kit/TextField.tsx";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";

const SCHOOLS: Record<RouteSchool, string> = {
  buttons: "a button for each, through diodes",
  "entry-exit": "buttons of entry and exit, held together",
  rotary: "a rotary switch and a button to fire",
  macro: "macros of a board or the command station",
  message: "buttons that a computer hears",
};
const CHOICES = ROUTE_SCHOOLS.map((value) => ({ value, text: SCHOOLS[value] }));

/** Routes down, turnouts across: how each has to lie, by hand; and what asks for the routes. */
export function RouteGrid({ record }: { record: RailwayRecord }) {
  const edit = useEdit();
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [school, setSchool] = useState<RouteSchool>("buttons");
  const [more, setMore] = useState<readonly string[]>([]);
  const routes = routesInOrder(record);
  const used = new Set([...record.routeTurnouts.map(({ turnoutId }) => turnoutId), ...more]);
  const all = turnoutsInOrder(record);
  const turnouts = all.filter(({ id }) => used.has(id));
  const others = all.filter(({ id, movesWith }) => !used.has(id) && movesWith === null);
  const chosen = routes.filter(({ id }) => ticked.has(id)).map(({ id }) => id);
  const wanted = chosen.length > 0 ? chosen : routes.map(({ id }) => id);
  const add = () => {
    const taken = new Set(routes.map(({ label }) => label.toLowerCase()));
    let number = routes.length + 1;
    while (taken.has(`route ${number}`)) number++;
    edit(() => addRoutes(record, [{ label: `Route ${number}`, settings: [] }]));
  };
  return (
    <SheetBody label="Routes" className="grid grid-rows-[auto_minmax(0,1fr)]">
      <div className="grid gap-1.5 border-b border-rule px-3 py-1.5">
        <div className="flex flex-wrap items-center gap-2">
          <Button size="small" onClick={add}>
            Add a route
          </Button>
          {others.length > 0 && (
            <Choice
              size="small"
              label="Add a turnout to the table"
              value={null}
              options={[
                { value: null, text: "Add a turnout" },
                ...others.map(({ id, label, name }) => ({ value: id as string | null, text: label, hint: name })),
              ]}
              onChange={(id) => id !== null && setMore([...more, id])}
            />
          )}
          <div className="flex items-center gap-2 sm:ml-auto">
            <span className="text-ink-2">
              {chosen.length > 0 ? count(chosen.length, "route") : "All routes"} asked for by
            </span>
            <Choice size="small" label="Asked for by" value={school} options={CHOICES} onChange={setSchool} />
            <Button
              size="small"
              look="best"
              disabled={wanted.length === 0}
              onClick={() => edit(() => commandRoutes(record, wanted, school, (id) => entryOf(record, id)))}
            >
              Fit
            </Button>
          </div>
        </div>
      </div>
      <div className="min-h-0 overflow-auto">
        <Table record={record} turnouts={turnouts} ticked={ticked} tick={setTicked} />
        {routes.length === 0 && (
          <p className="p-3 text-ink-2">
            No route yet. Take those that the line offers, at the right, or add one and say how its turnouts lie.
          </p>
        )}
      </div>
    </SheetBody>
  );
}

/** Where a route begins, for the button of its entry: the words before those that its exit is called by. */
function entryOf(record: RailwayRecord, routeId: string): string {
  const words = (find(record, "route", routeId)?.label ?? "").split(" ");
  return words.length > 2 ? (words[0] ?? "") : "";
}

interface Cell {
  row: number;
  column: number;
}

function Table({
  record,
  turnouts,
  ticked,
  tick,
}: {
  record: RailwayRecord;
  turnouts: readonly { id: string; label: string; name: string }[];
  ticked: ReadonlySet<string>;
  tick: (ticked: ReadonlySet<string>) => void;
}) {
  const edit = useEdit();
  const [at, setAt] = useState<Cell>({ row: 0, column: 0 });
  const grid = useRef<HTMLTableElement>(null);
  const routes = routesInOrder(record);
  const move = (row: number, column: number) => {
    const next = {
      row: Math.min(Math.max(row, 0), routes.length - 1),
      column: Math.min(Math.max(column, 0), turnouts.length - 1),
    };
    setAt(next);
    grid.current?.querySelector<HTMLElement>(`[data-cell="${next.row}-${next.column}"]`)?.focus();
  };
  const onKey = (event: KeyboardEvent, cell: Cell, set: (to: Position | null) => void, now: Position | null) => {
    const { row, column } = cell;
    const act: Record<string, () => void> = {
      ArrowLeft: () => move(row, column - 1),
      ArrowRight: () => move(row, column + 1),
      ArrowUp: () => move(row - 1, column),
      ArrowDown: () => move(row + 1, column),
      n: () => set("N"),
      r: () => set("R"),
      Delete: () => set(null),
      Backspace: () => set(null),
      " ": () => set(next(now)),
    };
    const found = act[event.key];
    if (!found || event.ctrlKey || event.metaKey || event.altKey) return;
    // n and r set this cell here, and throw no turnout
    event.preventDefault();
    event.stopPropagation();
    event.nativeEvent.stopImmediatePropagation();
    found();
  };
  const all = routes.length > 0 && routes.every(({ id }) => ticked.has(id));
  const here = routes[at.row];
  return (
    <>
      <table ref={grid} className="border-collapse" aria-label="Routes and turnouts">
        <thead className="sticky top-0 z-1 bg-sheet">
          <tr>
            <th className="w-8 border-b border-rule px-2">
              <Checkbox
                label="All routes"
                checked={all ? true : ticked.size > 0 ? "indeterminate" : false}
                onChange={(wanted) => tick(new Set(wanted ? routes.map(({ id }) => id) : []))}
              />
            </th>
            <th className="border-b border-rule px-2 text-left font-head text-label text-ink-2">Route</th>
            {turnouts.map(({ id, label, name }) => (
              <th key={id} title={name} className="border-b border-l border-rule px-1 font-head text-label">
                {label}
              </th>
            ))}
            <th className="border-b border-l border-rule px-2 text-left font-head text-label text-ink-2">
              Asked for by
            </th>
          </tr>
        </thead>
        <tbody>
          {routes.map((route, row) => {
            const own = new Map(turnoutsOfRoute(record, route.id).map(({ turnoutId, to }) => [turnoutId, to]));
            return (
              <tr key={route.id} className="border-b border-rule">
                <td className="px-2">
                  <Checkbox
                    label={route.label}
                    checked={ticked.has(route.id)}
                    onChange={(wanted) => {
                      const now = new Set(ticked);
                      if (wanted) now.add(route.id);
                      else now.delete(route.id);
                      tick(now);
                    }}
                  />
                </td>
                <td className="px-2 py-0.5">
                  <RouteName record={record} routeId={route.id} label={route.label} />
                </td>
                {turnouts.map(({ id, label }, column) => {
                  const to = own.get(id) ?? null;
                  const set = (wanted: Position | null) => edit(() => setInRoute(record, route.id, id, wanted));
                  const isHere = at.row === row && at.column === column;
                  return (
                    <td key={id} className="border-l border-rule p-0">
                      <button
                        type="button"
                        data-cell={`${row}-${column}`}
                        tabIndex={isHere ? 0 : -1}
                        aria-label={`${route.label}, ${label}: ${to ?? "left as it lies"}`}
                        onFocus={() => setAt({ row, column })}
                        onClick={() => set(next(to))}
                        onKeyDown={(event) => onKey(event, { row, column }, set, to)}
                        className="grid min-h-7 w-full min-w-10 place-items-center focus-visible:-outline-offset-3"
                      >
                        {to ? (
                          <PositionMark position={to} filled={to === "R"} />
                        ) : (
                          <span className="text-ink-2">·</span>
                        )}
                      </button>
                    </td>
                  );
                })}
                <td className="border-l border-rule px-2 text-small whitespace-nowrap">
                  <span className="flex items-center justify-between gap-2">
                    {askedBy(record, route.id)}
                    <IconButton
                      icon={Plus}
                      label={`Another button for ${route.label}`}
                      onClick={() => edit(() => anotherButton(record, route.id))}
                    />
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {here && <Among record={record} routeId={here.id} turnouts={turnouts} />}
    </>
  );
}

/** What the button of a route throws and leaves, which routes do the same, and which cannot stand beside it. */
function Among({
  record,
  routeId,
  turnouts,
}: {
  record: RailwayRecord;
  routeId: string;
  turnouts: readonly { id: string; label: string }[];
}) {
  const { same, against } = amongRoutes(record, routeId);
  const own = new Map(turnoutsOfRoute(record, routeId).map(({ turnoutId, to }) => [turnoutId, to]));
  const label = (id: string) => turnouts.find((turnout) => turnout.id === id)?.label ?? id;
  const thrown = turnouts.filter(({ id }) => own.has(id)).map(({ id, label: name }) => `${name} ${own.get(id)}`);
  const left = turnouts.filter(({ id }) => !own.has(id)).map((turnout) => turnout.label);
  const wants = against.map(({ route, turnoutIds }) => `${route.label} (${turnoutIds.map(label).join(", ")})`);
  return (
    <div aria-live="polite" className="grid gap-0.5 px-3 py-2 text-small">
      <p>
        <b>{find(record, "route", routeId)?.label}</b> throws {list(thrown) || "nothing"}
        {left.length > 0 && <>, and may leave {list(left)}</>}.
      </p>
      {same.length > 0 && <p>The same is set by {list(same.map((route) => route.label))}.</p>}
      {wants.length > 0 && <p className="text-ink-2">It cannot stand beside {list(wants)}.</p>}
    </div>
  );
}

function RouteName({ record, routeId, label }: { record: RailwayRecord; routeId: string; label: string }) {
  const tryEdit = useTryEdit();
  return (
    <TextField
      label={`Name of route ${label}`}
      value={label}
      className="w-36"
      maxLength={24}
      save={(text) => tryEdit(() => renameRoute(record, routeId, text))}
    />
  );
}

const next = (to: Position | null): Position | null => (to === null ? "N" : to === "N" ? "R" : null);

/** What asks for a route, as "B4", "RS1-4 with B2 held" or "macro 3 of TB1". */
export function askedBy(record: RailwayRecord, routeId: string): string {
  const words = controlsOfRoute(record, routeId).map(({ deviceId, way, throughId }) => {
    const device = deviceOf(record, deviceId);
    const isMacro = device.place === "layout" && way !== null && throughId === null;
    const name = isMacro ? `macro ${way} of ${device.label}` : wayName(device.label, way);
    return throughId === null ? name : `${name} with ${deviceOf(record, throughId).label} held`;
  });
  return words.sort((a, b) => a.localeCompare(b, "en", { numeric: true })).join(", ") || "nothing yet";
}
