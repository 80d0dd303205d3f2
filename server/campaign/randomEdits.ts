import { type Edit, putEdit, type RailwayRecord, removeEdit } from "@alderman/core";

/** Labels that zones of these edits have: few, so that they change hands. */
const LABELS = 60;

/** Some zones put, written anew under labels of others, or taken away: a group that keeps all rules. */
export function randomZones(record: RailwayRecord, random: () => number): Edit[] {
  const edits: Edit[] = [];
  const labels = new Map(record.zones.map(({ id, label }) => [id, label]));
  for (let count = 1 + Math.floor(random() * 12); count > 0; count--) {
    const id = `z${Math.floor(random() * LABELS)}`;
    if (random() < 0.3 && labels.has(id)) {
      labels.delete(id);
      edits.push(removeEdit("zone", id));
      continue;
    }
    const taken = new Set([...labels].flatMap(([of, label]) => (of === id ? [] : [label])));
    const free = Array.from({ length: LABELS + 1 }, (_, number) => `L${number}`).filter((label) => !taken.has(label));
    const label = free[Math.floor(random() * free.length)] ?? "L0";
    labels.set(id, label);
    const name = "x".repeat(Math.floor(random() * 60));
    edits.push(putEdit("zone", { id, label, name, order: count, commons: null, plasticJoints: 0 }));
  }
  return edits;
}
