import { type Gives, traitsOf } from "../../catalogue/traits.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import type { Purpose } from "../../record/purposes.ts";
import type { Joiner } from "../nets.ts";
import type { Fitted } from "../thread.ts";

/** The two terminals that a supply or a board has for power, plus first. */
export function powerTerminals({ type }: Fitted): [string, string] {
  const [plus, minus] = traitsOf(type).power;
  // the coils of a relay board have a supply terminal of their own
  return [type.hears === "pins" ? "RV" : plus, minus];
}

/** Whether a board takes its power, too, from the track bus that brings its commands. */
export function isFedByTrack(board: Fitted, supply: Fitted | null): boolean {
  return traitsOf(supply?.type).gives === "track" && board.type.hears === "track";
}

/** Two wires from a supply to what it feeds: a board, a frog's rails, a touch button. */
export function supplyToBoard(supply: Fitted, board: Fitted, joiner: Joiner): void {
  if (isFedByTrack(board, supply)) {
    trackToDecoder(supply, board, joiner);
    return;
  }
  const [from, fromReturn] = powerTerminals(supply);
  const [to, toReturn] = powerTerminals(board);
  const [plus, minus] = PURPOSES_OF[traitsOf(supply.type).gives ?? "dc"] ?? ["dc-plus", "dc-zero"];
  joinPair(supply, [from, fromReturn], board, [to, toReturn], [plus, minus], joiner);
}

const PURPOSES_OF: Partial<Record<Gives, [Purpose, Purpose]>> = {
  ac: ["ac-1", "ac-2"],
  track: ["track-j", "track-k"],
};

/** Two wires from the track bus to a decoder: they bring its commands, whatever feeds it. */
export function trackToDecoder(track: Fitted, decoder: Fitted, joiner: Joiner): void {
  joinPair(track, ["J", "K"], decoder, ["J", "K"], ["track-j", "track-k"], joiner);
}

/** Three wires from node to node: the two of the control bus and its common 0 V. */
export function busToNode(bus: Fitted, node: Fitted, joiner: Joiner): void {
  joinPair(bus, ["H", "L"], node, ["H", "L"], ["bus-high", "bus-low"], joiner);
  joiner.join("dc-zero", null, [at(bus, "0"), at(node, "−")]);
}

/** 5 V, 0 V and a pin for each relay, from a controller to a relay board. @param first pin of the board's first relay */
export function pinsToRelays(controller: Fitted, board: Fitted, first: number, joiner: Joiner): void {
  joinPair(controller, ["5V", "−"], board, ["+", "−"], ["dc-plus", "dc-zero"], joiner);
  for (let relay = 1; relay <= board.type.outputs; relay++) {
    joiner.join("pin", null, [at(controller, `P${first + relay - 1}`), at(board, `IN${relay}`)]);
  }
}

/** Pin of a controller that each of its relay boards begins at, in the order in which they were joined to it. */
export function firstPins(record: RailwayRecord, fitted: (id: string) => Fitted): Map<string, number> {
  const next = new Map<string, number>();
  const first = new Map<string, number>();
  for (const assignment of record.assignments) {
    if (assignment.role !== "commands") continue;
    const { deviceId, toDeviceId } = assignment;
    const pin = next.get(deviceId) ?? 1;
    first.set(toDeviceId, pin);
    next.set(deviceId, pin + fitted(toDeviceId).type.outputs);
  }
  return first;
}

function joinPair(
  from: Fitted,
  [a, b]: [string, string],
  to: Fitted,
  [toA, toB]: [string, string],
  [first, second]: [Purpose, Purpose],
  joiner: Joiner,
): void {
  joiner.join(first, null, [at(from, a), at(to, toA)]);
  joiner.join(second, null, [at(from, b), at(to, toB)]);
}

function at({ device }: Fitted, terminal: string) {
  return { deviceId: device.id, terminal };
}
