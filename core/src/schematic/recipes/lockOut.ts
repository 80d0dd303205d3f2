import { traitsOf } from "../../catalogue/traits.ts";
import { assignmentsOfRole, feederOf } from "../../record/find.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import type { Purpose } from "../../record/purposes.ts";
import type { End, Joiner } from "../nets.ts";
import { fitted, supplyOf, type ThreadControl } from "../thread.ts";
import { powerTerminals } from "./supplyToBoard.ts";

/** Whether a control's common goes through a contact that locks it out: a key switch, or a relay that drops out when free. */
export function isCut({ lock }: ThreadControl): boolean {
  return lock !== null && (lock.type.family === "lock" || lock.way !== null);
}

/**
 * Joins what feeds a control to its common, through the contact that locks it out when there is one.
 * @param ends the feed and the common (or the ends that take its place on a toggle of two poles), as the wire visits them
 */
export function joinThroughLock(
  control: ThreadControl,
  joiner: Joiner,
  purpose: Purpose,
  turnoutId: string,
  feed: End,
  ends: readonly End[],
): void {
  const { lock } = control;
  if (!lock || !isCut(control)) {
    joiner.join(purpose, turnoutId, ends);
    return;
  }
  const [into, out] = lock.way === null ? ["C", "N"] : [`S${lock.way}c`, `S${lock.way}n`];
  const at = (terminal: string): End => ({ deviceId: lock.device.id, terminal });
  joiner.join(purpose, turnoutId, [feed, at(into)]);
  joiner.join("lock", turnoutId, [at(out), ...ends.filter((end) => end !== feed)]);
}

/** A key switch that picks up relays lies between their supply and their coils. */
export function keyToRelays(record: RailwayRecord, joiner: Joiner): void {
  for (const relayId of new Set(assignmentsOfRole(record, "lock").map(({ deviceId }) => deviceId))) {
    const relay = fitted(record, relayId);
    if (traitsOf(relay.type).relay !== "held") continue;
    const keyId = feederOf(record, relayId, "commands");
    const supply = supplyOf(record, relayId);
    if (keyId === null || !supply) continue;
    const [plus, minus] = powerTerminals(supply);
    joiner.join("dc-plus", null, [
      { deviceId: supply.device.id, terminal: plus },
      { deviceId: keyId, terminal: "C" },
    ]);
    joiner.join("lock", null, [
      { deviceId: keyId, terminal: "N" },
      { deviceId: relayId, terminal: "A1" },
    ]);
    joiner.join("dc-zero", null, [
      { deviceId: supply.device.id, terminal: minus },
      { deviceId: relayId, terminal: "A2" },
    ]);
  }
}
