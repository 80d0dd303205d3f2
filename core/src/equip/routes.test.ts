// Routes by hand and by school: what is fitted, what stays, and what is refused.
import { describe, expect, it } from "vitest";
import { drafted, railway, typed } from "../../testing/build.ts";
import { ladderRoads, ladderYard, routedYard, soldered } from "../../testing/routes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { readRailwayFile, writeRailwayFile } from "../record/railwayFile.ts";
import { matricesOf } from "../routes/boards.ts";
import { controlsOfRoute, turnoutsOfRoute } from "../routes/routes.ts";
import { inputOf } from "../schematic/thread.ts";
import { setControls, writeControls } from "./controls.ts";
import { makeParts, setPart } from "./diodeBoards.ts";
import { anotherButton, commandRoutes, ROUTE_SCHOOLS } from "./routeSchools.ts";
import { addRoutes, putControl, removeRoutes, renameRoute, setInRoute } from "./routes.ts";

const all = (record: RailwayRecord) => record.routes.map(({ id }) => id);
const nets = (record: RailwayRecord, purpose: string) =>
  new Derived(record).schematic.nets
    .filter((net) => net.purpose === purpose)
    .map(({ ends }) =>
      ends
        .map(({ deviceId, terminal }) => `${record.devices.find(({ id }) => id === deviceId)?.label}-${terminal}`)
        .join(" "),
    );

describe("routes", () => {
  it("set a turnout once, to the last position that was asked, or leave it", () => {
    const record = routedYard(3);
    const turned = edit(record, setInRoute(record, "road-1", "y1", "N")!.edits).record;
    expect(turnoutsOfRoute(turned, "road-1").map(({ to }) => to)).toEqual(["N"]);
    const left = edit(turned, setInRoute(turned, "road-1", "y1", null)!.edits).record;
    expect(turnoutsOfRoute(left, "road-1")).toEqual([]);
    expect(setInRoute(left, "road-1", "y1", null)).toBeNull();
    expect(() => setInRoute(left, "nowhere", "y1", "N")).toThrow(/no such route/);
  });

  it("are told apart by their labels, and one that is there gets new settings", () => {
    const record = routedYard(3);
    expect(() => edit(record, renameRoute(record, "road-1", "ROAD 2").edits)).toThrow(/already a route called road 2/i);
    const again = edit(
      record,
      addRoutes(record, [{ label: "road 1", settings: [{ turnoutId: "y2", to: "N" }] }]).edits,
    ).record;
    expect(again.routes).toHaveLength(3);
    expect(turnoutsOfRoute(again, "road-1").map(({ turnoutId, to }) => `${turnoutId} ${to}`)).toEqual(["y2 N"]);
  });

  it("outlive no turnout, and a button outlives its only route by nothing", () => {
    const record = routedYard(3);
    const without = drafted(record, (draft) => draft.removeWhole("turnout", "y2"));
    expect(without.routeTurnouts.map(({ turnoutId }) => turnoutId)).not.toContain("y2");
    const removed = edit(record, removeRoutes(record, ["road-2"]).edits).record;
    expect(removed.devices.map(({ label }) => label)).not.toContain("B2");
    expect(removed.assignments.filter(({ role }) => role === "input")).toHaveLength(2);
  });
});

describe.each(ROUTE_SCHOOLS)("asked for by %s", (school) => {
  it("each route is asked for once, nothing that was made is moved, and it can be undone", () => {
    const record = soldered(routedYard(4));
    const { record: after, inverses } = edit(record, commandRoutes(record, all(record), school).edits);
    expect(after.routeControls.map(({ routeId }) => routeId).sort()).toEqual(all(record));
    expect(after.boardParts).toEqual(record.boardParts);
    expect(edit(after, inverses).record).toEqual(record);
    expect(readRailwayFile(writeRailwayFile(after))).toEqual(after);
  });

  it("nothing that stops is found of a yard that had toggles", () => {
    const yard = ladderYard(3);
    const routes = edit(yard, addRoutes(yard, ladderRoads(3)).edits).record;
    const { findings } = new Derived(edit(routes, commandRoutes(routes, all(routes), school).edits).record);
    expect(findings.filter(({ severity }) => severity === "stop").map(({ why }) => why)).toEqual([]);
  });
});

