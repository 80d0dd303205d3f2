import type { DeviceType } from "../catalogue/deviceType.ts";
import type { Loom } from "../loom/wire.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { TestResult } from "../record/schemas.ts";
import { joinsOnBoard } from "../routes/boards.ts";
import { controlsOf, type Fitted, supplyOf, type Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";

/**
 * Everything a test of a thread depends on, by name: its devices with type and figures, how they are assigned, and each
 * wire laid for it, by its identifier: its number may change, and what it joins shows where it was moved.
 */
export function chainOf(record: RailwayRecord, loom: Loom, thread: Thread): Record<string, string> {
  const chain: Record<string, string> = {};
  const add = (fitted: Fitted | null, more = "") => {
    if (fitted) chain[fitted.device.label] = `${describe(fitted.type)}${more}`.slice(0, 200);
  };
  for (const motor of thread.motors) {
    const { crossed, opposite } = motor.assignment;
    add(motor, `${crossed ? "; leads crossed" : ""}${opposite ? "; mounted the other way round" : ""}`);
    if (!motor.driver) continue;
    add(motor.driver);
    const way = motor.driver.way === null ? "" : `-${motor.driver.way}`;
    chain[`driver of ${motor.device.label}`] = `${motor.driver.device.label}${way}`;
    add(supplyOf(record, motor.driver.device.id));
    if (motor.unit) add(supplyOf(record, motor.unit.device.id));
    for (const { from, to, with: by, turned } of joinsOnBoard(record, motor.driver.device.id))
      if (to.replace(/[NR]$/, "") === String(motor.driver.way))
        chain[`${motor.driver.device.label}, ${from} to ${to}`] = `${by}${turned ? ", turned round" : ""}`;
  }
  for (const control of controlsOf(thread)) {
    const { to, inverse, follows } = control.assignment;
    add(control, `${inverse ? "; inverse" : ""}${follows ? "; followed" : ""}${to ? `; asks for ${to}` : ""}`);
    add(control.reader);
    add(control.lock);
  }
  for (const frog of thread.frogs) {
    const { way, crossed } = frog.assignment;
    if (frog.from?.type.family !== "motor") add(frog.from);
    const from = frog.from ? `${frog.from.device.label}${way === null ? "" : `-S${way}`}` : "nothing";
    chain[`frog of ${frog.turnout.label}`] = `${from}${crossed ? "; rails exchanged" : ""}`;
  }
  for (const lamp of thread.lamps) {
    const { crossed, coveredAt } = lamp.assignment;
    add(lamp, `${crossed ? "; leads crossed" : ""}${coveredAt ? `; covered at ${coveredAt}` : ""}`);
    add(lamp.resistor);
    if (lamp.from.type.family !== "motor") add(lamp.from);
    add(supplyOf(record, lamp.device.id));
  }
  const ids = new Set([thread.turnout.id, ...thread.followers.map((turnout) => turnout.id)]);
  for (const wire of loom.wires) {
    if (wire.turnoutId && ids.has(wire.turnoutId)) {
      chain[`wire ${wire.id}`] =
        `${wire.from.name} to ${wire.to.name}: ${wire.gauge}, ${wire.metres} m, ${wire.colour}`;
    }
  }
  return chain;
}

/** What a test is held against now. */
interface Now {
  chain: Readonly<Record<string, string>>;
  expected: number | null;
  low: number | null;
  high: number | null;
}

/**
 * What has changed since a test, in words; empty when the test still holds. Besides its own chain a test depends on all
 * that is joined to it, which shows in what should be read now.
 */
export function changedSince(test: TestResult, now: Now): string[] {
  // tests of earlier versions knew wires by their ends
  const isOld = Object.keys(test.chain).some((name) => BY_ENDS.test(name));
  const chain = isOld ? byEnds(now.chain) : now.chain;
  const names = new Set([...Object.keys(test.chain), ...Object.keys(chain)]);
  const changes = [...names].flatMap((name) => {
    const before = test.chain[name];
    const after = chain[name];
    if (before === after) return [];
    if (before === undefined) return [`${nameOf(name, after)} is new`];
    if (after === undefined) return [`${nameOf(name, before)} is gone`];
    const [was, is] = [nameOf(name, before), nameOf(name, after)];
    return [was === is ? `${was} was changed` : `${was} is ${is.replace("wire ", "")} now`];
  });
  return changes.length === 0 && expectsOtherwise(test, now) ? ["what should be read has changed"] : changes;
}

const WIRE = /^wire (w\d+(?:-\d+)?)$/;
const BY_ENDS = /^wire .+ to .+$/;

/** What a link of a chain is called: a wire by what it joins. */
function nameOf(name: string, what = ""): string {
  return WIRE.test(name) ? `wire ${what.split(": ")[0]}` : name;
}

function byEnds(chain: Readonly<Record<string, string>>): Record<string, string> {
  return Object.fromEntries(
    Object.entries(chain).map(([name, what]) => {
      const [ends = "", ...rest] = what.split(": ");
      return WIRE.test(name) ? [`wire ${ends}`, rest.join(": ")] : [name, what];
    }),
  );
}

function expectsOtherwise(test: TestResult, { expected, low, high }: Now): boolean {
  if (test.unit === "seen") return false;
  if (expected === null || test.expected === null || low === null || high === null) return expected !== test.expected;
  return test.expected < low || test.expected > high;
}

/** One sentence about what has changed. */
export function changeWords(changes: readonly string[]): string {
  const shown = changes.slice(0, 2);
  const more = changes.length - shown.length;
  const words = `${list(more > 0 ? [...shown, `${more} more`] : shown)} since.`;
  return words.charAt(0).toUpperCase() + words.slice(1);
}

function describe(type: DeviceType): string {
  const own = Object.entries(type.figures).filter(([, figure]) => figure.origin === "own");
  return [type.name, ...own.map(([name, figure]) => `${name} ${figure.value}`)].join("; ");
}
