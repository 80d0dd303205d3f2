import * as z from "zod/mini";

export const GATEWAYS = ["station", "bus", "feedback"] as const;
export type GatewayName = (typeof GATEWAYS)[number];

export const GATEWAY_WORDS: Record<GatewayName, string> = {
  station: "Command station",
  bus: "Event bus",
  feedback: "Feedback bus",
};

const Name = z.enum(GATEWAYS);
const Running = z.object({ name: Name, faults: z.array(z.string()) });
export type Running = z.infer<typeof Running>;
const Status = z.object({
  running: z.boolean(),
  gateways: z.array(Running),
  faults: z.record(z.string(), z.record(z.string(), z.string())),
});
export type LiveStatus = z.infer<typeof Status>;

/** A message as it went over a line. */
export const Message = z.object({ at: z.number(), from: Name, sent: z.boolean(), text: z.string() });
export type Message = z.infer<typeof Message>;

/** What was asked could not be done: a sentence of the server. */
export class LiveError extends Error {
  override readonly name = "LiveError";
}

async function ask<T>(railwayId: string, path: string, schema: z.ZodMiniType<T>, body?: object): Promise<T> {
  const init = body && {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  };
  let response: Response;
  try {
    response = await fetch(`/api/railways/${railwayId}/live${path}`, init);
  } catch {
    throw new LiveError("The server does not answer. Is the program still running?");
  }
  const text = await response.text();
  const json = text === "" ? {} : (JSON.parse(text) as { error?: { message?: string } });
  if (!response.ok) throw new LiveError(json.error?.message ?? "The server answers with an error.");
  return schema.parse(json);
}

export const statusOf = (id: string) => ask(id, "", Status);
export const startStandIns = (id: string) => ask(id, "/start", Status, {});
export const stopStandIns = (id: string) => ask(id, "/stop", z.object({}), {});
export const setFault = (id: string, on: GatewayName, fault: string, is: boolean) =>
  ask(id, "/faults", z.object({ gateways: z.array(Running) }), { on, fault, is });

const command = <T>(id: string, schema: z.ZodMiniType<T>, body: object) => ask(id, "/commands", schema, body);

const Value = z.object({ value: z.string() });
const Thrown = z.object({ moved: z.array(z.string()), took: z.array(z.string()) });
const Tried = z.object({ thrown: z.array(z.object({ address: z.number(), moved: z.array(z.string()) })) });
const Action = z.enum(["acts", "inverted", "on", "off"]);
const Entry = z.object({ way: z.number(), node: z.number(), number: z.number(), action: Action });
const Dumped = z.object({
  nodes: z.array(z.object({ label: z.string(), number: z.number(), entries: z.array(Entry) })),
  silent: z.array(z.string()),
});

export const throwAddress = (id: string, address: number, to: "N" | "R") =>
  command(id, Thrown, { do: "throw", address, to });
export const tryAddresses = (id: string, addresses: number[]) => command(id, Tried, { do: "try", addresses });
export const programOutput = (id: string, label: string, way: number, address: number) =>
  command(id, z.object({ answers: z.boolean() }), { do: "program", label, way, address });
export const readValue = (id: string, label: string, way: number, name: string) =>
  command(id, Value, { do: "read", label, way, name });
export const writeValue = (id: string, label: string, way: number, name: string, value: string, lock: string | null) =>
  command(id, Value, { do: "write", label, way, name, value, lock });
export const sendPacket = (id: string, bytes: number[], onTrack: string | null) =>
  command(id, z.object({ seen: z.array(z.string()) }), { do: "packet", bytes, onTrack });
export const workInput = (id: string, on: GatewayName, label: string, way: number, made: boolean) =>
  command(id, z.object({ answers: z.array(z.string()) }), { do: "work", on, label, way, made });
export const sayOnBus = (id: string, text: string) =>
  command(id, z.object({ answers: z.array(z.string()) }), { do: "bus", text });
export const dumpNodes = (id: string, labels: string[]) => command(id, Dumped, { do: "dump", labels });
