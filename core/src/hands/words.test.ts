import { expect, it } from "vitest";
import { drafted, railway } from "../../testing/build.ts";
import type { Found } from "./sweep.ts";
import { standing } from "./words.ts";

const SIX = drafted(railway(["A", "", "stall-motor"]), (draft) => {
  for (let count = 0; count < 6; count++) draft.addDevice("toggle-latching", "T", "panel");
});

const at = (stands: string, ...labels: string[]): Found["when"] =>
  labels.map((label) => ({
    deviceId: SIX.devices.find((device) => device.label === label)!.id,
    setting: { name: (own) => own, stands, held: false, set: (state) => state },
  }));

it("says how things stand as one would say it", () => {
  expect(standing(SIX, [])).toBe("whatever is set");
  expect(standing(SIX, at("at N", "T1"))).toBe("with T1 at N");
  expect(standing(SIX, [...at("at N", "T1", "T3"), ...at("at R", "T2")])).toBe("with T1 and T3 at N and T2 at R");
});

it("counts many that stand alike", () => {
  expect(standing(SIX, at("at N", "T1", "T2", "T3", "T4"))).toBe("with T1, T2, T3 and T4 at N");
  expect(standing(SIX, at("at N", "T1", "T2", "T3", "T4", "T5", "T6"))).toBe("with T1, T2, T3 and 3 others at N");
});
