// A yard of six roads with a ladder at each end, set by six buttons through a diode board at each end.
import {
  addRoutes,
  changeType,
  commandRoutes,
  edit,
  emptyRecord,
  layTrack,
  nameEnd,
  proposedRoutes,
  type RailwayRecord,
  setStand,
  turnoutsFromTable,
} from "@alderman/core";
import { largeUnit } from "./largeUnit.ts";

const ROADS = 6;
/** Where the ladders begin, on the lowest road, and what a step is on the baseboard. */
const [WEST, EAST] = [4, 32];

export function twoEndedYard(): RailwayRecord {
  let record = emptyRecord("Two-ended yard");
  record = {
    ...record,
    railway: {
      ...record.railway,
      note: "A yard of six roads between two ladders, an invented one: a button for each road sets both ends at once, through a diode board near the motors of each end.",
      stepMetres: 0.12,
      cableGauge: "0.5 mm2",
      wireGauge: "0.75 mm2",
    },
  };
  const apply = (edits: Parameters<typeof edit>[1]) => {
    record = edit(record, edits).record;
  };
  apply(turnoutsFromTable(record, rows()).edits);
  for (const [points, ...tray] of strokes()) apply(layTrack(record, points, { tray }).group?.edits ?? []);
  apply(nameEnd(record, [0, 0], "main line", false)?.edits ?? []);
  apply(nameEnd(record, [36, 0], "headshunt", true)?.edits ?? []);
  // enough for the ten coils of the longest routes, charged through less than usual
  apply(largeUnit(record, "Discharge unit of the yard", { farads: 33_000e-6, chargeOhms: 18 }).edits);
  // 12 V are enough for so large a unit, and leave the buttons' contacts whole
  const supply = record.devices.find(({ typeId }) => typeId === "ac-16");
  if (supply) apply(changeType(record, supply.id, "ac-12").edits);
  for (const [label, x] of [
    ["X1", 8],
    ["X2", 28],
    ["CD1", 18],
  ] as const) {
    const device = record.devices.find((each) => each.label === label);
    if (device) apply(setStand(record, device.id, [x, 4]).edits);
  }
  // both ends at once: the first that the line offers
  const [both] = proposedRoutes(record);
  apply(addRoutes(record, both?.routes ?? []).edits);
  apply(
    commandRoutes(
      record,
      record.routes.map(({ id }) => id),
      "buttons",
    ).edits,
  );
  return record;
}

/** Five turnouts for each end, on a diode board of their own; one discharge unit fires both boards. */
function rows(): string[][] {
  const ends = [
    ["W", "west"],
    ["E", "east"],
  ] as const;
  const body = ends.flatMap(([letter, side], end) =>
    Array.from({ length: ROADS - 1 }, (_, index) => [
      `${letter}${index + 1}`,
      `Yard, ${side} end, turnout ${index + 1}`,
      // the first leads off the main road, the others off the ladder
      (index === 0) === (letter === "W") ? "left" : "right",
      "twin-coil-surface",
      index === 0 ? "diode-board-8" : `X${end + 1}-${index + 1}`,
    ]),
  );
  return [["label", "name", "hand", "motor", "driver"], ...body];
}

/** The lowest road with the leads, and each road above it between the two ladders. */
function strokes(): [points: [number, number][], ...turnouts: string[]][] {
  const top = ROADS - 1;
  return [
    [
      [
        [0, 0],
        [36, 0],
      ],
    ],
    [
      [
        [WEST, 0],
        [WEST + top, -top],
        [EAST - top, -top],
        [EAST, 0],
      ],
      "w1",
      "e1",
    ],
    ...Array.from({ length: ROADS - 2 }, (_, index): [[number, number][], ...string[]] => {
      const level = index + 1;
      return [
        [
          [WEST + level, -level],
          [EAST - level, -level],
        ],
        `w${level + 1}`,
        `e${level + 1}`,
      ];
    }),
  ];
}
