import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { smallRailway } from "../../testing/build.ts";
import { Draft } from "./draft.ts";

/** What is done to the devices of a draft: added with a prefix, called otherwise, or taken out. */
type Deed =
  | ["add", prefix: string, wish: string | undefined]
  | ["call", which: number, label: string]
  | ["remove", which: number];

const names = fc.constantFrom("X1", "x2", "D3", "X4", "d1");
const deeds = fc.array<Deed>(
  fc.oneof(
    fc.tuple(fc.constant("add" as const), fc.constantFrom("X", "D"), fc.option(names, { nil: undefined, freq: 1 })),
    fc.tuple(fc.constant("call" as const), fc.nat(), names),
    fc.tuple(fc.constant("remove" as const), fc.nat()),
  ),
  { maxLength: 20 },
);

describe("a new device", () => {
  it("gets the label wished for when it is free, else the first free one of its prefix, whatever was done before", () => {
    fc.assert(
      fc.property(deeds, (all) => {
        const draft = new Draft(smallRailway());
        const taken = () => new Set(draft.record.devices.map(({ label }) => label.toLowerCase()));
        for (const [what, which, label] of all) {
          const devices = draft.record.devices.filter((each) => /^[XD]/i.test(each.label));
          if (what === "add") {
            const before = taken();
            const isFree = label !== undefined && !before.has(label.toLowerCase());
            let number = 1;
            while (before.has(`${which}${number}`.toLowerCase())) number++;
            const added = draft.addDevice("stall-motor", which, "layout", label);
            expect(added.label).toBe(isFree ? label : `${which}${number}`);
            continue;
          }
          const device = devices[which % devices.length];
          if (!device) continue;
          if (what === "remove") draft.removeWhole("device", device.id);
          else draft.put("device", { ...device, label });
        }
      }),
    );
  });

  it("is called as before again once its label is given up", () => {
    const draft = new Draft(smallRailway());
    const added = draft.addDevice("stall-motor", "X", "layout");
    expect(draft.addDevice("stall-motor", "X", "layout").label).toBe("X2");
    draft.remove("device", added.id);
    expect(draft.addDevice("stall-motor", "X", "layout").label).toBe("X1");
  });
});
