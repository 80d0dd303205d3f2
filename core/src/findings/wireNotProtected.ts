import { typeOf } from "../catalogue/catalogue.ts";
import { flowsForEver, fuseFor, protectionOf } from "../catalogue/protection.ts";
import { bearsOf, loadedTogether } from "../loom/bears.ts";
import { wiresByEnd, wiresByNet } from "../loom/reach.ts";
import type { Wire } from "../loom/wire.ts";
import type { Fitted, Thread } from "../schematic/thread.ts";
import { amps, count } from "../units/format.ts";
import { fuseBehind } from "./remedies.ts";
import { type Look, rule } from "./rule.ts";
import { threadsOn } from "./threadsOf.ts";
import { thicker } from "./wireOverCurrent.ts";

interface Unprotected {
  supply: Fitted;
  trips: number;
  /** The thinnest of its wires. */
  wire: Wire;
  may: number;
  wires: number;
  threads: Thread[];
}

export const wireNotProtected = rule<Unprotected>({
  id: "wire-not-protected",
  stage: "loom",
  column: null,
  severity: "look",
  title: "A supply can burn a wire before it shuts down",
  about:
    "A supply able to deliver many amps through thin wire can burn it: what shuts the supply down, or a fuse or breaker after it, must open below what the thinnest wire bears for ever. A fuse holds half as much again as its size for hours, so it has to be a third below. The rule looks at the wires that hang directly on a supply's terminals.",
  look: unprotected,
  subject: ({ supply }) => supply.device.id,
  where: ({ supply }) => supply.device.label,
  terminals: ({ wire }) => [wire.from.name, wire.to.name],
  turnouts: ({ threads }) => threads,
  why: ({ supply, trips, wire, may, wires }) =>
    `${lasting(supply, trips)}; ${wire.label}, ${wire.gauge}, bears ${amps(may)}${wires > 1 ? `, and ${count(wires - 1, "other")} of its wires no more` : ""}.`,
  remedies: ({ supply, may, wire, trips }, { record, circuitry }) => [
    fuseBehind(record, supply, fuseFor(may) ?? may),
    ...thicker(record, wire.core ? "cableGauge" : "wireGauge", trips, loadedTogether(circuitry.loom, wire)),
  ],
  caution: ({ supply }) => supply.type,
});

/** What flows for ever behind a supply, as the beginning of a sentence. */
function lasting({ device, type }: Fitted, flows: number): string {
  const { fuse, trips } = protectionOf(type);
  return fuse !== null && flows !== trips
    ? `The fuse of ${amps(fuse)} behind ${device.label} holds ${amps(flows)} for ever`
    : `${device.label} shuts down from ${amps(flows)}`;
}

/** The thinnest wires that hang directly on each supply's terminals, where the supply shuts down too late for them. */
function unprotected({ record, circuitry, threads }: Look): Unprotected[] {
  const supplies = record.devices.flatMap((device): Fitted[] => {
    const type = typeOf(record, device);
    return type.family === "supply" && type.figures.tripAmps ? [{ device, type }] : [];
  });
  const wiresOf = wiresByNet(circuitry.loom);
  const endingAt = wiresByEnd(circuitry.loom);
  return supplies.flatMap((supply): Unprotected[] => {
    const { device, type } = supply;
    const hanging = type.terminals.flatMap(({ name }) => endingAt.get(`${device.id}:${name}`) ?? []);
    const trips = flowsForEver(protectionOf(type));
    const thin = [...new Set(hanging.map(({ net }) => net))]
      .flatMap((net) => wiresOf.get(net) ?? [])
      .map((wire) => ({ wire, may: bearsOf(circuitry.loom, wire) }))
      .filter(({ may }) => may < trips * (1 - 1e-9));
    const [first] = thin;
    if (!first) return [];
    const thinnest = thin.reduce((known, each) => (each.may < known.may ? each : known), first);
    return [{ supply, trips, ...thinnest, wires: thin.length, threads: threadsOn(record, threads, device.id) }];
  });
}
