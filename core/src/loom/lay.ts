import { Groups } from "../circuit/groups.ts";
import type { Device, Place, Railway } from "../record/schemas.ts";
import type { Net } from "../schematic/nets.ts";
import type { Passage, Run, Wire, WireEnd } from "./wire.ts";

/** Tail from a control or lamp to its panel strip, metres (common practice). */
const PANEL_TAIL = 0.6;
/** Link from one control or lamp to the next, metres (common practice). */
const PANEL_LINK = 0.15;
/** Wire between boards and supplies that stand together under the layout, metres (common practice). */
export const BOARD_LINK = 0.5;

/** A terminal of a net where it stands. */
export interface LaidEnd {
  end: Net["ends"][number];
  device: Device;
  at: WireEnd;
  /** Wire to it from the strip or board under the layout, metres. */
  metres: number;
}

/** A link of a net as it is to be laid. */
export interface Link {
  from: WireEnd;
  to: WireEnd;
  run: Run;
  metres: number;
  turnoutId: string | null;
  core: Wire["core"];
}

/** What a net is laid between. */
export interface Laying {
  ends: readonly LaidEnd[];
  /** Where it passes from the panel to the layout; null when it does not, or does so by wires that are there. */
  passage: Passage | null;
}

/** The links of a net as they would be laid with nothing there yet: a chain at the panel, the passage, a chain under the layout. */
export function plannedLinks(railway: Railway, { ends, passage }: Laying): Link[] {
  const at = (place: Place) => ends.filter(({ device }) => device.place === place);
  const [panel, layout] = [at("panel"), at("layout")];
  const [firstAtPanel, firstUnderneath] = [panel[0], layout[0]];
  const links: Link[] = [];
  const add = (
    from: WireEnd,
    to: WireEnd,
    run: Run,
    metres: number,
    turnoutId: string | null,
    core: Link["core"] = null,
  ) => links.push({ from, to, run, metres, turnoutId, core });
  const chain = (those: readonly LaidEnd[], run: Run, length: (end: LaidEnd) => number) => {
    for (const [index, each] of those.slice(1).entries()) {
      const before = those[index] as LaidEnd;
      add(before.at, each.at, run, length(each), each.end.turnoutId ?? before.end.turnoutId);
    }
  };
  chain(panel, "panel", () => PANEL_LINK);
  if (passage) {
    const owner = firstAtPanel?.end.turnoutId ?? firstUnderneath?.end.turnoutId ?? null;
    const core = { cableId: passage.cableId, cable: passage.cable, number: passage.core };
    if (firstAtPanel) add(firstAtPanel.at, passage.panel, "panel", PANEL_TAIL, owner);
    add(passage.panel, passage.layout, "cable", passage.metres ?? railway.cableMetres, owner, core);
    if (firstUnderneath) add(passage.layout, firstUnderneath.at, "layout", firstUnderneath.metres, owner);
  }
  chain(layout, "layout", ({ metres }) => metres);
  return links;
}

/** Those of planned links that are needed beside links that are there already: in their order, each that joins what was apart. */
export function neededLinks(planned: readonly Link[], there: readonly { from: string; to: string }[]): Link[] {
  if (there.length === 0) return [...planned];
  const joined = new Groups();
  for (const { from, to } of there) joined.join(from, to);
  return planned.filter(({ from, to }) => joined.join(from.key, to.key));
}

/** Length of a wire that is there, when nothing is known of it, metres. @param ends those of its ends that are terminals */
export function usualMetres(railway: Railway, run: Run, ends: readonly LaidEnd[]): number {
  if (run === "cable") return railway.cableMetres;
  if (run === "panel") return ends.length > 1 ? PANEL_LINK : PANEL_TAIL;
  return Math.max(BOARD_LINK, ...ends.map(({ metres }) => metres));
}
