import { type Block, blocksOnLine } from "../line/blocks.ts";
import { isMarked } from "../line/marks.ts";
import { rule } from "./rule.ts";

interface Bridged {
  block: Block;
  vehicleMetres: number;
}

/** A long coach between its outer axles and a little more, metres of the original; common practice. */
const VEHICLE_METRES = 26.4;

export const blockBridged = rule<Bridged>({
  id: "block-bridged",
  stage: "line",
  column: null,
  severity: "look",
  title: "A block is shorter than a long vehicle",
  about:
    "A vehicle whose wheels pick up current at both ends joins the rails that it stands on. Where it is longer than a block, it bridges the gaps at both of its edges, and the blocks on either side are one for as long: a train is seen where it is not, and a section that is turned round meets one that is not.",
  look: ({ record }) => {
    if (!isMarked(record, "block")) return [];
    const vehicleMetres = VEHICLE_METRES / record.railway.scale;
    return blocksOnLine(record).blocks.flatMap((block): Bridged[] => {
      const between = block.borders.filter(({ before, after }) => before !== after).length;
      return block.name !== null && between > 1 && block.metres < vehicleMetres ? [{ block, vehicleMetres }] : [];
    });
  },
  subject: ({ block }) => block.id,
  where: ({ block }) => block.name ?? "",
  turnouts: () => [],
  why: ({ block, vehicleMetres }) =>
    `${block.name} is ${block.metres.toFixed(2)} m between its gaps; a long coach is ${vehicleMetres.toFixed(2)} m in this scale.`,
  remedies: () => [],
});
