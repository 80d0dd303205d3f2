import type { StrandLink } from "./links.ts";
import type { Core, Shelf } from "./shelf.ts";
import type { Strand } from "./strands.ts";
import { linkOf, screwIdOf, type WireEnd } from "./wire.ts";

/** Links of a strand that are not settled yet. */
interface Open {
  strand: Strand;
  links: StrandLink[];
}

/** A link that may be a core of a motor's tail. */
interface Wish {
  links: StrandLink[];
  index: number;
  motorId: string;
  zoneId: string | null;
}

/**
 * Makes links from strips and boards to motors cores of the motors' tails, where they have them: first those whose cores
 * are proposed already, so that they keep them, then the others. What is proposed as a single wire stays one.
 */
export function fitTails(open: readonly Open[], shelf: Shelf): void {
  if (!shelf.hasTails) return;
  const wishes = open.flatMap((one) => wishesOf(one, shelf));
  const left = wishes.filter(({ links, index }) => {
    const { from, to } = links[index] as StrandLink;
    const core = shelf.heldCore(from.key, to.key);
    if (core) links[index] = inTail(links[index] as StrandLink, core, shelf);
    return core === null;
  });
  for (const { links, index, motorId, zoneId } of left) {
    const core = shelf.tailCore(motorId, zoneId);
    if (core) links[index] = inTail(links[index] as StrandLink, core, shelf);
  }
}

function wishesOf({ strand: { ends, bundles }, links }: Open, shelf: Shelf): Wish[] {
  return links.flatMap(({ from, to, run, isTrunk, fact }, index): Wish[] => {
    if (fact || isTrunk || run !== "layout") return [];
    const motor = motorOf(to, shelf) ?? motorOf(from, shelf);
    const near = motor?.end === to ? from : to;
    if (!motor || !isStart(near)) return [];
    const name = linkOf(from.key, to.key, null);
    if (bundles.some(({ claims }) => claims.proposed.has(name))) return [];
    const zoneId = ends.find(({ at }) => at.key === motor.end.key)?.zoneId ?? null;
    return [{ links, index, motorId: motor.id, zoneId }];
  });

  /** Whether a tail may begin at an end: at a screw of a strip, or at a board. */
  function isStart({ key, of }: WireEnd): boolean {
    if (!of) return shelf.strip(screwIdOf(key))?.kind === "screws";
    return ends.find(({ at }) => at.key === key)?.turnoutId === null;
  }
}

function motorOf(end: WireEnd, shelf: Shelf): { end: WireEnd; id: string } | undefined {
  return end.of && shelf.isMotor(end.of.deviceId) ? { end, id: end.of.deviceId } : undefined;
}

/** A link as a core of a tail, which is joined to its motor at the bench. */
function inTail(link: StrandLink, { cable: { id, label }, core }: Core, shelf: Shelf): StrandLink {
  const atMotor = (end: WireEnd): WireEnd => (motorOf(end, shelf) ? { ...end, work: "bench" } : end);
  return {
    ...link,
    from: atMotor(link.from),
    to: atMotor(link.to),
    core: { cableId: id, cable: label, number: core },
  };
}
