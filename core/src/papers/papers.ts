import type { Derived } from "../derive.ts";
import type { Wire } from "../loom/wire.ts";
import { WIRE_STEPS } from "../record/made.ts";
import type { Thread } from "../schematic/thread.ts";
import { buyList } from "./buyList.ts";
import { cutList } from "./cutList.ts";
import { column, type Paper, type PaperCell, table } from "./paper.ts";
import { routeSheets } from "./routeSheets.ts";
import { cableSheets, connectionSheets, legendCard, stripCards } from "./sheets.ts";
import { testSheets } from "./testSheets.ts";
import { type LabelChoice, wireLabels } from "./wireLabels.ts";

/** What is to be on the papers. */
export interface PaperOptions {
  /** Leaders of the turnouts whose wires and sheets are wanted; null for all, and for what belongs to none. */
  turnouts: readonly string[] | null;
  /** Leave out of labels and cut list what is labelled or cut already. */
  openOnly: boolean;
  labels: LabelChoice;
}

/** A paper that can be made. */
interface PaperKind {
  id: string;
  title: string;
  about: string;
  make: (derived: Derived, options: PaperOptions) => Paper;
}

/** The papers of the loom, in the order of the work. */
export const PAPERS: readonly PaperKind[] = [
  {
    ...{ id: "buy-list", title: "Buy list", about: "needed, on the shelf, to buy, prices; what each turnout lacks" },
    make: (derived) => buyList(derived),
  },
  {
    ...{ id: "cut-list", title: "Cut list", about: "by colour and gauge, reel by reel" },
    make: (derived, options) =>
      cutList(
        derived,
        wiresOf(derived, options).filter(({ fact }) => !options.openOnly || !fact?.cutAt),
      ),
  },
  {
    ...{ id: "labels", title: "Wire labels", about: "both ends of each wire, on sheets of labels" },
    make: (derived, options) => {
      const wires = wiresOf(derived, options).filter(({ fact }) => !options.openOnly || !fact?.labelledAt);
      return wireLabels(wires, options.labels);
    },
  },
  {
    ...{ id: "strip-cards", title: "Strip cards", about: "what is at each way, to hang beside the strip" },
    make: (derived) => stripCards(derived),
  },
  {
    ...{ id: "cable-sheets", title: "Cable sheets", about: "where each core goes" },
    make: (derived) => cableSheets(derived),
  },
  {
    ...{ id: "connection-sheets", title: "Connection sheets", about: "turnout by turnout, with boxes for the work" },
    make: (derived, options) => connectionSheets(derived, threadsOf(derived, options), options.turnouts === null),
  },
  {
    ...{
      id: "legend-card",
      title: "Card for the panel's back",
      about: "each control, its terminals, wires and addresses",
    },
    make: (derived) => legendCard(derived),
  },
  {
    ...{ id: "test-sheets", title: "Test sheets", about: "what to measure, what to expect, a box to tick" },
    make: (derived, options) => testSheets(derived, threadsOf(derived, options)),
  },
  {
    ...{
      id: "route-sheets",
      title: "Route sheets",
      about: "routes, and diode boards at true scale with their order of soldering and tests",
    },
    make: (derived) => routeSheets(derived),
  },
  {
    ...{ id: "wire-schedule", title: "Wire schedule", about: "every wire in a row" },
    make: ({ loom }) => wireSchedule(loom.wires),
  },
];

function threadsOf({ schematic }: Derived, { turnouts }: PaperOptions): Thread[] {
  const wanted = turnouts && new Set(turnouts);
  return schematic.threads.filter(({ turnout }) => !wanted || wanted.has(turnout.id));
}

function wiresOf(derived: Derived, options: PaperOptions): Wire[] {
  const { loom } = derived;
  if (options.turnouts === null) return loom.wires;
  const ids = new Set(
    threadsOf(derived, options).flatMap(({ turnout, followers }) => [turnout, ...followers].map(({ id }) => id)),
  );
  return loom.wires.filter(({ turnoutId }) => turnoutId !== null && ids.has(turnoutId));
}

function wireSchedule(wires: readonly Wire[]): Paper {
  const columns = [
    ...[column("Wire", "mono", 1), column("From", "mono"), column("To", "mono"), column("Colour", "colour")],
    ...[column("Gauge", "mono", 1.5), column("Cut mm", "figures"), column("Core", "mono", 1)],
    column("Cut Flags From To Test", "boxes"),
  ];
  const rows = wires.map(({ label, from, to, colour, gauge, cutMetres, core, fact }): PaperCell[] => [
    ...[label, from.name, to.name, colour, gauge, Math.round(cutMetres * 1000)],
    ...[core ? `${core.cable}.${core.number}` : "", WIRE_STEPS.map((step) => Boolean(fact?.[step]))],
  ]);
  return { id: "wire-schedule", title: "Wire schedule", parts: [table("wires", columns, rows)] };
}
