import {
  Applied,
  Change,
  Clash,
  FORM_HEADER,
  MissedChange,
  OpenRailway,
  problemsOf,
  type RailwayRecord,
  RECORD_FORM,
  Refusal,
  Turns,
  Version,
  writeRailwayFile,
} from "@alderman/core";
import * as z from "zod/mini";
import { type Ahead, ahead, ask, type Came } from "./early.ts";
import type { Entry } from "./queue.ts";
import { pageListen } from "./sharedEvents.ts";

/** An answer that is not what was hoped for, with a sentence for the owner. */
export class ServerError extends Error {
  override readonly name = "ServerError";
  constructor(
    message: string,
    /** Status of HTTP; 0 when there was no answer. */
    readonly status: number,
    /** The server's history is not the one that this window knows. */
    readonly diverged = false,
  ) {
    super(message);
  }

  /** It may work when it is tried again: no answer, an answer cut short, or something amiss with the server itself. */
  get passing(): boolean {
    return this.status === 0 || this.status === 429 || this.status >= 500;
  }
}

/** What is told of a railway while it is open. */
export type ServerEvent =
  | { kind: "hello"; version: Version }
  | { kind: "change"; change: Change }
  /** What another window had set and did not keep. */
  | { kind: "clash"; clash: Clash }
  | { kind: "removed" }
  /** Whether anything is told at once, or only found out when it is asked for. */
  | { kind: "live"; on: boolean }
  /** Something was told that could not be read. */
  | { kind: "unclear" };

/** The server as a window speaks to it; every answer is looked at before it is believed, but a record of which a server of the same form says so. */
export interface Server {
  open(id: string): Promise<OpenRailway>;
  /** Sends what was done against a version. @throws {ServerError} */
  send(id: string, entry: Entry, against: Version): Promise<Change>;
  /** Groups applied after a version, and where the railway stands. */
  missed(id: string, since: Version): Promise<{ changes: MissedChange[]; turns: Turns }>;
  /** Which of some groups were applied already, by their stamps. */
  applied(id: string, stamps: readonly string[]): Promise<string[]>;
  /** Tells the other windows what this one had set and did not keep. */
  clashed(id: string, clash: Clash): Promise<void>;
  /** Lets the server work out what the first edit would otherwise wait for. */
  plan(id: string): Promise<void>;
  /** Takes a record in as a railway of its own. @returns its identifier */
  importCopy(record: RailwayRecord): Promise<string>;
  /** Tells of what happens to a railway. @returns how to stop */
  listen(id: string, tell: (event: ServerEvent) => void): () => void;
}

async function answered<T>(coming: Promise<Came>, schema: z.ZodMiniType<T>): Promise<T> {
  let came: Came;
  try {
    came = await coming;
  } catch {
    throw new ServerError("The server does not answer.", 0);
  }
  const { response, bytes } = came;
  let answer: unknown;
  try {
    answer = JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    throw new ServerError("The server's answer cannot be read.", response.ok ? 0 : response.status);
  }
  if (!response.ok) {
    const refusal = Refusal.safeParse(answer);
    const { message, diverged } = refusal.success
      ? refusal.data.error
      : { message: "The server refuses without a reason.", diverged: false };
    throw new ServerError(message, response.status, diverged);
  }
  // a record that a server of the same form has looked at: thing by thing it would hold the window up for a while
  if (isOfOurForm(response)) return answer as T;
  const parsed = schema.safeParse(answer);
  if (!parsed.success) {
    const [problem] = problemsOf(parsed.error);
    throw new ServerError(`The server's answer cannot be read: ${problem?.message ?? ""}`, 502);
  }
  return parsed.data;
}

const isOfOurForm = ({ headers }: Response) => headers.get(FORM_HEADER) === RECORD_FORM;

const asked = <T>(path: string, schema: z.ZodMiniType<T>, init?: RequestInit) => answered(ask(path, init), schema);

const json = (body: unknown): RequestInit => ({
  method: "POST",
  headers: { "Content-Type": "application/json" },
  body: JSON.stringify(body),
});

const Known = z.object({ applied: z.array(z.string()) });
const Turned = z.object({ ...Version.shape, ...Turns.shape });

/** Opens a railway: the one that was read ahead, if it stands as it did then, or else as the server has it now. */
export async function openBeside(beside: Ahead, id: string): Promise<OpenRailway> {
  const coming = beside.take(id);
  if (!coming) return asked(`/${id}`, OpenRailway);
  const [railway, now] = await Promise.all([
    answered(coming.railway, OpenRailway),
    coming.isExpected ? asked(`/${id}/version`, Turned) : null,
  ]);
  if (now && (now.revision !== railway.revision || now.stamp !== railway.stamp)) return asked(`/${id}`, OpenRailway);
  // one that had to be looked at was not read by the worker
  if (isOfOurForm((await coming.railway).response)) beside.isRead(id, railway.record);
  return railway;
}

/** The server of this page, over HTTP. */
export const httpServer: Server = {
  open: (id) => openBeside(ahead, id),

  async send(id, entry, against) {
    const base = { ...against, makes: entry.id };
    if (entry.kind !== "edits") return asked(`/${id}/${entry.kind}`, Change, json(base));
    const { words, edits } = entry;
    const { proposed, ...applied } = await asked(`/${id}/edits`, Applied, json({ ...base, words, edits }));
    return { ...applied, edits: [...edits, ...proposed] };
  },

  async missed(id, { revision, stamp }) {
    const changes = await asked(`/${id}/changes?since=${revision}&stamp=${stamp}`, z.array(MissedChange));
    const { undo, redo } = await asked(`/${id}/version`, Turned);
    return { changes, turns: { undo, redo } };
  },

  applied: async (id, stamps) => (await asked(`/${id}/applied`, Known, json({ stamps }))).applied,

  async clashed(id, clash) {
    await fetch(`/api/railways/${id}/clash`, json(clash));
  },

  async plan(id) {
    await fetch(`/api/railways/${id}/plan`, { method: "POST" });
  },

  async importCopy(record) {
    const init = { method: "POST", headers: { "Content-Type": "text/plain" }, body: writeRailwayFile(record) };
    return (await asked("/import", z.object({ id: z.string() }), init)).id;
  },

  listen(id, tell) {
    const clear = <T>(schema: z.ZodMiniType<T>, data: string, eventOf: (data: T) => ServerEvent) => {
      const parsed = schema.safeParse(parsedJson(data));
      tell(parsed.success ? eventOf(parsed.data) : { kind: "unclear" });
    };
    return pageListen(`railway ${id}`, (told) => {
      if ("live" in told) tell({ kind: "live", on: told.live });
      else if (told.name === "hello") clear(Version, told.data, (version) => ({ kind: "hello", version }));
      else if (told.name === "change") clear(Change, told.data, (change) => ({ kind: "change", change }));
      else if (told.name === "clash") clear(Clash, told.data, (clash) => ({ kind: "clash", clash }));
      else if (told.name === "removed") tell({ kind: "removed" });
    });
  },
};

function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
