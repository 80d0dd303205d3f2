import { screwIdOf, type Wire } from "@alderman/core";
import { useMemo, useState } from "react";
import { ScaledDrawing } from "../../../drawing/ScaledDrawing.tsx";
import { Terminal } from "../../../drawing/Terminal.tsx";
import { WirePath } from "../../../drawing/Wire.tsx";
import { Code, Flag, Of, Opens } from "../marks.tsx";
import type { OpenThing } from "./thing.ts";
import { type EndPlan, turnoutLayout } from "./turnoutLayout.ts";

/** Width of a column, and from one row to the next; room for the names at both sides. */
const COLUMN = 214;
const ROW = 30;
const LEFT = 64;
const RIGHT = 64;
const TOP = 14;

/** The wires of a turnout from end to end, as they are named, coloured and flagged; those that are joined have solid ends. */
export function TurnoutDrawing({ label, wires, open }: { label: string; wires: readonly Wire[]; open: OpenThing }) {
  const plan = useMemo(() => turnoutLayout(wires), [wires]);
  const [lit, setLit] = useState<string | null>(null);
  const look = (target: EventTarget) =>
    setLit((target instanceof Element && target.closest("[data-net]")?.getAttribute("data-net")) || null);
  const width = LEFT + (plan.columns - 1) * COLUMN + RIGHT;
  const height = TOP + plan.rows * ROW;
  const x = ({ column }: EndPlan) => LEFT + column * COLUMN;
  const y = ({ row }: EndPlan) => TOP + row * ROW + ROW / 2 - 4;
  const netOf = new Map(plan.wires.flatMap(({ wire, from, to }) => [from, to].map(({ end }) => [end.key, wire.net])));
  return (
    <ScaledDrawing>
      <svg
        data-cable
        className="draw block"
        style={{ width: "100%", maxWidth: width * 1.15 }}
        viewBox={`0 0 ${width} ${height}`}
        role="group"
        aria-label={`Wires of ${label}, drawn`}
        onPointerOver={({ target }) => look(target)}
        onPointerLeave={() => setLit(null)}
        onFocus={({ target }) => look(target)}
        onBlur={() => setLit(null)}
      >
        {plan.wires.map(({ wire, from, to }) => {
          const [a, b] = [x(from), x(to)];
          const bend = a + 26;
          const isTurned = wire.from.key !== from.end.key;
          return (
            <Of key={wire.id} net={wire.net} lit={lit}>
              <WirePath d={`M${a} ${y(from)}H${bend}V${y(to)}H${b}`} colour={wire.colour} />
              <Code x={bend + 6} y={y(to)} colour={wire.colour} />
              <Flag wire={wire} x={bend + 50} y={y(to)} text={wire.flags[isTurned ? 1 : 0]} open={open} narrow />
            </Of>
          );
        })}
        {plan.ends.map((plan) => {
          const { end, column } = plan;
          const { of, key, name } = end;
          const text = (
            <text
              className="tm"
              x={x(plan) + (column === 0 ? -10 : 0)}
              y={y(plan) + (column === 0 ? 4 : -9)}
              textAnchor={column === 0 ? "end" : "middle"}
              style={of ? {} : { textDecoration: "underline" }}
            >
              {name}
            </text>
          );
          return (
            <Of key={key} net={netOf.get(key) ?? ""} lit={lit}>
              {of ? (
                text
              ) : (
                <Opens thing={{ kind: "strip", id: screwIdOf(key) }} name={`Strip of ${name}`} open={open}>
                  {text}
                </Opens>
              )}
              <Terminal end={key} name={name} x={x(plan)} y={y(plan)} />
            </Of>
          );
        })}
      </svg>
    </ScaledDrawing>
  );
}
