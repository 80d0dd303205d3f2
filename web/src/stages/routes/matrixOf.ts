import {
  type Construction,
  deviceOf,
  find,
  type Join,
  type Matrix,
  type Position,
  type RailwayRecord,
  type RoutePress,
  wayName,
} from "@alderman/core";
import type { MatrixWords } from "../../drawing/matrix/MatrixDrawing.tsx";

/** What lies on the boards of a matrix, between rows and coils by their keys; a terminal that is neither is a shared wire. */
export function asBuilt({ joins, rows, coils, construction }: Matrix): {
  built: Construction;
  made: ReadonlySet<string>;
} {
  const nameOf = (boardId: string, terminal: string) =>
    rows.find(({ terminals }) => terminals.get(boardId) === terminal)?.key ??
    coils.find((coil) => coil.boardId === boardId && coil.terminal === terminal)?.key ??
    `${boardId} ${terminal}`;
  const named = joins.map((join) => ({
    ...{ from: nameOf(join.boardId, join.from), to: nameOf(join.boardId, join.to) },
    ...{ with: join.with, turned: join.turned, isMade: join.standing === "made" },
  }));
  const own = new Set([...rows.map(({ key }) => key), ...coils.map(({ key }) => key)]);
  const shared = [...new Set(named.flatMap(({ from, to }) => [from, to]))].filter((name) => !own.has(name));
  const diodes = named.filter((join) => join.with === "diode").length;
  return {
    built: {
      ...{ kind: construction.kind, joins: named, shared, diodes, wires: named.length - diodes },
      mostDrops: construction.mostDrops,
    },
    made: new Set(named.flatMap((join) => (join.isMade ? [nameOfJoin(join)] : []))),
  };
}

export function nameOfJoin({ from, to }: Pick<Join, "from" | "to">): string {
  return `${from} > ${to}`;
}

/** What stands beside the rows and below the coils of a matrix. @param press what each coil gets */
export function wordsOf(record: RailwayRecord, { rows, coils }: Matrix, press: RoutePress | null): MatrixWords {
  const amps = new Map(press?.coils.map(({ key, peakAmps }) => [key, peakAmps.toFixed(1)]));
  return {
    rows: new Map(
      rows.map(({ key, controlId, way, routeIds, terminals }) => {
        const button = wayName(deviceOf(record, controlId).label, way);
        const at = [...terminals].map(([boardId, terminal]) => `${deviceOf(record, boardId).label}-${terminal}`);
        const name = routeIds.map((id) => find(record, "route", id)?.label ?? id).join(", ");
        return [key, { name: name || button, about: `${button} ${at.join(" ")}` }];
      }),
    ),
    coils: new Map(
      coils.map(({ key, turnoutId, side }) => [
        key,
        {
          turnout: find(record, "turnout", turnoutId)?.label ?? turnoutId,
          position: side as Position,
          amps: press ? (amps.get(key) ?? "0") : "",
        },
      ]),
    ),
  };
}
