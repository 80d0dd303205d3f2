import {
  blocksOnLine,
  count,
  type FoundWay,
  lineLayout,
  linksOfRoute,
  ownOf,
  type Position,
  type RailwayRecord,
  type Route,
  routesBetweenEnds,
  routesConflict,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Toolbar } from "../../kit/Toolbar.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { throwTo } from "../../store/view.ts";
import { useWays } from "./useWays.ts";

const ANY = "any";

/** A way that can be seen and set, with the stretches that it goes over. */
export type ShownWay = Pick<FoundWay, "from" | "to" | "settings" | "metres" | "stretches">;

/** Ways between ends and blocks: one that is chosen is drawn, and set. */
export function RoutesSheet({
  record,
  chosen,
  choose,
}: {
  record: RailwayRecord;
  chosen: ShownWay | null;
  choose: (route: ShownWay | null) => void;
}) {
  const dispatch = useAppDispatch();
  const asked = useAppSelector((state) => state.view.asked);
  const [from, setFrom] = useState(ANY);
  const [to, setTo] = useState(ANY);
  const [via, setVia] = useState(ANY);
  const layout = lineLayout(record);
  const places = useMemo(() => placesOf(record), [record]);
  const names = useMemo(() => new Map(places.map(({ value, text }) => [value, text])), [places]);
  const labels = useMemo(
    () => new Map(layout.junctions.map(({ id, turnout }) => [id, turnout?.label ?? "?"])),
    [layout],
  );
  const isBetween = from !== ANY && to !== ANY && from !== to && names.has(from) && names.has(to);
  const found = useWays(record, isBetween ? { from, to, via: via === ANY ? [] : [via] } : null);
  const all = useMemo(() => routesByLength(record), [record]);
  const leaderOf = (id: string) => record.turnouts.find((each) => each.id === id)?.movesWith ?? id;
  const wanted = (route: Route): [string, Position][] =>
    Object.entries(route.settings).map(([id, lie]) => [id, lie === "normal" ? "N" : "R"]);
  const otherwise = (route: Route) =>
    wanted(route).filter(([id, position]) => (ownOf(asked, leaderOf(id)) ?? "N") !== position);
  const set = (route: ShownWay) => {
    for (const [id, position] of wanted(route)) dispatch(throwTo({ turnoutId: leaderOf(id), position }));
    choose(route);
  };
  const one = from === ANY ? to : from;
  const shown: readonly ShownWay[] = isBetween
    ? found && "ways" in found
      ? found.ways
      : []
    : all.filter((route) => one === ANY || route.from === one || route.to === one);
  const keyOf = ({ from: a, to: b, settings }: Route) => `${a} ${b} ${Object.entries(settings).join(" ")}`;
  const conflicts = chosen
    ? all.filter((each) => keyOf(each) !== keyOf(chosen) && routesConflict(each, chosen)).length
    : 0;
  const words = chosen
    ? `${count(conflicts, "other route")} cannot be used meanwhile`
    : isBetween && !found
      ? "Looking ..."
      : found && "failed" in found && isBetween
        ? found.failed
        : `${count(shown.length, "route")}${isBetween && found && "isAll" in found && !found.isAll ? " and more" : ""}`;
  const turnouts = layout.junctions.flatMap(({ turnout }) =>
    turnout ? [{ value: turnout.id, text: turnout.label }] : [],
  );
  return (
    <>
      <Toolbar label="Routes">
        <Choice
          label="From"
          size="small"
          value={from}
          options={[{ value: ANY, text: "from any" }, ...places]}
          onChange={setFrom}
        />
        <Choice
          label="To"
          size="small"
          value={to}
          options={[{ value: ANY, text: "to any" }, ...places]}
          onChange={setTo}
        />
        {isBetween && (
          <Choice
            label="Over"
            size="small"
            value={via}
            options={[{ value: ANY, text: "over any" }, ...turnouts, ...places.filter(({ isBlock }) => isBlock)]}
            onChange={setVia}
          />
        )}
        <span className="min-w-0 flex-1 truncate text-ink-2" role="status">
          {words}
        </span>
        {chosen && (
          <Button size="small" onClick={() => choose(null)}>
            Let go
          </Button>
        )}
      </Toolbar>
      <div className="grid min-h-0 flex-1">
        <DataTable<ShownWay>
          label="Routes"
          items={shown}
          idOf={keyOf}
          chosen={chosen ? keyOf(chosen) : null}
          onChoose={(route) => choose(route)}
          empty={
            isBetween && found && "ways" in found
              ? "No train comes from the one to the other without turning back."
              : isBetween
                ? ""
                : "There is no route yet: lay track from one end to another."
          }
          columns={[
            { id: "from", title: "From", width: 76, value: (route) => names.get(route.from) ?? route.from },
            { id: "to", title: "To", width: 76, value: (route) => names.get(route.to) ?? route.to },
            { id: "metres", title: "m", width: 46, value: ({ metres }) => Math.round(metres * 10) / 10 },
            {
              ...{ id: "turnouts", title: "Turnouts", wraps: true, mono: true },
              cell: (route) =>
                wanted(route)
                  .map(([id, position]) => `${labels.get(id)} ${position}`)
                  .join(", "),
            },
            {
              ...{ id: "set", title: "Stands", width: 84 },
              cell: (route) => {
                const left = otherwise(route).length;
                return left === 0 ? (
                  "set"
                ) : (
                  <Button
                    size="small"
                    aria-label={`Set the route from ${names.get(route.from)} to ${names.get(route.to)}`}
                    onClick={() => set(route)}
                  >
                    Throw {left}
                  </Button>
                );
              },
            },
          ]}
        />
      </div>
    </>
  );
}

/** Ends and named blocks, between which ways are looked for. */
function placesOf(record: RailwayRecord): { value: string; text: string; isBlock: boolean }[] {
  const { ends } = lineLayout(record);
  const { blocks } = blocksOnLine(record);
  return [
    ...ends.map(({ id, mark, point }) => {
      return { value: id, text: mark?.name ?? `end at ${point.join(", ")}`, isBlock: false };
    }),
    ...blocks.flatMap(({ id, name }) => (name === null ? [] : [{ value: id, text: name, isBlock: true }])),
  ];
}

/** All routes between ends as far as they were counted, the shortest first. */
function routesByLength(record: RailwayRecord): ShownWay[] {
  const { line, stretches, byPort } = lineLayout(record);
  return routesBetweenEnds(record)
    .routes.map((route): ShownWay => {
      const own = linksOfRoute(line, route).flatMap(([a]) => byPort.get(a)?.stretch.index ?? []);
      return { ...route, stretches: own, metres: own.reduce((sum, index) => sum + (stretches[index]?.metres ?? 0), 0) };
    })
    .sort((a, b) => a.metres - b.metres);
}
