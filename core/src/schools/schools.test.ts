import { expect, it } from "vitest";
import { drafted, railway, smallRailway } from "../../testing/build.ts";
import { routedYard } from "../../testing/routes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { setControls } from "../equip/controls.ts";
import { removeTurnouts } from "../equip/turnouts.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import { applySchool, compareSchool } from "./compare.ts";
import { SCHOOLS } from "./schools.ts";

const three = () => railway(["A", "", ""], ["M1", "", ""], ["M2", "M1", ""]);
const school = (id: string) => SCHOOLS.find((each) => each.id === id)!;
const applied = (record: RailwayRecord, id: string, ids: string[]) =>
  edit(record, applySchool(record, id, ids).edits).record;

it.each(SCHOOLS.map(({ id }) => id))("equips turnouts and crossovers completely, and they go both ways: %s", (id) => {
  const record = applied(three(), id, ["a", "m1", "m2"]);
  const derived = new Derived(record);
  expect(derived.complete).toEqual(["a", "m1"]);
  for (const thread of derived.schematic.threads) {
    for (const position of ["N", "R"] as const) {
      const { motors, frogs } = derived.reading(thread, position, "throwing");
      // two coils on one unit of 4700 uF are enough (common practice)
      expect(motors.map(({ goesTo }) => goesTo)).toEqual(motors.map(() => position));
      expect(frogs.length).toBe(motors.length);
    }
    const rest = derived.reading(thread, "R", "rest");
    expect(rest.frogs.map(({ carries }) => carries)).toEqual(rest.frogs.map(({ wanted }) => wanted));
  }
});

it.each(SCHOOLS.map(({ id }) => id))("can be changed to from any other: %s", (id) => {
  for (const before of SCHOOLS) {
    const record = applied(applied(three(), before.id, ["a", "m1"]), id, ["a", "m2"]);
    const derived = new Derived(record);
    expect(derived.complete, `${before.id} to ${id}`).toEqual(["a", "m1"]);
    // no control, lamp or frog of the former school is left over
    const used = new Set(
      record.assignments.flatMap((a) => ("turnoutId" in a ? [a.deviceId, "fromId" in a ? a.fromId : null] : [])),
    );
    const orphans = record.devices.filter(
      ({ id: device, typeId }) =>
        /toggle|push|lamp|flag|frog|polarity|^relay-(dpdt|latching)|^servo|motor$|coil-under/.test(typeId) &&
        !used.has(device),
    );
    expect(orphans.filter(({ typeId }) => !/board|decoder|cdu/.test(typeId))).toEqual([]);
  }
});

it.each(SCHOOLS.map(({ id }) => id))(
  "draws no more at the worst than its motors and boards do, whatever trains run: %s",
  (id) => {
    const record = three();
    const { restAmps, worstAmps } = compareSchool(record, school(id), ["a", "m1", "m2"]);
    expect(worstAmps).toBeGreaterThanOrEqual(restAmps);
    // the turnouts by themselves: less than with two engines of 0.5 A each, by one of them at least
    const loads = new Derived(applied(record, id, ["a", "m1", "m2"])).loads;
    const all = loads.reduce((sum, { worst }) => sum + worst, 0);
    const track = loads.find(({ when }) => /engines? on/.test(when));
    if (track) expect(worstAmps).toBeLessThan(all - 0.5);
    else expect(worstAmps).toBeCloseTo(all, 6);
  },
);

it.each(SCHOOLS.map(({ id }) => id))("knows what is there already, so that nothing is to be bought again: %s", (id) => {
  const record = applied(three(), id, ["a", "m1"]);
  const again = compareSchool(record, school(id), ["a", "m1"]);
  expect({ present: again.present, parts: again.parts, cost: again.cost }).toEqual({
    present: true,
    parts: [],
    cost: 0,
  });
});

it.each(SCHOOLS.map(({ id }) => id))(
  "leaves what asks for routes as it is, and is compared beside routes: %s",
  (id) => {
    const record = drafted(routedYard(4), (draft) =>
      setControls(draft, "y1", [{ device: { deviceId: draft.record.routeControls[0]!.deviceId }, way: null, to: "N" }]),
    );
    const ids = record.turnouts.map((turnout) => turnout.id);
    const after = applied(record, id, ids);
    expect(after.routeControls).toEqual(record.routeControls);
    expect(after.devices.map((device) => device.id)).toEqual(
      expect.arrayContaining(record.routeControls.map(({ deviceId }) => deviceId)),
    );
    expect(compareSchool(record, school(id), ids).wires).toBeGreaterThan(0);
    const removed = edit(record, removeTurnouts(record, ["y1"]).edits).record;
    expect(removed.routeControls).toEqual(record.routeControls);
  },
);

