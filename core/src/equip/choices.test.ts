import { expect, it } from "vitest";
import { drafted, HEAD, railway } from "../../testing/build.ts";
import { edit } from "../catalogue/edit.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { controlChoices, driverChoices, frogChoices, motorChoices } from "./choices.ts";
import { turnoutsFromTable } from "./table.ts";

const mixed = () =>
  railway(
    ["A", "", "stall-motor", "stall-decoder-8"],
    ["B", "", "twin-coil-under-board", "cdu", "toggle-centre-off"],
    ["C", "", "stall-motor"],
  );
const added = (record: RailwayRecord, row: string[]) =>
  edit(record, turnoutsFromTable(record, [HEAD, row]).edits).record;
const turnout = (record: RailwayRecord, id: string) => record.turnouts.find((each) => each.id === id)!;

it("offers free outputs first, those in use behind, and last what cannot be, with the reason", () => {
  const record = mixed();
  const choices = driverChoices(record, turnout(record, "c"));
  expect(choices.slice(0, 7).map(({ text }) => text)).toEqual([2, 3, 4, 5, 6, 7, 8].map((way) => `D1-${way}`));
  const at = (text: string) => choices.findIndex((choice) => choice.text === text);
  expect(at("D1-1")).toBeGreaterThan(at("Accessory decoder, eight stall-motor outputs"));
  expect(at("CD1")).toBeGreaterThan(at("D1-1"));
  expect(choices[at("CD1")]).toMatchObject({ fits: "cannot", hint: expect.stringContaining("a pulse does not hold") });
});

it("says of motors and controls whether they go with what is there", () => {
  const record = mixed();
  const motor = (text: string) => motorChoices(record, turnout(record, "a")).find((choice) => choice.text === text);
  expect(motor("Stall motor with two contacts")?.fits).toBe("fits");
  expect(motor("Twin-coil motor, under-board, with contact")?.fits).toBe("cannot");
  const controls = controlChoices(record, turnout(record, "b"));
  expect(controls.find(({ text }) => text === "T1")).toMatchObject({ hint: "as it is", fits: "fits" });
  expect(controls.find(({ text }) => text === "Toggle, latching")?.fits).toBe("cannot");
});

it("offers controls that are there with who has them, and each pole of a toggle that has two", () => {
  const record = drafted(mixed(), (draft) => void draft.addDevice("toggle-reversing-centre-off", "TR", "panel"));
  const other = added(record, ["D", "", "twin-coil-surface", "CD1"]);
  const offered = (text: string) => controlChoices(other, turnout(other, "d")).find((choice) => choice.text === text);
  expect(offered("T1")).toMatchObject({ hint: "shared with B: they move together", fits: "fits" });
  expect(offered("TR1")?.fits).toBe("cannot");
  expect(offered("TR1-2")).toMatchObject({ hint: "pole 2, nothing uses it yet", fits: "fits" });
  expect(offered("TR1-3")).toBeUndefined();
  expect(offered("T1 by none")).toBeUndefined();
  const read = drafted(other, (draft) => {
    const node = draft.addDevice("input-node-16", "IN", "layout");
    draft.assign("input", { deviceId: node.id, way: 1, controlId: "t1", controlWay: null });
  });
  expect(controlChoices(read, turnout(read, "d"))).toContainEqual(
    expect.objectContaining({ text: "T1 by none", hint: expect.stringContaining("IN1 reads it no more") }),
  );
});

it("offers a frog the contacts that its motor has", () => {
  const record = mixed();
  const sets = (id: string) => frogChoices(record, turnout(record, id)).filter(({ text }) => /^S\d$/.test(text)).length;
  expect([sets("a"), sets("b")]).toEqual([2, 1]);
});