describe("wires", () => {
  it("lead from the unit through each button to its row", () => {
    const record = routedYard(3);
    expect(nets(record, "route")).toEqual(["B1-N X1-I1", "B2-N X1-I2", "B3-N X1-I3"]);
    expect(nets(record, "pulse-plus")).toEqual(["CD1-+ B1-C B2-C B3-C"]);
  });

  it("lead through the button of the entry to those of the exits, and through the button that fires a rotary switch", () => {
    expect(nets(routedYard(3, "entry-exit"), "pulse-plus")).toEqual(["CD1-+ B1-C", "B1-N B2-C B3-C B4-C"]);
    const rotary = routedYard(3, "rotary");
    expect(nets(rotary, "pulse-plus")).toEqual(["CD1-+ B1-C", "B1-N RS1-C"]);
    expect(nets(rotary, "route")).toEqual(["RS1-1 X1-I1", "RS1-2 X1-I2", "RS1-3 X1-I3"]);
  });

  it("go to poles of one button where two entries lead to the same road", () => {
    const yard = ladderYard(3);
    const wanted = ["West", "East"].flatMap((entry) =>
      ladderRoads(3).map(({ label, settings }) => ({ label: `${entry} ${label}`, settings })),
    );
    const record = edit(yard, addRoutes(yard, wanted).edits).record;
    const entryOf = (id: string) => (id.startsWith("west") ? "West" : "East");
    const after = edit(record, commandRoutes(record, all(record), "entry-exit", entryOf).edits).record;
    const types = after.devices.filter(({ id }) => id.startsWith("b")).map(({ typeId }) => typeId);
    expect(types.filter((type) => type === "push-button-2")).toHaveLength(3);
    expect(new Set(after.routeControls.map(({ throughId }) => throughId)).size).toBe(2);
  });
});

describe("bad input", () => {
  it("is refused with a sentence that says what to do", () => {
    const record = routedYard(3);
    const ask = (deviceId: string, way: number | null) => () =>
      drafted(record, (draft) => putControl(draft, "road-1", { deviceId, way, throughId: null }));
    expect(ask("cd1", null)).toThrow(/CD1 \(.*\) cannot ask for a route/);
    expect(ask("b1", 2)).toThrow(/B1 has one contact; it has no number/);
    expect(() =>
      drafted(record, (draft) => putControl(draft, "road-1", { deviceId: "b2", way: null, throughId: "b2" })),
    ).toThrow(/held at once.*name two of them/);
    expect(() =>
      edit(record, setPart(record, "x1", ["I1", "9N"], { with: "wire", turned: false, madeAt: null })!.edits),
    ).toThrow(/X1 has no terminal 9N/);
    expect(() =>
      edit(record, setPart(record, "cd1", ["I1", "1N"], { with: "wire", turned: false, madeAt: null })!.edits),
    ).toThrow(/CD1 .* is no diode board/);
  });

  it("is refused where a board has no row left, and where nothing keeps so many macros", () => {
    const yard = ladderYard(3);
    const many = Array.from({ length: 40 }, (_, index) => ({
      label: `R${index}`,
      settings: [{ turnoutId: "y1", to: "N" as const }],
    }));
    const record = edit(yard, addRoutes(yard, many).edits).record;
    expect(() => commandRoutes(record, all(record), "macro")).toThrow(/keeps \d+ macros more, and there are 40 routes/);
    expect(() => commandRoutes(record, all(record), "buttons")).toThrow(/X1 has no row left.*larger diode board/);
  });

  it("mixed motors on one button are told, with the ways that suit", () => {
    const record = typed(typed(routedYard(3), "y2", "motor", "stall-motor"), "y2", "driver", "stall-decoder-8");
    const finding = new Derived(record).findings.find(({ ruleId }) => ruleId === "route-impossible");
    expect(finding?.why).toBe(
      "Route Road 2 is asked for by a button through diodes, but diodes pass no current that Y2 (a stall motor) could use.",
    );
    expect(finding?.remedies.map(({ label }) => label)).toEqual([
      "Keep Road 2 as a macro",
      "Have a computer set Road 2",
    ]);
  });

  it("a leader and its follower asked for different positions are told", () => {
    const pair = railway(["A", "", "twin-coil-surface", "cdu", ""], ["B", "A", "twin-coil-surface", "", ""]);
    const settings = [
      { turnoutId: "a", to: "N" as const },
      { turnoutId: "b", to: "R" as const },
    ];
    const record = edit(pair, addRoutes(pair, [{ label: "Over", settings }]).edits).record;
    const why = new Derived(record).findings
      .filter(({ ruleId }) => ruleId === "route-impossible")
      .map((each) => each.why);
    expect(why).toEqual(["Route Over asks A for N and B for R, and the two move together."]);
  });
});

it("ticks off parts of a board as they are proposed, once each", () => {
  const record = routedYard(3);
  const [{ joins }] = matricesOf(record) as [ReturnType<typeof matricesOf>[number]];
  const at = "2026-05-12T19:30:00.000Z";
  const made = edit(record, makeParts(record, joins.slice(0, 2), at)!.edits).record;
  expect(made.boardParts.map(({ madeAt, turned }) => [madeAt, turned])).toEqual([
    [at, false],
    [at, false],
  ]);
  expect(
    makeParts(
      made,
      matricesOf(made)[0]!.joins.filter(({ standing }) => standing === "made"),
      at,
    ),
  ).toBeNull();
});

