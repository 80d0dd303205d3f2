// What can be set of each kind of device, by hand, by a train, by a board or by a restart.
import { expect, it } from "vitest";
import { CATALOGUE } from "../catalogue/catalogue.ts";
import type { Device } from "../record/schemas.ts";
import { leversOf } from "./levers.ts";

/** The settings of each lever of a type, a star at those that only last while they are held. */
function settings(typeId: string, outputs: number[] = [], joined: (terminal: string) => boolean = () => true) {
  const type = CATALOGUE.find(({ id }) => id === typeId)!;
  const device: Device = { id: "d", typeId, label: "D1", place: "layout", runMetres: null, note: "" };
  return leversOf({ device, type }, outputs, joined).map((lever) =>
    lever.settings.map(({ name, stands, held }) => `${name("D1")} ${stands}${held ? "*" : ""}`),
  );
}

it.each([
  ["toggle-centre-off", [["D1 let go", "D1 held at N*", "D1 held at R*"]]],
  ["toggle-latching", [["D1 at N", "D1 at R"]]],
  ["toggle-reversing", [["D1 at N", "D1 at R"]]],
  ["push-button", [["D1 let go", "D1 pressed*"]]],
  ["rotary", [["D1 at 1", "D1 at 2", "D1 at none of its positions in use"]]],
  ["infrared-sensor", [["D1 clear", "D1 covered"]]],
  ["polarity-unit", [["D1 on J", "D1 on K"]]],
  ["relay-dpdt", [["D1 dropped out", "D1 picked up", "D1 changing over"]]],
  [
    "servo-contact",
    [
      ["D1 lying at N", "D1 lying at R", "D1 half way"],
      ["D1 at rest", "D1 held against a stop"],
    ],
  ],
  ["dc-12", []],
  ["lamp-two-colour", []],
])("%s", (typeId, expected) => {
  expect(settings(typeId)).toEqual(expected);
});

it("sets each zone of a detector, and each relay of a board, by itself", () => {
  expect(settings("current-detector-4").map(([off, on]) => `${off}, ${on}`)).toEqual(
    [1, 2, 3, 4].map((zone) => `zone ${zone} of D1 clear, zone ${zone} of D1 occupied`),
  );
  expect(settings("relay-board-2")).toEqual([
    ["relay 1 of D1 off", "relay 1 of D1 on"],
    ["relay 2 of D1 off", "relay 2 of D1 on"],
  ]);
});

it("leaves out outputs and pins to which nothing is joined", () => {
  const third = (terminal: string) => terminal.startsWith("3");
  expect(settings("stall-decoder-8", [1, 2, 3], third)).toEqual([["D1-3 at N", "D1-3 at R"]]);
  expect(settings("controller", [], (terminal) => terminal === "P7")).toEqual([["pin 7 of D1 off", "pin 7 of D1 on"]]);
});

it("gives every lever of the catalogue at least two settings that are told apart", () => {
  for (const { id, outputs } of CATALOGUE)
    for (const lever of settings(
      id,
      Array.from({ length: outputs }, (_, index) => index + 1),
    )) {
      expect(lever.length, id).toBeGreaterThan(1);
      expect(new Set(lever).size, id).toBe(lever.length);
      // how it is found is not something that a finger holds
      expect(lever[0], id).not.toContain("*");
    }
});
