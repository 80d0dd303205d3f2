// What must hold of the wires of every recipe and sample, terminal by terminal.
import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { MISTAKES } from "../../testing/mistakes.ts";
import { DRIVING, FROGS, LAMPS, semaphore } from "../../testing/recipes.ts";
import { typeOf } from "../catalogue/catalogue.ts";
import { openRailwayFile } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { endKey } from "../schematic/nets.ts";
import { progressOf } from "./progress.ts";

const sample = (name: string) => () =>
  openRailwayFile(readFileSync(new URL(`../../../samples/${name}.json`, import.meta.url), "utf8"));
const ALL: Record<string, () => RailwayRecord> = {
  ...DRIVING,
  ...FROGS,
  ...LAMPS,
  ...MISTAKES,
  semaphore,
  "sample Skerrin Ferry": sample("skerrin-ferry"),
  "sample schools": sample("schools"),
};

describe.each(Object.keys(ALL))("%s", (name) => {
  const record = ALL[name]!();
  const { schematic, loom } = new Derived(record);

  it("joins terminals that devices have, each in one net", () => {
    const seen = new Set<string>();
    for (const { ends } of schematic.nets) {
      expect(ends.length).toBeGreaterThan(1);
      for (const end of ends) {
        const type = typeOf(record, deviceOf(record, end.deviceId));
        expect(
          type.terminals.map((terminal) => terminal.name),
          `${end.deviceId} ${end.terminal}`,
        ).toContain(end.terminal);
        expect(seen.has(endKey(end)), endKey(end)).toBe(false);
        seen.add(endKey(end));
      }
    }
  });

  it("makes each net of just the wires that hold it together", () => {
    for (const { id, ends } of schematic.nets) {
      const wires = loom.wires.filter(({ net }) => net === id);
      const joined = new Set(wires.flatMap(({ from, to }) => [from.key, to.key]));
      // a tree has one branch less than it has nodes, and its nodes are the terminals, the screws it passes by, and splices
      const loops = name === "loop-in-net" && wires.some(({ number }) => number === 999) ? 1 : 0;
      expect(wires, ends.map(endKey).join(" ")).toHaveLength(joined.size - 1 + loops);
      const screws = loom.passages.filter(({ net }) => net === id).length * 2;
      const splices = loom.strips.filter(({ kind, id: strip }) => kind === "splice" && joined.has(`${strip}/1`));
      expect(joined.size).toBe(ends.length + screws + splices.length);
      for (const end of ends) expect(joined).toContain(endKey(end));
    }
  });

  it("numbers wires once, and flags each end with the far one", () => {
    const numbers = loom.wires.map(({ number }) => number);
    expect(numbers).toEqual([...new Set(numbers)].sort((a, b) => a - b));
    // of a plan of which nothing is made the numbers have no gaps
    if (record.wires.length === 0) expect(numbers.at(-1) ?? 0).toBe(numbers.length);
    for (const { label, flags, from, to, cutMetres, metres, ohms } of loom.wires) {
      expect(flags).toEqual([`${label} to ${to.name}`, `${label} to ${from.name}`]);
      expect(cutMetres).toBeGreaterThan(metres);
      expect(ohms).toBeGreaterThan(0);
    }
  });

  it("gives each core of a cable and each screw of a strip to one net", () => {
    const cores = loom.passages.map(({ cableId, core }) => `${cableId} ${core}`);
    expect(new Set(cores).size).toBe(cores.length);
    const screws = loom.passages.flatMap(({ panel, layout }) => [panel.key, layout.key]);
    expect(new Set(screws).size).toBe(screws.length);
    const waysOf = new Map(loom.strips.map(({ id, ways }) => [id, ways]));
    for (const [id, way] of screws.map((key) => key.split("/")))
      expect(Number(way)).toBeLessThanOrEqual(waysOf.get(id!)!);
    const coresOf = new Map(loom.cables.map(({ id, cores }) => [id, cores]));
    for (const { cableId, core } of loom.passages) expect(core).toBeLessThanOrEqual(coresOf.get(cableId)!);
  });

  it("counts a joint for each end of a wire, at the bench or underneath", () => {
    const { bench, underneath } = progressOf(loom.wires);
    expect(bench.of + underneath.of).toBe(2 * loom.wires.length);
  });
});
