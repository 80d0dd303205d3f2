import { addStripAt, setStrip } from "../loom/hand.ts";
import { type Hanging, hangingOn } from "../loom/hanging.ts";
import { alongOf, isInReach } from "../loom/places.ts";
import type { Strip } from "../record/made.ts";
import type { Thread } from "../schematic/thread.ts";
import { count } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsOfWires } from "./threadsOf.ts";

interface OutOfReach {
  strip: Strip;
  /** What hangs on it, and of that what is beyond its reach, the farthest first. */
  all: Hanging[];
  far: [Hanging, ...Hanging[]];
  threads: Thread[];
}

export const stripOutOfReach = rule<OutOfReach>({
  id: "strip-out-of-reach",
  stage: "loom",
  column: null,
  severity: "look",
  title: "A strip is out of reach",
  about:
    "A strip among the turnouts saves wire and joints as long as each turnout is within reach of it. Wire that goes farther hangs loose, is pulled out sooner, and could as well begin at the boards. Put the strip where it reaches all that hang on it, or give those beyond a strip of their own.",
  look: ({ record, circuitry: { loom }, threads }) =>
    loom.strips.flatMap((strip): OutOfReach[] => {
      if (strip.place !== "layout" || strip.kind !== "screws" || strip.runMetres === null) return [];
      const along = alongOf(strip);
      const all = hangingOn(record, loom, strip);
      const [first, ...more] = all
        .filter(({ run }) => !isInReach(record.railway, along, run))
        .sort((a, b) => Math.abs(b.run - along) - Math.abs(a.run - along));
      if (!first) return [];
      const far = [first, ...more] as const;
      const wires = far.map(({ wire }) => wire);
      return [{ strip, all, far: [...far], threads: threadsOfWires(threads, wires) }];
    }),
  subject: ({ strip }) => strip.id,
  where: ({ strip }) => strip.label,
  terminals: ({ far: [{ wire }] }) => [wire.from.name, wire.to.name],
  turnouts: ({ threads }) => threads,
  why: ({ strip, far: [{ wire, run }, ...more] }) =>
    `${strip.label} is ${alongOf(strip)} m along; ${wire.label} from ${wire.from.name} to ${wire.to.name} goes to ${run} m along${more.length > 0 ? `, and ${count(more.length, "more wire")} too far` : ""}.`,
  remedies: ({ strip, all, far }, { record, circuitry: { loom } }): Remedy[] => {
    const runs = all.map(({ run }) => run);
    const middle = Math.round(((Math.min(...runs) + Math.max(...runs)) / 2) * 100) / 100;
    const isCure = middle > 0 && runs.every((run) => isInReach(record.railway, middle, run));
    const move = {
      label: `Put ${strip.label} ${middle} m along`,
      group: setStrip(record, loom, strip.id, { runMetres: middle }),
    };
    const [{ run }] = far;
    const open = far.filter(({ wire }) => wire.standing === "proposed");
    const beside: Remedy = { label: `One more strip, ${run} m along`, group: null };
    if (open.length < far.length) beside.harm = "Some of the wires are made: they would have to be joined anew, there.";
    else
      beside.group = addStripAt(
        record,
        loom,
        strip,
        run,
        open.map(({ wire }) => wire.net),
      );
    // what is screwed in place is not moved as easily
    return isCure ? (strip.fixedAt === null ? [move, beside] : [beside, move]) : [beside];
  },
});
