import type { Derived } from "../derive.ts";
import type { TestStep } from "../proving/testSteps.ts";
import type { Standing } from "../proving/verdict.ts";
import type { Thread } from "../schematic/thread.ts";
import { milliamps, ohms, volts } from "../units/format.ts";
import { column, heading, type Paper, type PaperPart, table } from "./paper.ts";

const COLUMNS = [
  ...[column("Step", "text", 2.4), column("How", "text", 5), column("Red", "mono", 1.6), column("Black", "mono", 1.6)],
  ...[column("Expect", "mono", 1.8), column("Found", "text", 1.4), column("Good", "box")],
];

/** Test sheets of turnouts, to be filled in with a pen; what has passed already is ticked. */
export function testSheets(derived: Derived, threads: readonly Thread[]): Paper {
  const parts = threads.flatMap((thread): PaperPart[] => {
    const steps = derived.sheet(thread.turnout.id);
    if (steps.length === 0) return [];
    const rows = steps.map(({ step, standing }) => [
      ...[step.title, step.how, step.probes?.redName ?? "", step.probes?.blackName ?? "", expected(step)],
      ...[found(step, standing), standing.state === "passed"],
    ]);
    return [
      heading(`Turnout ${thread.label}`, thread.turnout.name, true),
      table(`test ${thread.label}`, COLUMNS, rows),
    ];
  });
  return { id: "test-sheets", title: "Test sheets", parts: firstWithoutBreak(parts) };
}

function firstWithoutBreak([first, ...rest]: PaperPart[]): PaperPart[] {
  return first?.kind === "heading" ? [{ ...first, page: false }, ...rest] : [];
}

function expected({ unit, expected, wanted, low, high }: TestStep): string {
  if (wanted !== null) return wanted;
  if (unit !== "V" && unit !== "ohm") return "";
  if (expected === null || low === null || high === null) return "open";
  const write = unit === "V" ? volts : ohms;
  // the tolerance around nothing goes to both sides, but what is asked for is nothing
  const from = write(expected >= 0 ? Math.max(low, 0) : low);
  const to = write(expected < 0 ? Math.min(high, 0) : high);
  const [figure = from, unitOf] = from.split(" ");
  return to.endsWith(` ${unitOf}`) ? `${figure} to ${to}` : `${from} to ${to}`;
}

/** What was found when a step passed. */
function found({ unit }: TestStep, { state, result }: Standing): string {
  if (state !== "passed" || !result) return "";
  if (result.seen !== null) return result.seen;
  if (result.read === null) return "open";
  return unit === "V" ? volts(result.read) : unit === "ohm" ? ohms(result.read) : milliamps(result.read);
}
