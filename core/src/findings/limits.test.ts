// Every limit that a type of the catalogue states is read by a rule: an exhibit that is right, with the limit out of reach, is found.
import { expect, it } from "vitest";
import { drafted, railway, retyped, withFigures } from "../../testing/build.ts";
import { MISTAKES } from "../../testing/mistakes.ts";
import { DRIVING, FROGS, LAMPS, semaphore } from "../../testing/recipes.ts";
import { ROUTED } from "../../testing/routes.ts";
import { CATALOGUE, genericType } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { RULES } from "./rules.ts";

type Way = "low" | "high";

/** Limits, in which direction they are missed, and the rules that read them. */
const LIMITS: Record<string, { out: Way | ((type: DeviceType) => Way); rules: readonly string[] }> = {
  bearsVolts: { out: "low", rules: ["lamp-reverse-voltage"] },
  boardAmps: { out: "low", rules: ["board-over-total", "relays-beyond-controller"] },
  chargeWatts: { out: "low", rules: ["resistor-too-hot"] },
  commonWatts: { out: "low", rules: ["resistor-too-hot"] },
  contactAmps: { out: "low", rules: ["contact-over-rating"] },
  dropOutVolts: { out: "low", rules: ["barely-switches"] },
  firstWatts: { out: "low", rules: ["resistor-too-hot"] },
  fuseAmps: { out: "low", rules: ["wire-not-protected", "short-would-not-trip", "supply-over-rating"] },
  inputMost: { out: "low", rules: ["input-over-volts"] },
  leastAmps: { out: "high", rules: ["lamp-current"] },
  leastVolts: { out: "high", rules: ["supply-out-of-range", "goes-astray", "barely-switches"] },
  mostVolts: { out: "low", rules: ["supply-out-of-range", "motor-over-volts"] },
  moveAmps: { out: "high", rules: ["goes-astray", "unit-too-weak", "route-coil-weak"] },
  operateSeconds: { out: "high", rules: ["barely-switches"] },
  outputAmps: { out: "low", rules: ["output-over-limit"] },
  pullInVolts: { out: "high", rules: ["barely-switches"] },
  pulseJoules: { out: "high", rules: ["goes-astray", "unit-too-weak", "route-coil-weak"] },
  pulseSeconds: { out: "high", rules: ["goes-astray", "unit-too-weak", "route-coil-weak"] },
  ratedAmps: {
    out: ({ family, model }) => (family === "motor" || model === "relay" ? "high" : "low"),
    rules: [
      ...["lamp-current", "supply-over-rating", "contact-over-amps", "contact-over-rating", "route-contact-amps"],
      "output-over-limit",
    ],
  },
  regulatorWatts: { out: "low", rules: ["board-over-total", "relays-beyond-controller"] },
  resistorWatts: { out: "low", rules: ["resistor-too-hot"] },
  detectAmps: { out: "low", rules: ["detector-sees-load"] },
  warmsKelvin: { out: "high", rules: ["coil-held-on"] },
  reverseVolts: { out: "low", rules: ["diode-over-surge"] },
  secondWatts: { out: "low", rules: ["resistor-too-hot"] },
  stalledAmps: { out: "high", rules: ["board-over-total", "supply-over-rating", "output-over-limit"] },
  surgeAmps: { out: "low", rules: ["diode-over-surge"] },
  tripAmps: {
    out: ({ model }) => (model === "polarity-unit" ? "high" : "low"),
    rules: ["short-by-hands", "supply-over-rating", "short-would-not-trip", "polarity-unit-late"],
  },
};

/** Figures that models are made of, or that are counts and times by which nothing burns or stays undone. */
const NO_LIMITS = [
  ...["axleOhms", "engineAmps", "engines"],
  ...["bleedOhms", "chargeOhms", "coilHenries", "coilOhms", "commandOhms", "commonOhms", "contactOhms", "cores"],
  ...["detectSeconds", "diodePrice", "diodes", "endOhms", "factoryAddress", "farads", "firstOhms", "frameSeconds"],
  ...[
    "greenVolts",
    "holdOhms",
    "idleOhms",
    "idleVolts",
    "inputDiodes",
    "inputDrop",
    "inputOhms",
    "inputVolts",
    "insideOhms",
  ],
  ...["leakOhms", "macros", "moveSeconds", "movingOhms", "normalSeconds", "onAmps", "outputOhms", "pinOhms", "price"],
  ...[
    "pullOhms",
    "railOhms",
    "regulation",
    "regulatorDrop",
    "regulatorVolts",
    "releaseSeconds",
    "resistorOhms",
    "restAmps",
    "restOhms",
  ],
  ...[
    "reverseSeconds",
    "secondOhms",
    "senseOhms",
    "seriesOhms",
    "signalOhms",
    "signalVolts",
    "sinkVolts",
    "squareMetres",
  ],
  ...["stalledOhms", "switchOhms", "thresholdVolts", "volts", "warmsSeconds", "ways", "yellowVolts", "zoneVolts"],
];

