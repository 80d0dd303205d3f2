import { laidCable } from "../loom/cables.ts";
import { CABLE_COLOUR_WORDS } from "../loom/colours.ts";
import type { Wire } from "../loom/wire.ts";
import { needsOf, type Plan, wireThing } from "../stock/needs.ts";
import { stockLines } from "../stock/stock.ts";
import { count } from "../units/format.ts";
import type { Gauge } from "../units/gauge.ts";
import { WIRE_COLOURS, type WireColour } from "../units/wireColours.ts";
import { type CuttingPlan, cuttingPlan, type Reel } from "./cutting.ts";
import { column, heading, type Paper, type PaperPart, table } from "./paper.ts";

/** Wires of one colour and gauge, and from which reels they are cut. */
export interface CutGroup {
  colour: WireColour;
  gauge: Gauge;
  wires: Wire[];
  plan: CuttingPlan;
}

/**
 * Single wires by colour and gauge with the reels to cut them from.
 * @param wires cores are left out: they are cut with their cable
 */
export function cutGroups(plan: Plan, wires: readonly Wire[]): CutGroup[] {
  const { railway } = plan.record;
  const shelf = new Map(stockLines(plan.record, needsOf(plan)).map(({ thing, have }) => [thing, have]));
  const groups = new Map<string, Wire[]>();
  for (const wire of wires) {
    if (wire.core) continue;
    const { thing } = wireThing(wire);
    const group = groups.get(thing);
    if (group) group.push(wire);
    else groups.set(thing, [wire]);
  }
  return [...groups]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .flatMap(([thing, wires]): CutGroup[] => {
      const [first] = wires;
      if (!first) return [];
      const pieces = wires.map(({ label, cutMetres }) => ({ name: label, millimetres: millimetres(cutMetres) }));
      // what is left of a reel on the shelf is used before a new one is begun
      const have = millimetres(shelf.get(thing) ?? 0);
      const reel = millimetres(railway.reelMetres);
      const offcut = have % reel;
      const { colour, gauge } = first;
      return [{ colour, gauge, wires, plan: cuttingPlan(pieces, reel, offcut > 0 ? [offcut] : []) }];
    });
}

function millimetres(metres: number): number {
  return Math.round(metres * 1000);
}

/** What is to be cut, colour by colour, in the order in which it comes off each reel; and cables as wholes. */
export function cutList(whole: Plan, wires: readonly Wire[]): Paper {
  const { record, loom } = whole;
  const groups = cutGroups(whole, wires);
  const ids = new Set(wires.flatMap(({ core }) => core?.cableId ?? []));
  const cables = loom.cables.filter(({ id }) => ids.has(id));
  const { railway } = record;
  const parts: PaperPart[] = [heading("To cut, in all"), sums(groups)];
  for (const { colour, gauge, plan } of groups) {
    parts.push(heading(`${WIRE_COLOURS[colour]} (${colour}), ${gauge}`, wordsOf(plan)));
    for (const [index, reel] of plan.reels.entries()) parts.push(reelTable(`${colour} ${gauge} ${index + 1}`, reel));
    if (plan.tooLong.length > 0) {
      const names = plan.tooLong.map(({ name, millimetres }) => `${name} (${millimetres} mm)`).join(", ");
      parts.push({
        kind: "text",
        text: `Longer than a reel of ${railway.reelMetres} m: ${names}. Buy a longer reel, or join two with a splice.`,
      });
    }
  }
  if (cables.length > 0) {
    const rows = cables.map((cable) => {
      const { gauge, colours, cutMetres } = laidCable(railway, loom, cable);
      return [cable.label, cable.cores, gauge, CABLE_COLOUR_WORDS[colours], millimetres(cutMetres), false];
    });
    const columns = [
      ...[
        column("Cable", "mono"),
        column("Cores", "figures"),
        column("Gauge", "mono"),
        column("Kind"),
        column("Cut mm", "figures"),
      ],
      column("Cut", "box"),
    ];
    parts.push(heading("Cables"), table("cables", columns, rows));
  }
  return { id: "cut-list", title: "Cut list", parts };
}

function sums(groups: readonly CutGroup[]): PaperPart {
  const columns = [
    ...[column("Colour", "colour"), column("Wire"), column("Pieces", "figures"), column("Metres", "figures")],
    ...[column("Reels", "figures"), column("Left over mm", "figures")],
  ];
  const rows = groups.map(({ colour, gauge, wires, plan }) => {
    const metres = wires.reduce((sum, { cutMetres }) => sum + cutMetres, 0);
    const rest = plan.reels.reduce((sum, reel) => sum + reel.rest, 0);
    return [colour, `${WIRE_COLOURS[colour]}, ${gauge}`, wires.length, metres.toFixed(2), plan.reels.length, rest];
  });
  return table("sums", columns, rows);
}

function wordsOf({ reels, isLeast }: CuttingPlan): string {
  return `${count(reels.length, "reel")}${isLeast ? ", which is the least" : ""}`;
}

function reelTable(name: string, { millimetres, pieces }: Reel): PaperPart {
  const columns = [
    column("Wire", "mono"),
    column("Cut mm", "figures"),
    column("Left on the reel mm", "figures"),
    column("Cut", "box"),
  ];
  let left = millimetres;
  const rows = pieces.map(({ name, millimetres }) => {
    left -= millimetres;
    return [name, millimetres, left, false];
  });
  return table(name, columns, [[`reel of ${millimetres} mm`, "", millimetres, ""], ...rows]);
}
