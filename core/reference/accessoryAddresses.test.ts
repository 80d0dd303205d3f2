// NMRA S-9.2.1 and RCN-213: user address u sits in decoder (u - 1) div 4 + 1, pair (u - 1) mod 4; raw = u + 3;
// decoder 511 is the broadcast address, so users get 1 to 2040.
import { expect, it } from "vitest";
import { accessoryAddress } from "../src/numbers/accessoryAddress.ts";

it("places every user address as the standards do", () => {
  for (let user = 1; user <= 2040; user++) {
    expect(accessoryAddress(user, 0)).toEqual({
      decoder: Math.floor((user - 1) / 4) + 1,
      pair: (user - 1) % 4,
      raw: user + 3,
    });
  }
});

it("refuses what would reach the broadcast decoder or none", () => {
  for (const address of [0, -1, 2041, 2044, 1.5])
    expect(() => accessoryAddress(address, 0)).toThrow(/is not between 1 and 2040/);
});

it("stands four off for a station that counts from raw 0", () => {
  expect(accessoryAddress(5, 4)).toEqual(accessoryAddress(1, 0));
});
