import { expect, it } from "vitest";
import { railway } from "../../testing/build.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { controlChoices, driverChoices, frogChoices, motorChoices } from "./choices.ts";

const mixed = () =>
  railway(
    ["A", "", "stall-motor", "stall-decoder-8"],
    ["B", "", "twin-coil-under-board", "cdu", "toggle-centre-off"],
    ["C", "", "stall-motor"],
  );
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
  expect(controls.find(({ text }) => text === "T1")).toMatchObject({ hint: "share this one", fits: "fits" });
  expect(controls.find(({ text }) => text === "Toggle, latching")?.fits).toBe("cannot");
});

it("offers a frog the contacts that its motor has", () => {
  const record = mixed();
  const sets = (id: string) => frogChoices(record, turnout(record, id)).filter(({ text }) => /^S\d$/.test(text)).length;
  expect([sets("a"), sets("b")]).toEqual([2, 1]);
});
