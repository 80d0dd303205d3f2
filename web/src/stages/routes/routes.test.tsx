// @vitest-environment happy-dom
// The routes stage: what is drawn of a matrix as it was built, and what stands beside it.
import {
  addRoutes,
  commandRoutes,
  edit,
  emptyRecord,
  makeParts,
  matricesOf,
  type RailwayRecord,
  setPart,
  turnoutsFromTable,
} from "@alderman/core";
import { render } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { MatrixDrawing } from "../../drawing/matrix/MatrixDrawing.tsx";
import { asBuilt, nameOfJoin, wordsOf } from "./matrixOf.ts";
import { PulseSheet } from "./PulseSheet.tsx";
import { askedBy } from "./RouteGrid.tsx";

/** Three roads on two coil motors. */
function yard(school: "buttons" | "rotary" | "macro" = "buttons"): RailwayRecord {
  const rows = [
    ["label", "hand", "motor", "driver"],
    ["Y1", "left", "twin-coil-surface", "cdu"],
    ["Y2", "left", "twin-coil-surface", "CD1"],
  ];
  const empty = emptyRecord("Yard");
  const listed = edit(empty, turnoutsFromTable(empty, rows).edits).record;
  const to = (turnoutId: string, position: "N" | "R") => ({ turnoutId, to: position });
  const routes = [
    { label: "Road 1", settings: [to("y1", "R")] },
    { label: "Road 2", settings: [to("y1", "N"), to("y2", "R")] },
    { label: "Road 3", settings: [to("y1", "N"), to("y2", "N")] },
  ];
  const routed = edit(listed, addRoutes(listed, routes).edits).record;
  return edit(
    routed,
    commandRoutes(
      routed,
      routed.routes.map(({ id }) => id),
      school,
    ).edits,
  ).record;
}

it("draws what lies on the board: made parts closed, proposed ones open, a turned diode turned", () => {
  const record = yard();
  const [matrix] = matricesOf(record);
  const [first] = matrix!.joins;
  const made = edit(record, makeParts(record, [first!], "2026-05-12T19:30:00.000Z")!.edits).record;
  const diode = matricesOf(made)[0]!.joins.find((join) => join.with === "diode")!;
  const turned = edit(
    made,
    setPart(made, "x1", [diode.from, diode.to], { with: "diode", turned: true, madeAt: "2026-05-12T19:30:00.000Z" })!
      .edits,
  ).record;
  const now = matricesOf(turned)[0]!;
  const { built, made: names } = asBuilt(now);
  expect(built.joins).toHaveLength(5);
  expect(names.size).toBe(2);
  const { container, unmount } = render(
    <MatrixDrawing
      wishes={now.wishes}
      construction={built}
      pressed={null}
      live={new Map()}
      press={vi.fn()}
      words={wordsOf(turned, now, null)}
      isMade={(join) => names.has(nameOfJoin(join))}
    />,
  );
  const joins = [...container.querySelectorAll("[data-join]")];
  const closed = joins.filter((join) => join.querySelector("circle")?.getAttribute("fill") !== "var(--sheet)");
  expect(closed).toHaveLength(2);
  expect(container.innerHTML).toContain("rotate(225)");
  // the rows with their buttons and terminals, the turnouts over their coils
  expect(container.textContent).toContain("Road 2B2 X1-I2");
  expect([...container.querySelectorAll("text")].map(({ textContent }) => textContent)).toEqual(
    expect.arrayContaining(["Y1", "Y2", "N", "R"]),
  );
  unmount();
});

it("says what asks for a route: a button, a position with the button that fires, a macro", () => {
  expect(askedBy(yard(), "road-2")).toBe("B2");
  expect(askedBy(yard("rotary"), "road-2")).toBe("RS1-2 with B1 held");
  expect(askedBy(yard("macro"), "road-2")).toBe("macro 2 of TB1");
  const nothing = { ...yard(), routeControls: [] };
  expect(askedBy(nothing, "road-2")).toBe("nothing yet");
});

it("shows what each coil gets against what it needs, and what goes astray", () => {
  const coil = (label: string, isWanted: boolean, joules: number) => ({
    ...{ key: label, label, isWanted, joules, peakAmps: 3, seconds: 0.006, least: 0.15, leastSeconds: 0.002 },
  });
  const press = {
    ...{ key: "b2", coils: [coil("Y1 N", true, 0.24), coil("Y2 R", true, 0.1), coil("Y2 N", false, 0.05)] },
    ...{ contactAmps: 9, diodeAmps: 4, surgeAmps: 30, stored: 1.1, volts: 21.4 },
    ...{
      curve: [
        { ms: 0, volts: 21.4, amps: 0 },
        { ms: 5, volts: 10, amps: 3 },
      ],
      faults: ["Y2 R gets 0.10 J of the 0.15 J that it needs."],
    },
  };
  const { getAllByRole, container, unmount } = render(<PulseSheet press={press} name="Road 2" />);
  const marks = getAllByRole("listitem").map((item) => item.querySelector("svg")?.getAttribute("aria-label"));
  expect(new Set(marks.slice(1)).size).toBe(1);
  expect(marks[0]).not.toBe(marks[1]);
  expect(container.textContent).toContain("Y2 R gets 0.10 J of the 0.15 J that it needs.");
  expect(container.textContent).toContain("9.0 A through the button, 4.0 A at most through a diode, which bears 30 A");
  unmount();
});
