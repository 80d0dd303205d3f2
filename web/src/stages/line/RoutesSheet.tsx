import {
  count,
  followsFrom,
  lineLayout,
  type Position,
  type RailwayRecord,
  type Route,
  routesConflict,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Toolbar } from "../../kit/Toolbar.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { throwTo } from "../../store/view.ts";

/** Routes between ends: one that is chosen is drawn, and set. */
export function RoutesSheet({
  record,
  chosen,
  choose,
}: {
  record: RailwayRecord;
  chosen: Route | null;
  choose: (route: Route | null) => void;
}) {
  const dispatch = useAppDispatch();
  const asked = useAppSelector((state) => state.view.asked);
  const [end, setEnd] = useState("any");
  const layout = lineLayout(record);
  const { routes } = followsFrom(record);
  const names = useMemo(
    () => new Map(layout.ends.map(({ id, mark, point }) => [id, mark?.name ?? `end at ${point.join(", ")}`])),
    [layout],
  );
  const labels = useMemo(
    () => new Map(layout.junctions.map(({ id, turnout }) => [id, turnout?.label ?? "?"])),
    [layout],
  );
  const leaderOf = (id: string) => {
    const turnout = record.turnouts.find((each) => each.id === id);
    return turnout?.movesWith ?? id;
  };
  const wanted = (route: Route): [string, Position][] =>
    Object.entries(route.settings).map(([id, lie]) => [id, lie === "normal" ? "N" : "R"]);
  const otherwise = (route: Route) =>
    wanted(route).filter(([id, position]) => (asked[leaderOf(id)] ?? "N") !== position);
  const set = (route: Route) => {
    for (const [id, position] of wanted(route)) dispatch(throwTo({ turnoutId: leaderOf(id), position }));
    choose(route);
  };
  const shown = end === "any" ? routes : routes.filter(({ from, to }) => from === end || to === end);
  const keyOf = ({ from, to, settings }: Route) => `${from} ${to} ${Object.entries(settings).join(" ")}`;
  const conflicts = chosen ? routes.filter((each) => each !== chosen && routesConflict(each, chosen)).length : 0;
  return (
    <>
      <Toolbar label="Routes">
        <Choice
          label="From or to"
          size="small"
          value={end}
          options={[{ value: "any", text: "any end" }, ...[...names].map(([value, text]) => ({ value, text }))]}
          onChange={setEnd}
        />
        <span className="flex-1 text-ink-2">
          {chosen
            ? `${count(conflicts, "other route")} cannot be used meanwhile`
            : `${count(shown.length, "route")}: choose one to see it`}
        </span>
        {chosen && (
          <Button size="small" onClick={() => choose(null)}>
            Let go
          </Button>
        )}
      </Toolbar>
      <div className="grid min-h-0 flex-1">
        <DataTable
          label="Routes"
          items={shown}
          idOf={keyOf}
          chosen={chosen ? keyOf(chosen) : null}
          onChoose={(route) => choose(route)}
          columns={[
            { id: "from", title: "From", width: 76, value: ({ from }) => names.get(from) ?? from },
            { id: "to", title: "To", width: 76, value: ({ to }) => names.get(to) ?? to },
            {
              ...{ id: "turnouts", title: "Turnouts", wraps: true, mono: true },
              cell: (route) =>
                wanted(route)
                  .map(([id, position]) => `${labels.get(id)} ${position}`)
                  .join(", "),
            },
            {
              ...{ id: "set", title: "Stands", width: 92 },
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
