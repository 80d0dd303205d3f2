// A short part of the campaign, the same each time; `npm run campaign` does it at length.
import { expect, it } from "vitest";
import { fullDisk } from "./full.ts";
import { fuzz } from "./fuzz.ts";
import { kills } from "./kills.ts";
import { slowReaders } from "./slowReaders.ts";

it("loses nothing that was acknowledged when it is killed", async () => {
  const { kills: count, acknowledged, lost, problems } = await kills(6, 20261127);
  expect({ count, lost, problems }).toEqual({ count: 6, lost: 0, problems: [] });
  expect(acknowledged).toBeGreaterThan(6);
});

it("answers whatever is sent, reads or refuses whatever file, and harms nothing", async () => {
  const { requests, statuses, files, problems } = await fuzz(1_500, 20261127);
  expect(problems).toEqual([]);
  expect([requests, files]).toEqual([1_500, 150]);
  // some of it is right
  expect(statuses["200"]).toBeGreaterThan(100);
  expect(statuses["400"]).toBeGreaterThan(100);
});

it("keeps on a full disk what was acknowledged, and goes on when there is room", () => {
  const { acknowledged, refused, lost, problems } = fullDisk(8, 20261127);
  expect({ refused, lost, problems }).toEqual({ refused: 8, lost: 0, problems: [] });
  expect(acknowledged).toBeGreaterThan(8);
});

it("lets go of a hundred readers that do not read, and keeps little for them", async () => {
  const { left, grown } = await slowReaders(100);
  expect(left).toBe(0);
  // a megabyte each and one change more
  expect(grown).toBeLessThan(500_000_000);
});
