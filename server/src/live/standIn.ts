// One of the stand-ins, a process of its own: it is given the hardware that it stands for, listens on loopback, and says where.
import { createServer, type Socket } from "node:net";
import {
  type BusFault,
  EventBus,
  eventFrame,
  FeedbackBus,
  type Hardware,
  messagesIn,
  Station,
  textOf,
} from "@alderman/core";
import type { GatewayName } from "./gateway.ts";

/** What the program says to a stand-in. */
export type ToStandIn =
  | { kind: "start"; name: GatewayName; hardware: Hardware }
  | { kind: "fault"; fault: string; on: boolean };
/** What a stand-in says to the program. */
export type FromStandIn = { kind: "listening"; port: number };

/** From one babbled batch to the next, milliseconds, and how many frames each has: 5,000 in a second. */
const BABBLE = { every: 20, frames: 100 };

const faults = new Set<string>();
const sockets = new Set<Socket>();

/** Answers to messages, with what is amiss. */
function responder(name: GatewayName, hardware: Hardware): (message: string) => string[] | "close" {
  if (name === "bus") {
    const bus = new EventBus(hardware);
    const last = hardware.nodes.at(-1)?.label;
    let heard = 0;
    const has = (fault: BusFault) => faults.has(fault);
    return (message) => {
      if (has("shorted")) return [];
      const answers = bus.answer(message, (label) => has("node-missing") && label === last);
      if (!has("loses-frames")) return answers;
      return answers.filter((answer) => !answer.startsWith(":") || ++heard % 3 !== 0);
    };
  }
  if (name === "feedback") {
    const bus = new FeedbackBus(hardware);
    return (line) => (faults.has("no-answer") ? [] : bus.answer(line));
  }
  const station = new Station(hardware);
  return (line) => {
    const isWrite = line.startsWith("WRITE");
    if (faults.has("no-answer")) return [];
    // power goes before the value is kept: nothing is written, and nothing said
    if (faults.has("power-lost") && isWrite) return [];
    const answers = station.answer(line);
    if (faults.has("closes") && (isWrite || line.startsWith("READ"))) return "close";
    if (faults.has("wrong-read")) return answers.map((each) => (each.startsWith("VALUE") ? "VALUE 255" : each));
    return answers;
  };
}

function start(name: GatewayName, hardware: Hardware): void {
  const answer = responder(name, hardware);
  const end = name === "bus" ? ";" : "\n";
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.setEncoding("utf8");
    let buffer = "";
    socket.on("data", (text: string) => {
      const { messages, rest } = messagesIn(buffer + text, end);
      buffer = rest.length > 65_536 ? "" : rest;
      for (const message of messages) {
        const answers = answer(message);
        if (answers === "close") {
          // half an answer, and gone
          socket.end("VAL");
          return;
        }
        if (answers.length > 0) socket.write(answers.map((each) => (end === ";" ? each : `${each}\n`)).join(""));
      }
    });
    socket.on("close", () => sockets.delete(socket));
    socket.on("error", () => socket.destroy());
  });
  server.listen(0, "127.0.0.1", () => {
    const address = server.address();
    if (typeof address === "object" && address) say({ kind: "listening", port: address.port });
  });
  let count = 0;
  setInterval(() => {
    if (!faults.has("babbles")) return;
    const babbled = Array.from({ length: BABBLE.frames }, () => {
      count = (count + 1) % 65_000;
      if (name !== "bus") return name === "feedback" ? `INPUT ${count} 1\n` : "HELLO\n";
      return textOf(eventFrame({ node: 60_000, number: count + 1, form: count % 2 === 0 ? "on" : "off" }, 0xabc));
    });
    for (const socket of sockets) socket.write(babbled.join(""));
  }, BABBLE.every);
}

function say(message: FromStandIn): void {
  process.send?.(message);
}

process.on("message", (message: ToStandIn) => {
  if (message.kind === "start") start(message.name, message.hardware);
  else if (message.on) faults.add(message.fault);
  else faults.delete(message.fault);
});
// it does not outlive the program that started it
process.on("disconnect", () => process.exit(0));