it("counts parts, cost, wires and joints for this railway", () => {
  const empty = compareSchool(three(), school("track-stall"), ["a", "m1"]);
  expect(empty.parts).toEqual([
    { name: "Accessory decoder, eight stall-motor outputs", count: 1 },
    { name: "Stall motor with two contacts", count: 3 },
    { name: "12 V DC supply", count: 1 },
    { name: "5 V DC supply", count: 1 },
    { name: "Two-colour lamp with resistors, common lead to 0 V", count: 2 },
  ]);
  // 3 x 22 + 75 + 16 + 2 x 1 + 12
  expect(empty.cost).toBe(171);
  expect(empty.without).toBe("nothing: it takes commands from the track only");
  expect(empty.lamp?.knows).toBe("arm");
  expect(empty.wrong).toEqual([]);
  expect(empty.present).toBe(false);
  // a board and supplies that are there need not be bought again
  const there = compareSchool(applied(three(), "track-stall", ["a"]), school("track-stall"), ["m1"]);
  expect(there.parts).toEqual([
    { name: "Stall motor with two contacts", count: 2 },
    { name: "Two-colour lamp with resistors, common lead to 0 V", count: 1 },
  ]);
  expect(compareSchool(applied(three(), "track-stall", ["a"]), school("track-stall"), ["a"]).present).toBe(true);
});

it("tells the schools apart in what the panel's wires, currents and the computer mean", () => {
  const of = (id: string) => compareSchool(three(), school(id), ["a", "m1"]);
  expect(of("track-stall").cores).toBeLessThan(of("panel-coils").cores);
  expect(of("panel-coils").restAmps).toBeLessThan(of("panel-stall").restAmps);
  expect(of("computer").without).toBe("nothing: the computer passes the buttons on");
  expect(of("bus").without).toMatch(/^everything/);
  expect(of("track-dual").without).toBe("the panel; not the throttle");
  expect(of("panel-servo").lamp?.knows).toBe("blades");
  expect(of("track-stall").restAmps).toBeGreaterThan(3 * 0.014);
});

it("leaves other turnouts alone, and says what it cannot do", () => {
  const record = applied(smallRailway(), "panel-stall", ["m1"]);
  const untouched = ({ turnoutId }: { turnoutId: string }) => turnoutId.startsWith("y");
  const of = (all: RailwayRecord) =>
    all.assignments.filter((a) => "turnoutId" in a && untouched(a as { turnoutId: string }));
  expect(of(record)).toEqual(of(smallRailway()));
  expect(() => applySchool(emptyRecord("x"), "steam", [])).toThrow(/no school "steam"/);
  expect(() => applySchool(emptyRecord("x"), "bus", ["z"])).toThrow(/no turnout "z"/);
});

it("keeps addresses, lamps that can be lit, and notes", () => {
  const start = railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour", "S2"]);
  const before = drafted(start, (draft) => {
    draft.assign("address", { deviceId: "d1", way: 1, address: 117 });
    for (const label of ["LP1", "A"]) {
      const device = draft.record.devices.find((each) => each.label === label)!;
      draft.put("device", { ...device, note: `note of ${label}` });
    }
  });
  for (const { id } of SCHOOLS) {
    const record = applied(before, id, ["a"]);
    const derived = new Derived(record);
    const [thread] = derived.schematic.threads;
    expect(record.devices.find(({ label }) => label === "A")?.note, id).toBe("note of A");
    const lamp = thread!.lamps[0];
    if (lamp?.device.label === "LP1") expect(lamp.device.note, id).toBe("note of LP1");
    const driver = thread!.motors[0]!.driver;
    if (driver?.type.figures.factoryAddress && driver.way !== null) {
      const address = derived.addresses.find(
        (each) => each.deviceId === driver.device.id && each.way === driver.way,
      )?.address;
      expect(address, id).toBe(117);
    }
    expect(
      derived.findings.filter(({ ruleId }) => ruleId === "contact-used-twice"),
      id,
    ).toEqual([]);
  }
  expect(applied(before, "track-stall", ["a"]).devices.some(({ note }) => note === "note of LP1")).toBe(true);
});