it("is told of every figure of the catalogue whether it is a limit", () => {
  const figures = new Set(CATALOGUE.flatMap((type) => Object.keys(type.figures)));
  expect([...figures].sort()).toEqual([...Object.keys(LIMITS), ...NO_LIMITS].sort());
  const rules = new Set(RULES.map(({ id }) => id));
  expect(Object.values(LIMITS).flatMap((each) => each.rules.filter((rule) => !rules.has(rule)))).toEqual([]);
});

/** Railways in which a limit is looked at, those that are right first. */
const EXHIBITS: (() => RailwayRecord)[] = [
  ...[DRIVING, FROGS, LAMPS, ROUTED, MISTAKES].flatMap((each) => Object.values(each)),
  semaphore,
  // a loop that turns trains and throws nothing
  () =>
    drafted(railway(["A", "", "stall-motor", "stall-decoder-8"]), (draft) => {
      const reverser = draft.addDevice("reverser", "LR", "layout");
      draft.assign("commands", { deviceId: "tb1", toDeviceId: reverser.id });
      draft.assign("supply", { deviceId: "ps1", toDeviceId: reverser.id });
    }),
  () => railway(...[1, 2, 3, 4].map((way) => [`A${way}`, "", "servo", way === 1 ? "input-decoder-4" : `D1-${way}`])),
];

/** By how much a limit is put out of reach: far, and less where another figure stands in the way. */
const OUT = { low: [0.01, 0.1, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9], high: [20, 14, 9, 5, 3, 2, 1.5, 1.2] };

/** What no exhibit can show, and why. */
const UNSHOWN: Record<string, RegExp> = {
  // with a common resistor and two colours nothing is ever lit backwards but from frog to rail
  bearsVolts: /^(lamp-two|lamps-single|dwarf|fibre)/,
  // inputs take half a milliamp, less than the figure may be
  outputAmps: /^(current-detector|infrared|touch)/,
  // contacts push no volts into an input; only boards that outputs of others may ask
  inputMost: /^(input-node|encoder|dual|input-decoder|fibre)/,
  // of an arm it is a part of the model; of a button's poles the whole press is told
  ratedAmps: /^(semaphore-servo|push-button-[24])$/,
  // nothing leaves a coil between its two limits: a diode lies before it
  dropOutVolts: /^relay/,
};

/** The record with a type in the place of one of its own model that does the same. */
function withType(record: RailwayRecord, { id, model, drives, family }: DeviceType): [RailwayRecord, string][] {
  return record.devices.flatMap((device): [RailwayRecord, string][] => {
    const own = genericType(device.typeId);
    if (device.typeId === id) return [[record, device.label]];
    if (own?.model !== model || own.drives !== drives || own.family !== family) return [];
    return [[retyped(record, device.label, id), device.label]];
  });
}

it.each(Object.entries(LIMITS))("reads %s of every type that states it", { timeout: 240_000 }, (figure, limit) => {
  const { rules } = limit;
  const count = (each: RailwayRecord) =>
    new Derived(each).findings.filter(({ ruleId }) => rules.includes(ruleId)).map(({ why }) => why);
  const unread = CATALOGUE.filter((type) => type.figures[figure] && !UNSHOWN[figure]?.test(type.id)).flatMap((type) => {
    const { value, min, max } = type.figures[figure]!;
    const out = typeof limit.out === "function" ? limit.out(type) : limit.out;
    // the mistake that a rule is about shows most
    const isRead = [...rules.flatMap((rule) => MISTAKES[rule] ?? []), ...EXHIBITS].some((make) => {
      try {
        return withType(make(), type).some(([record, label]) => {
          const before = new Set(count(record));
          return OUT[out].some((times) => {
            const extreme = Math.min(max, Math.max(min, (value || 1) * times));
            try {
              return count(withFigures(record, label, { [figure]: extreme })).some((why) => !before.has(why));
            } catch {
              // one that the record refuses, as a least above its most
              return false;
            }
          });
        });
      } catch {
        // a type that cannot take the other's place
        return false;
      }
    });
    return isRead ? [] : [type.id];
  });
  expect(unread).toEqual([]);
});
