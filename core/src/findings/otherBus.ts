import { setFeeder } from "../equip/feed.ts";
import { deviceOf, feederOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { controlsOf, type Fitted, type Thread } from "../schematic/thread.ts";
import { made } from "./remedies.ts";
import { rule } from "./rule.ts";

interface Apart {
  thread: Thread;
  /** The node that tells, and its bus; the board that should hear, and its bus. */
  tells: Fitted;
  hears: Fitted;
  buses: [Device, Device];
}

export const otherBus = rule<Apart>({
  id: "other-bus",
  stage: "equip",
  column: "control",
  severity: "stop",
  title: "What a node tells does not reach the board that was taught it",
  about:
    "Events travel on one control bus. A board that hangs on another bus never hears them, however it was taught, unless a bridge joins the two. The rule compares the bus of the node that reads a control with the bus of the board that drives the motor or lights the lamp.",
  look: ({ record, threads }) =>
    threads.flatMap((thread) => {
      const told = [thread.motors[0]?.driver, ...thread.lamps.map(({ from }) => from)].filter(
        (board) => board?.type.hears === "bus",
      );
      return controlsOf(thread).flatMap(({ reader }) =>
        told.flatMap((board): Apart[] => {
          const [from, to] = [reader && busOf(record, reader.device.id), board && busOf(record, board.device.id)];
          if (reader?.type.hears !== "bus" || !board || !from || !to || from.id === to.id) return [];
          return [{ thread, tells: reader, hears: board, buses: [from, to] }];
        }),
      );
    }),
  subject: ({ thread, tells, hears }) => `${thread.turnout.id} ${tells.device.id} ${hears.device.id}`,
  where: ({ hears }) => hears.device.label,
  terminals: ({ tells, hears }) => [tells.device.label, hears.device.label],
  turnouts: ({ thread }) => [thread],
  why: ({ thread, tells, hears, buses: [from, to] }) =>
    `${tells.device.label} tells what ${thread.label} is asked on ${from.label}; ${hears.device.label} hangs on ${to.label} and does not hear it.`,
  remedies: ({ tells, hears, buses: [from, to] }, { record }) =>
    [
      { board: hears, bus: from },
      { board: tells, bus: to },
    ].map(({ board, bus }) =>
      made(record, `Join ${board.device.label} to ${bus.label}`, (draft) =>
        setFeeder(draft, board.device.id, "commands", bus.id),
      ),
    ),
});

function busOf(record: RailwayRecord, deviceId: string): Device | null {
  const id = feederOf(record, deviceId, "commands");
  return id === null ? null : deviceOf(record, id);
}
