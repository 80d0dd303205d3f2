// The findings of a railway file as a command.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Derived, openRailwayFile } from "@alderman/core";
import { afterAll, expect, it } from "vitest";

const HOUSE = join(import.meta.dirname, "../..");
const folder = mkdtempSync(join(tmpdir(), "alderman-check-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function check(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, ["server/dist/check.js", ...args], {
    ...{ cwd: HOUSE, encoding: "utf8", maxBuffer: 1e8 },
  });
  return { status, stdout, stderr };
}

function written(text: string): string {
  const file = join(folder, "railway.json");
  writeFileSync(file, text);
  return file;
}

it("prints one object with the railway and no finding for one that is in order, and exits 0", () => {
  const { status, stdout, stderr } = check("samples/shelf.json");
  expect([status, stderr]).toEqual([0, ""]);
  expect(JSON.parse(stdout)).toEqual({ railway: "Four-turnout shelf", turnouts: 4, findings: [] });
});

it("prints what the program itself finds, and exits 1 when something will burn, short or not work", () => {
  const { status, stdout } = check("samples/skerrin-ferry.json");
  expect(status).toBe(1);
  const { findings } = new Derived(openRailwayFile(readFileSync(join(HOUSE, "samples/skerrin-ferry.json"), "utf8")));
  const counted = findings.filter(({ kept }) => kept === null);
  const report = JSON.parse(stdout);
  expect(report.findings.map((each: { rule: string; why: string }) => [each.rule, each.why])).toEqual(
    counted.map(({ ruleId, why }) => [ruleId, why]),
  );
  expect(Object.keys(report.findings[0])).toEqual(["rule", "severity", "subject", "turnouts", "why", "remedies"]);
  // the toggle of Y4 stays on, and empties the unit of all five
  expect(report.findings[0]).toMatchObject({ severity: "stop", turnouts: ["Y4", "Y1", "Y2", "Y3", "Y5"] });
});

it("exits 0 when there are only doubts", () => {
  const { status, stdout } = check("samples/schools.json");
  expect(status).toBe(0);
  expect(JSON.parse(stdout).findings.length).toBeGreaterThan(0);
});

it.each([
  ["no file named", [], /Name the railway file/],
  ["a file that is not there", ["nowhere.json"], /nowhere.json cannot be opened \(ENOENT\)/],
  ["a folder", ["samples"], /cannot be opened \(EISDIR\)/],
])("refuses %s with one line on standard error, exit 2 and nothing on standard output", (_what, args, message) => {
  const { status, stdout, stderr } = check(...(args as string[]));
  expect([status, stdout]).toEqual([2, ""]);
  expect(stderr.trim().split("\n")).toHaveLength(1);
  expect(JSON.parse(stderr).error.message).toMatch(message as RegExp);
});

it("says where in a bad file the mistake is", () => {
  const good = JSON.parse(readFileSync(join(HOUSE, "samples/shelf.json"), "utf8"));
  good.turnouts[1].order = "two";
  const { status, stderr } = check(written(JSON.stringify(good)));
  expect(status).toBe(2);
  expect(JSON.parse(stderr).error.path).toEqual(["turnouts", 1, "order"]);
});
