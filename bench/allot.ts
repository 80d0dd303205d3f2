// Allotment: boards and outputs for a railway of 400 turnouts with none, and how near the best it comes.
import { acceptProposal, allot, Draft, edit, type RailwayRecord, usualOptions } from "@alderman/core";
import { pack } from "../core/src/allot/pack.ts";
import { seeded } from "../core/testing/networks.ts";
import { line, measure } from "./measure.ts";

/** The railway with its motors, without anything that drives them. */
function undriven(record: RailwayRecord): RailwayRecord {
  const draft = new Draft(record);
  draft.unassign((a) => a.role === "driver" || a.role === "control" || a.role === "address" || a.role === "lamp");
  const kept = new Set(record.assignments.flatMap((a) => (a.role === "motor" ? [a.deviceId] : [])));
  for (const { id } of record.devices) {
    if (kept.has(id)) continue;
    draft.unassign((a) => Object.values(a).includes(id));
    draft.remove("device", id);
  }
  return edit(record, draft.edits).record;
}

export function benchAllot(club: RailwayRecord): void {
  const record = undriven(club);
  const coils = { ...usualOptions(record).boards, "twin-coil": "coil-decoder-4" };
  const options = { ...usualOptions(record), boards: coils };
  let told = 0;
  const proposal = allot(record, options, () => told++);
  const took = measure(3, () => void allot(record, options));
  line(
    `Allotment, ${proposal.places.length} rows of 400 turnouts: ${proposal.boards.length} boards, ${proposal.away} away`,
    `${took.toFixed(0)} ms, told ${told} times how far it is`,
  );
  const all = new Set(proposal.places.map(({ turnoutId }) => turnoutId));
  const accept = measure(1, () => void acceptProposal(record, proposal, all));
  line("Allotment, the edits that accept it all", `${accept.toFixed(0)} ms`);

  const random = seeded(12);
  const items = Array.from({ length: 12 }, () => ({
    size: random() < 0.2 ? 2 : 1,
    amps: 0.015,
    zone: "abcd"[Math.floor(random() * 4)] ?? "",
  }));
  const fresh = { outputs: 4, amps: 0.16, zone: null };
  const best = measure(5, () => void pack(items, [], fresh));
  line("Allotment, the best there is for twelve turnouts", `${best.toFixed(1)} ms`);
}
