import { freshId, type MeterReading, ownOf, putEdit, type Reading } from "@alderman/core";
import { useLeader } from "../derivation/hooks.ts";
import { useRecord } from "../session/hooks.ts";
import { useEdit } from "../session/useEdit.ts";
import { useAppSelector } from "../store/store.ts";
import { WRITE } from "./writeValue.ts";

/** Keeps what the meter said between the probes, with the state that was looked at and the time. */
export function useKeepReading(): (reading: MeterReading, read: number) => void {
  const { red, black, asked, moment } = useAppSelector((state) => state.view);
  const record = useRecord();
  const leader = useLeader();
  const act = useEdit();
  return (reading, read) => {
    if (!record || !red || !black) return;
    const { range, value, tolerance } = reading;
    const at = new Date().toISOString();
    const known = value !== null;
    const kept: Reading = {
      id: freshId(record, "reading", `${red.name}-${black.name}`),
      red: red.key,
      black: black.key,
      redName: red.name,
      blackName: black.name,
      range,
      turnoutId: leader,
      position: leader ? (ownOf(asked, leader) ?? "N") : null,
      moment: leader ? moment : "rest",
      expected: value,
      low: known ? value - tolerance : null,
      high: known ? value + tolerance : null,
      read,
      agrees: known && Math.abs(read - value) <= tolerance,
      at,
    };
    act({ words: `Read ${red.name} to ${black.name}: ${WRITE[range](read)}`, edits: [putEdit("reading", kept)] });
  };
}
