// What locks controls out: what is offered, what it makes of the wiring, and that the key decides.
import { describe, expect, it } from "vitest";
import { drafted, railway, threadOf } from "../../testing/build.ts";
import { DRIVING, lockedOut, onReversingToggle, readBy } from "../../testing/recipes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { measure } from "../readings/meter.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { terminalName } from "../schematic/nets.ts";
import { lockChoices, setLock } from "./locks.ts";

const coils = () => railway(["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"]);
const offered = (record: RailwayRecord) => {
  const [thread] = new Derived(record).schematic.threads;
  return lockChoices(record, thread!, thread!.control!).map(({ text }) => text);
};
const nets = (record: RailwayRecord) =>
  new Derived(record).schematic.nets.map(({ purpose, ends }) => {
    const label = (id: string) => record.devices.find((device) => device.id === id)?.label ?? "?";
    return `${purpose}: ${ends.map(({ deviceId, terminal }) => terminalName(label(deviceId), terminal)).join(" ")}`;
  });

describe("what is offered", () => {
  it("is a key or a relay for what has a common, a board's setting for what a board hears", () => {
    expect(offered(coils())).toEqual(["a new key switch", "a new relay"]);
    expect(offered(readBy("input-node-16"))).toEqual(["a new key switch", "a new relay", "a setting of IN1"]);
    expect(offered(DRIVING["decoder with a touch button"]!())).toEqual(["a setting of D1"]);
    expect(offered(DRIVING["detector as a button"]!())).toEqual(["a setting of D1"]);
  });

  it("is what locks others already, with the contacts that are free", () => {
    expect(offered(lockedOut(coils(), "new key switch"))[0]).toBe("KS1");
    // the key that picks the relay up is off while nobody is locked out, and so cannot cut a common as well
    expect(offered(lockedOut(coils(), "new relay"))).toEqual(["a new key switch", "RY1-S1", "RY1-S2", "a new relay"]);
  });
});

describe("the wiring", () => {
  it("of a key leads the pulse through it, and nothing else", () => {
    expect(nets(lockedOut(coils(), "new key switch"))).toEqual(
      expect.arrayContaining(["pulse-plus: CD1+ KS1-C", "lock: KS1-N T1-C"]),
    );
  });

  it("of a relay has its coil between supply and key, and its contact closed while it is dropped out", () => {
    const joined = nets(lockedOut(onReversingToggle("toggle-reversing", ["A", "", "stall-motor"]), "new relay"));
    expect(joined).toEqual(expect.arrayContaining(["lock: KS1-N RY1-A1", "lock: RY1-S1n T1-1N T1-2R"]));
    expect(joined.find((net) => net.includes("RY1-S1c"))).toContain("PS1+");
  });

  it("of a setting is none", () => {
    const record = readBy("input-node-16");
    const locked = edit(
      record,
      setLock(record, { controlId: "b1", controlWay: null }, { deviceId: "in1", way: null }).edits,
    ).record;
    expect(nets(locked)).toEqual(nets(record));
    expect(new Derived(locked).schematic.threads[0]!.control!.lock?.device.label).toBe("IN1");
  });
});

it("lets the toggle throw while the key is on, and leaves it without current while it is off", () => {
  const derived = new Derived(lockedOut(coils(), "new key switch"));
  const thread = threadOf(derived, "A");
  expect(derived.reading(thread, "R", "throwing").motors[0]?.goesTo).toBe("R");
  // the meter finds the contact that is closed
  const { value } = measure(derived.circuitry, "ks1:C", "ks1:N", "ohm", stateFor(thread, "N", "rest"));
  expect(value).toBeLessThan(0.1);
});

it("goes with the control, and a relay that locks nothing any more goes with its lock", () => {
  const locked = lockedOut(coils(), "new relay");
  const free = edit(locked, setLock(locked, { controlId: "t1", controlWay: null }, null).edits).record;
  expect(free.devices.map(({ label }) => label)).not.toContain("RY1");
  // a key switch was bought: it stays
  expect(free.devices.map(({ label }) => label)).toContain("KS1");
  const gone = drafted(locked, (draft) => draft.removeWhole("device", "t1"));
  expect(gone.assignments.some(({ role }) => role === "lock")).toBe(false);
});

it("refuses what cannot cut a common, with a sentence", () => {
  const touch = DRIVING["decoder with a touch button"]!();
  const cut = (lock: "new key switch" | { deviceId: string; way: number }) => () =>
    edit(touch, setLock(touch, { controlId: "tc1", controlWay: null }, lock).edits);
  expect(cut("new key switch")).toThrow("TC1 (Touch button with memory) has no common of its own that KS1 could cut.");
  const relay = lockedOut(coils(), "new relay");
  expect(() =>
    edit(relay, setLock(relay, { controlId: "t1", controlWay: null }, { deviceId: "ks1", way: null }).edits),
  ).not.toThrow();
  const both = lockedOut(
    railway(
      ["A", "", "twin-coil-surface", "cdu", "toggle-centre-off"],
      ["B", "", "twin-coil-surface", "CD1", "toggle-centre-off"],
    ),
    "new relay",
  );
  const second = () =>
    edit(both, setLock(both, { controlId: "t2", controlWay: null }, { deviceId: "ks1", way: null }).edits);
  expect(second).toThrow(
    "KS1 picks up relays, and is off while nobody is locked out: it cannot cut the common of T2 as well.",
  );
  expect(cut({ deviceId: "d1", way: 1 })).toThrow("D1 has no contact S1 to lock TC1 out with.");
});
