// What a device is given when it is fitted, so that it can work at once.
import { describe, expect, it } from "vitest";
import { drafted } from "../../testing/build.ts";
import { EXHIBITS } from "../../testing/exhibits.ts";
import { CATALOGUE, typeOf } from "../catalogue/catalogue.ts";
import { edit } from "../catalogue/edit.ts";
import { usualSupply } from "../catalogue/traits.ts";
import { Derived } from "../derive.ts";
import { feederOf } from "../record/find.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import { addBoardTo } from "./devices.ts";
import { feedFrom, possibleCommands, possibleSupplies, usualCommands } from "./feed.ts";

const fitted = (typeId: string): RailwayRecord =>
  drafted(emptyRecord("Test"), (draft) => {
    addBoardTo(draft, typeId);
  });
const types = (record: RailwayRecord) => record.devices.map(({ typeId }) => typeId).sort();

describe("a board that is added", () => {
  it.each([
    ["cdu", ["ac-16", "cdu"]],
    ["stall-decoder-8", ["dc-12", "stall-decoder-8", "track-bus"]],
    ["coil-decoder-4", ["coil-decoder-4", "dc-18", "track-bus"]],
    ["servo-board-4", ["dc-12", "servo-board-4"]],
    ["output-node-8", ["control-bus", "dc-12", "output-node-8"]],
    ["encoder-16", ["dc-12", "encoder-16"]],
    ["relay-board-4", ["controller", "dc-9", "relay-board-4"]],
    ["reverser-stall", ["reverser-stall", "track-bus"]],
    ["current-detector-4", ["current-detector-4", "dc-12", "track-bus"]],
    ["polarity-unit", ["polarity-unit", "track-bus"]],
    ["controller", ["controller", "dc-9"]],
  ])("%s comes with what it needs", (typeId, expected) => {
    expect(types(fitted(typeId))).toEqual(expected);
  });

  it("takes what is there before adding new", () => {
    const two = drafted(fitted("stall-decoder-8"), (draft) => {
      addBoardTo(draft, "stall-decoder-8");
      addBoardTo(draft, "input-decoder-4");
    });
    expect(types(two).filter((id) => id === "dc-12" || id === "track-bus")).toEqual(["dc-12", "track-bus"]);
  });
});

it("gives every type volts within its range by the supply that it is usually given", () => {
  for (const type of CATALOGUE) {
    const supply = usualSupply(type);
    const { leastVolts, mostVolts } = type.figures;
    if (!supply || !leastVolts || !mostVolts || type.family === "lamp" || type.family === "motor") continue;
    const found = new Derived(fitted(type.id)).findings.filter(({ ruleId }) => ruleId === "supply-out-of-range");
    expect(
      found.map(({ why }) => why),
      type.id,
    ).toEqual([]);
  }
});

it("names supplies and buses that the catalogue has", () => {
  for (const type of CATALOGUE) {
    for (const id of [usualSupply(type), usualCommands(type)]) {
      if (id !== null) expect(CATALOGUE.map((each) => each.id)).toContain(id);
    }
  }
  const record = fitted("relay-board-1");
  for (const device of record.devices) expect(typeOf(record, device).id).toBe(device.typeId);
});

describe("what feeds a board", () => {
  it("is among what may feed it when it is added", () => {
    for (const type of CATALOGUE) {
      const record = fitted(type.id);
      const device = record.devices.find(({ typeId }) => typeId === type.id)!;
      const supply = feederOf(record, device.id, "supply");
      if (supply)
        expect(
          possibleSupplies(record, type).map(({ id }) => id),
          type.id,
        ).toContain(supply);
      const commands = feederOf(record, device.id, "commands");
      if (commands)
        expect(
          possibleCommands(record, type).map(({ id }) => id),
          type.id,
        ).toContain(commands);
    }
  });

  it.each(Object.entries(EXHIBITS))("can be chosen anew in %s", (_, exhibit) => {
    const record = exhibit();
    for (const device of record.devices) {
      const type = typeOf(record, device);
      for (const [role, choices] of [
        ["supply", possibleSupplies(record, type)],
        ["commands", possibleCommands(record, type)],
      ] as const) {
        for (const from of choices) {
          if (from.id === device.id) continue;
          const chosen = edit(record, feedFrom(record, device, role, from.id).edits).record;
          expect(feederOf(chosen, device.id, role)).toBe(from.id);
        }
        const none = edit(record, feedFrom(record, device, role, null).edits).record;
        expect(feederOf(none, device.id, role)).toBeNull();
      }
    }
  });
});
