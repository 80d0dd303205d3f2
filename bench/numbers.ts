// Addresses of the whole range: 255 boards of eight outputs, looked at, renumbered, and put in the order of programming.
import { addressMap, Draft, emptyRecord, programmingOrder, type RailwayRecord, renumber } from "@alderman/core";
import { addressList } from "../core/src/numbers/addressList.ts";
import { line, measure } from "./measure.ts";

const BOARDS = 255;
const OUTPUTS = 8;

/** A railway whose decoders fill the whole range, each output to have the address that is as far from its end as its own from the beginning. */
function full(): RailwayRecord {
  const draft = new Draft(emptyRecord("Full"));
  for (let board = 0; board < BOARDS; board++) {
    const device = draft.addDevice("stall-decoder-8", "D", "layout");
    for (let way = 1; way <= OUTPUTS; way++) {
      const address = BOARDS * OUTPUTS - board * OUTPUTS - way + 1;
      draft.assign("address", { deviceId: device.id, way, address });
      const at = "2026-05-12T20:14:00.000Z";
      const answer = { id: `${device.id}-${way}`, deviceId: device.id, way, address: board * OUTPUTS + way };
      draft.put("answer", { ...answer, how: "programmed", seen: "", at });
    }
  }
  return draft.record;
}

export function benchNumbers(): void {
  const record = full();
  const outputs = addressList(record, []);
  const listed = measure(5, () => void addressList(record, []));
  const looked = measure(5, () => void addressMap(record, outputs));
  line(
    `Addresses, all ${outputs.length} given: listed, held against each other`,
    `${listed.toFixed(0)} ms, ${looked.toFixed(0)} ms`,
  );
  const labels = new Set(outputs.map(({ label }) => label));
  const given = measure(3, () => void renumber(record, outputs, labels, { by: "board", first: 1 }));
  line("Addresses, all of them given out anew by board", `${given.toFixed(0)} ms`);
  // no number is free: the last of a ring is met once
  const few = outputs.slice(0, 1000);
  const ordered = measure(3, () => void programmingOrder(record, few));
  line(`Addresses, the order in which ${few.length} outputs are programmed`, `${ordered.toFixed(0)} ms`);
}
