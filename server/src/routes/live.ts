import { hardwareOf, threadsOf } from "@alderman/core";
import express, { type Request, Router } from "express";
import * as z from "zod";
import { BODY_LIMIT } from "../limits.ts";
import { GATEWAY_NAMES, GatewayError } from "../live/gateway.ts";
import { FAULTS, LiveSession } from "../live/session.ts";
import { parse } from "../parse.ts";
import { OTHER_DATABASE, type Store } from "../store/store.ts";
import { sendMessages } from "../telling.ts";

const Name = z.enum(GATEWAY_NAMES);
const DeviceName = z.string().regex(/^[^\s;\n]{1,24}$/);
const Text = z.string().regex(/^[^\n\r;=]{1,80}$/);
const Way = z.int().min(0).max(64);
const Address = z.int().min(0).max(65_535);

const Command = z.discriminatedUnion("do", [
  z.strictObject({ do: z.literal("throw"), address: Address, to: z.enum(["N", "R"]) }),
  z.strictObject({ do: z.literal("try"), addresses: z.array(Address).max(2_100) }),
  z.strictObject({ do: z.literal("program"), label: DeviceName, way: Way, address: Address }),
  z.strictObject({ do: z.literal("read"), label: DeviceName, way: Way, name: Text }),
  z.strictObject({
    ...{ do: z.literal("write"), label: DeviceName, way: Way, name: Text, value: Text },
    lock: Text.nullable().default(null),
  }),
  z.strictObject({
    ...{ do: z.literal("packet"), onTrack: DeviceName.nullable() },
    bytes: z.array(z.int().min(0).max(255)).min(2).max(8),
  }),
  z.strictObject({ do: z.literal("work"), on: Name, label: DeviceName, way: Way, made: z.boolean() }),
  z.strictObject({ do: z.literal("bus"), text: z.string().regex(/^[^\n\r]{1,80};$/) }),
  z.strictObject({ do: z.literal("dump"), labels: z.array(DeviceName).max(200) }),
]);
type Command = z.infer<typeof Command>;
const Fault = z.strictObject({ on: Name, fault: z.string().max(40), is: z.boolean() });

/** The routes of the stand-ins, and what the program itself does with them. */
export interface Live {
  router: Router;
  /** Starts the stand-ins of a railway, or gives those that run. */
  start: (id: string) => Promise<LiveSession>;
  /** The stand-ins of a railway, when they run. */
  running: (id: string) => LiveSession | undefined;
  stopAll: () => void;
}

/** The stand-ins of railways: started, stopped, spoken to and listened to. */
export function liveRoutes(store: Store): Live {
  const router = Router({ mergeParams: true });
  const json = express.json({ limit: BODY_LIMIT });
  const sessions = new Map<string, LiveSession>();
  const starting = new Map<string, Promise<LiveSession>>();
  const idOf = (request: Request) => String(request.params.id);

  const stop = (id: string) => {
    sessions.get(id)?.stop();
    sessions.delete(id);
  };
  // what they stood in for is another one now, or none
  store.changes.on(OTHER_DATABASE, () => {
    for (const id of [...sessions.keys()]) stop(id);
  });
  const start = async (id: string): Promise<LiveSession> => {
    const { record } = store.open(id);
    const known = sessions.get(id);
    if (known) return known;
    // two windows that start at once get the same ones
    const begun = starting.get(id) ?? LiveSession.start(hardwareOf(record, threadsOf(record)));
    starting.set(id, begun);
    try {
      if (!sessions.has(id)) {
        sessions.set(id, await begun);
        stopRemoved(id);
      }
    } finally {
      starting.delete(id);
    }
    return begun;
  };
  // a railway that is removed has nothing to stand in for
  const stopRemoved = (id: string) => {
    const whenRemoved = (change: unknown) => {
      if (change !== null) return;
      stop(id);
      store.changes.off(id, whenRemoved);
    };
    store.changes.on(id, whenRemoved);
  };
  const session = (id: string): LiveSession => {
    const found = sessions.get(id);
    if (!found) throw new GatewayError("The stand-ins are not running. Start them first.");
    return found;
  };

  router.get("/", (request, response) => {
    store.version(idOf(request));
    const found = sessions.get(idOf(request));
    response.json({ running: found !== undefined, gateways: found?.status.gateways ?? [], faults: FAULTS });
  });
  router.post("/start", async (request, response) => {
    const { status } = await start(idOf(request));
    response.json({ running: true, ...status, faults: FAULTS });
  });
  router.post("/stop", (request, response) => {
    stop(idOf(request));
    response.status(204).end();
  });
  router.post("/faults", json, (request, response) => {
    const { on, fault, is } = parse(Fault, request.body);
    session(idOf(request)).setFault(on, fault, is);
    response.json(session(idOf(request)).status);
  });
  router.post("/commands", json, async (request, response) => {
    const id = idOf(request);
    const command = parse(Command, request.body);
    response.json(await done(session(id), command, store.open(id).record.railway.addressShift));
  });
  router.get("/events", (request, response) => {
    sendMessages(session(idOf(request)), request, response);
  });
  return {
    router,
    start,
    running: (id) => sessions.get(id),
    stopAll: () => {
      for (const id of sessions.keys()) stop(id);
    },
  };
}

/** Does what is asked. @returns what was found */
async function done(session: LiveSession, command: Command, shift: 0 | 4): Promise<unknown> {
  switch (command.do) {
    case "throw":
      return session.throwAddress(command.address, shift, command.to);
    case "try": {
      const thrown: { address: number; moved: string[] }[] = [];
      for (const address of command.addresses) {
        const there = await session.throwAddress(address, shift, "R");
        const back = await session.throwAddress(address, shift, "N");
        thrown.push({ address, moved: [...new Set([...there.moved, ...back.moved])] });
      }
      return { thrown };
    }
    case "program":
      return session.program(command.label, command.way, command.address, shift);
    case "read":
      return { value: await session.readSetting(command.label, command.way, command.name) };
    case "write":
      return {
        value: await session.writeSetting(command.label, command.way, command.name, command.value, command.lock),
      };
    case "packet":
      return { seen: await session.sendPacket(command.bytes, command.onTrack) };
    case "work": {
      const text = `${command.made ? "PRESS" : "RELEASE"} ${command.label} ${command.way}`;
      return { answers: await session.ask(command.on, command.on === "bus" ? `${text};` : text) };
    }
    case "bus":
      if (command.text.startsWith(":")) {
        await session.send("bus", command.text);
        return { answers: [] };
      }
      return { answers: await session.ask("bus", command.text) };
    case "dump": {
      const nodes: unknown[] = [];
      const silent: string[] = [];
      for (const label of command.labels) {
        try {
          nodes.push(nodeIn(label, await session.ask("bus", `DUMP ${label};`)));
        } catch (error) {
          if (!(error instanceof GatewayError)) throw error;
          silent.push(label);
        }
      }
      return { nodes, silent };
    }
  }
}

/** What a node said of itself. */
function nodeIn(label: string, answers: readonly string[]) {
  const words = answers.map((answer) => answer.replace(/;$/, "").split(" "));
  const number = Number(words.find(([word]) => word === "NODE")?.[2] ?? 0);
  const entries = words.flatMap(([word, of, way, node, event, action]) =>
    word === "KNOWS" && of === label ? [{ way: Number(way), node: Number(node), number: Number(event), action }] : [],
  );
  return { label, number, entries };
}