it("puts the motors of each zone on a board of their own, and fills what is begun", () => {
  const yard = ladderYard(5);
  const zoned = drafted(yard, (draft) => {
    draft.put("zone", { id: "west", label: "West", name: "", order: 1, commons: null, plasticJoints: 0 });
    draft.put("zone", { id: "east", label: "East", name: "", order: 2, commons: null, plasticJoints: 0 });
    for (const turnout of draft.record.turnouts)
      draft.put("turnout", { ...turnout, zoneId: turnout.order <= 2 ? "west" : "east" });
  });
  const stated = edit(zoned, addRoutes(zoned, ladderRoads(5)).edits).record;
  const record = edit(stated, commandRoutes(stated, [...all(stated)].reverse(), "buttons").edits).record;
  const labelOf = (id: string) => record.devices.find((device) => device.id === id)?.label;
  const drivers = record.assignments.flatMap((a) =>
    a.role === "driver" ? [`${labelOf(a.deviceId)}-${a.way} ${labelOf(a.motorId)}`] : [],
  );
  expect(drivers.sort()).toEqual(["X1-1 Y1", "X1-2 Y2", "X2-1 Y3", "X2-2 Y4"]);
  // numbered in the order of routes, however they were chosen
  const asks = Object.fromEntries(record.routeControls.map(({ routeId, deviceId }) => [routeId, labelOf(deviceId)]));
  expect(asks).toMatchObject({ "road-1": "B1", "road-2": "B2", "road-5": "B5" });
});

it("takes no row of a diode board for something that reads a turnout's control", () => {
  const record = routedYard(3);
  expect(() => drafted(record, (draft) => writeControls(draft, "y2", "toggle-centre-off by X1-1"))).toThrow(
    /X1 has no numbered inputs/,
  );
  // a button that asks for a route throws a turnout besides, without a reading of it
  const both = drafted(record, (draft) =>
    setControls(draft, "y2", [{ device: { deviceId: "b1" }, to: "N", by: null }]),
  );
  expect(both.assignments.filter(({ role }) => role === "input")).toHaveLength(3);
  expect(new Derived(both).findings.map(({ ruleId }) => ruleId)).not.toContain("control-not-heard");
});

it("says of a route that sets nothing that it does, and takes it away when asked", () => {
  const record = edit(routedYard(3), addRoutes(routedYard(3), [{ label: "Nowhere", settings: [] }]).edits).record;
  const finding = new Derived(record).findings.find(({ ruleId }) => ruleId === "route-impossible");
  expect(finding?.why).toBe("Route Nowhere sets no turnout.");
  const [remedy] = finding!.remedies;
  expect(remedy?.label).toBe("Take route Nowhere away");
  const cured = edit(record, remedy!.group!.edits).record;
  expect(cured.routes.map(({ label }) => label)).toEqual(["Road 1", "Road 2", "Road 3"]);
  expect(new Derived(cured).findings.map(({ ruleId }) => ruleId)).not.toContain("route-impossible");
});

describe("another button for a route", () => {
  it("reaches the same coils by a row of its own, as from a second panel", () => {
    const record = routedYard(4);
    const after = edit(record, anotherButton(record, "road-3").edits).record;
    expect(controlsOfRoute(after, "road-3").map(({ deviceId }) => deviceId)).toEqual(["b3", "b5"]);
    expect(after.devices.find(({ id }) => id === "b5")?.typeId).toBe("push-button-heavy");
    const [{ rows, wishes }] = matricesOf(after) as [ReturnType<typeof matricesOf>[number]];
    const coilsOf = (id: string) =>
      wishes.find(({ button }) => button === rows.find(({ controlId }) => controlId === id)?.key)?.coils;
    expect(coilsOf("b5")).toEqual(coilsOf("b3"));
    expect(new Set(rows.map(({ terminals }) => terminals.get("x1"))).size).toBe(5);
    expect(new Derived(after).findings.filter(({ stage }) => stage === "routes")).toEqual([]);
  });

  it("is read for a computer where no diode board throws the route", () => {
    const record = routedYard(3, "message");
    const after = edit(record, anotherButton(record, "road-2").edits).record;
    const [, second] = controlsOfRoute(after, "road-2");
    expect(inputOf(after, second!.deviceId, null)?.way).toBe(4);
    expect(after.devices.filter(({ typeId }) => typeId.startsWith("diode-board"))).toEqual([]);
  });
});
