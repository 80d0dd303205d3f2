import { expect, it } from "vitest";
import { drafted, smallRailway, withFigures } from "../../testing/build.ts";
import { IDLE } from "../readings/kit.ts";
import { partsOf } from "../readings/models.ts";
import { PLAIN_TYPE } from "../record/schemas.ts";
import { CATALOGUE, figureValue, findType } from "./catalogue.ts";

it("gives every type sound figures and a model whose nodes are its terminals", () => {
  for (const type of CATALOGUE) {
    for (const [name, figure] of Object.entries(type.figures)) {
      expect(figure.value, `${type.id} ${name}`).toBeGreaterThanOrEqual(figure.min);
      expect(figure.value, `${type.id} ${name}`).toBeLessThanOrEqual(figure.max);
      expect(figure.about.length).toBeGreaterThan(3);
    }
    const ways = Array.from({ length: type.outputs }, (_, index) => [index + 1, "N"] as const);
    const state = { ...IDLE, outputs: new Map(ways) };
    const nodes = new Set(partsOf("x", type, state).flatMap(({ element }) => element.nodes));
    for (const { name } of type.terminals) expect(nodes, `${type.id} ${name}`).toContain(`x:${name}`);
  }
});

it("sets an own type's figures over those of its generic type", () => {
  const record = withFigures(smallRailway(), "PS1", { volts: 12 });
  const own = findType(record, "own-ps1")!;
  expect(own.figures.volts).toMatchObject({ value: 12, origin: "own" });
  expect(figureValue(own, "ratedAmps")).toBe(1);
  expect(own.terminals).toEqual(findType(record, "ac-16")!.terminals);
});

it("refuses figures that make no sense, types that do not exist and parts that a device cannot play", () => {
  const record = smallRailway();
  expect(() => withFigures(record, "CD1", { chargeOhms: -5 })).toThrow(
    /chargeOhms \(charging resistor\) must be 1 to 10000 ohm, not -5/,
  );
  expect(() => withFigures(record, "CD1", { colour: 1 })).toThrow(/has no figure "colour"/);
  expect(() =>
    drafted(record, (draft) => draft.put("type", { ...PLAIN_TYPE, id: "cdu", basedOn: "cdu", name: "x", figures: {} })),
  ).toThrow(/is a type of the catalogue/);
  expect(() => drafted(record, (draft) => draft.put("device", { ...record.devices[0]!, typeId: "steam" }))).toThrow(
    /of type "steam", which does not exist/,
  );
  expect(() =>
    drafted(record, (draft) =>
      draft.assign("control", {
        deviceId: "ps1",
        turnoutId: "m1",
        way: null,
        to: null,
        inverse: false,
        follows: false,
      }),
    ),
  ).toThrow(/PS1 \(16 V AC supply\) cannot serve as control/);
});

it("refuses an output that a board does not have", () => {
  const record = smallRailway();
  expect(() => drafted(record, (draft) => draft.assign("address", { deviceId: "d1", way: 9, address: 5 }))).toThrow(
    /D1 has 8 outputs; there is no output 9/,
  );
});

it("refuses to feed a supply from a supply, round about or not, and what takes none", () => {
  const feed = (deviceId: string, toDeviceId: string) =>
    drafted(smallRailway(), (draft) => draft.assign("supply", { deviceId, toDeviceId }));
  expect(() => feed("ps1", "ps2")).toThrow(/PS1 cannot feed PS2, which is a supply itself/);
  expect(() => feed("ps2", "ps2")).toThrow(/PS2 cannot feed PS2/);
  expect(() => feed("ps1", "t1")).toThrow(/PS1 cannot feed T1 \(Toggle, .*\): it has no terminals for a supply/);
});

it("offers well over forty types, each with an identifier and name of its own, and a sentence", () => {
  expect(CATALOGUE.length).toBeGreaterThan(40);
  for (const part of ["id", "name"] as const) {
    expect(new Set(CATALOGUE.map((type) => type[part])).size, part).toBe(CATALOGUE.length);
  }
  for (const { about } of CATALOGUE) expect(about).toMatch(/^[A-Z\d].*\.$/s);
});

it("shows the caution where a thing can hurt: coils, charged units, mains, relays", () => {
  for (const type of CATALOGUE) {
    const hurts =
      type.model === "twin-coil" ||
      type.model === "cdu" ||
      type.drives === "coil" ||
      type.hears === "pins" ||
      /^(ac|dc)-supply$/.test(type.model);
    if (hurts) expect(type.caution, type.id).toBeDefined();
  }
});
