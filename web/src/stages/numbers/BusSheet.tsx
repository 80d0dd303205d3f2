import { type BusDay, type BusStart, count, list, MOST_METRES, MOST_NODES } from "@alderman/core";
import { Fragment } from "react";
import { Sheet } from "../../kit/Sheet.tsx";

/** What the bus has to carry, against what it can. */
export function BusSheet({ day, start }: { day: BusDay; start: BusStart }) {
  const { nodes, producers, consumers, frames, milliseconds, framesPerSecond } = day;
  const rows = [
    ["Nodes", `${nodes} of ${MOST_NODES} that one segment bears`],
    ["Length", `up to ${MOST_METRES} m, 120 ohm between H and L at both ends, 0 V common to all nodes`],
    ["Events", `produced at ${count(producers, "input")}, consumed by ${count(consumers, "output")}, lamps among them`],
    ["Start of day", `${frames} frames, each asks and is answered: ${milliseconds.toFixed(1)} ms at worst`],
    ["Who asks then", askWords(start)],
    ["Who answers", answerWords(start)],
    ["Most at 125 kbit/s", `${Math.floor(framesPerSecond)} frames of 160 bits in a second (ISO 11898)`],
  ];
  return (
    <Sheet title="What the bus carries">
      <dl className="grid grid-cols-[140px_minmax(0,1fr)] gap-x-3 gap-y-1 p-3">
        {rows.map(([name, words]) => (
          <Fragment key={name}>
            <dt className="text-ink-2">{name}</dt>
            <dd>{words}</dd>
          </Fragment>
        ))}
      </dl>
    </Sheet>
  );
}

function askWords({ asks, answers }: BusStart): string {
  if (asks.length > 0)
    return list(asks.map(({ label, inputs }) => `${label}${inputs[0] ? `, from ${inputs[0].label}` : ""}`));
  return answers.length === 0
    ? "nobody needs to: what throws turnouts lets go, and outputs for motors stay as they were"
    : "nobody: let an event ask, on the list of events";
}

function answerWords({ answers, order }: BusStart): string {
  if (answers.length === 0) return "no input that stays as it is put";
  const names = list(answers.map(({ label, reads }) => `${label} (${reads})`));
  return `${names}; then ${list(order)} ${order.length === 1 ? "moves" : "move, one after the other"}`;
}
