// A server with several railways, played in memory: answers can be slow, lost, refused, or of an older file.
import {
  type Change,
  type Clash,
  complete,
  type Edit,
  edit,
  emptyRecord,
  openRailwayFile,
  type RailwayRecord,
  type Version,
  writeRailwayFile,
} from "@alderman/core";
import type { Checker } from "../src/derivation/checker.ts";
import type { KeptQueue } from "../src/session/keptQueue.ts";
import type { Entry } from "../src/session/queue.ts";
import { type Server, ServerError, type ServerEvent } from "../src/session/server.ts";
import type { Services } from "../src/store/store.ts";

interface Revision {
  stamp: string;
  words: string;
  origin: Change["origin"];
  edits: Edit[];
  inverses: Edit[];
  record: RailwayRecord;
}

/** One railway on the played server. */
export class PlayedRailway {
  revisions: Revision[] = [];
  /** Indexes of revisions that can be undone, and redone, each with the plans about it. */
  undo: number[][] = [];
  redo: number[][] = [];
  /** What is proposed of the loom is written down by `plan` only, as on a large railway. */
  large = false;

  constructor(
    readonly id: string,
    private readonly tell: (event: ServerEvent) => void,
  ) {}

  get record(): RailwayRecord {
    return this.revisions.at(-1)?.record ?? emptyRecord(this.id);
  }

  get version(): Version {
    return { revision: this.revisions.length, stamp: this.revisions.at(-1)?.stamp ?? this.id };
  }

  get turns() {
    const words = (of: number[] | undefined) => this.revisions[of?.[0] ?? -1]?.words ?? null;
    return { undo: words(this.undo.at(-1)), redo: words(this.redo.at(-1)) };
  }

  apply(entry: Entry): Change {
    const known = this.revisions.findIndex(({ stamp }) => stamp === entry.id);
    if (known >= 0) return this.changeOf(known);
    if (entry.kind === "edits") {
      this.undo.push([this.revisions.length]);
      this.redo = [];
      return this.append(entry.id, entry.words, "edit", entry.edits);
    }
    const [from, to] = entry.kind === "undo" ? [this.undo, this.redo] : [this.redo, this.undo];
    const about = from.pop();
    const revisions = (about ?? []).flatMap((index) => this.revisions[index] ?? []);
    const [first] = revisions;
    if (!about || !first) throw new ServerError(`There is nothing to ${entry.kind}.`, 400);
    to.push(about);
    const back = entry.kind === "undo";
    const edits = back ? revisions.reverse().flatMap((each) => each.inverses) : revisions.flatMap((each) => each.edits);
    return this.append(entry.id, first.words, entry.kind, edits);
  }

  /** Writes down what is proposed of the loom after the last edit; null when there is nothing to be written, or something to be redone. */
  plan(stamp: string): Change | null {
    const { edits } = complete(this.record);
    const about = this.undo.at(-1);
    if (edits.length === 0 || !about || this.redo.length > 0) return null;
    const { words } = this.revisions[about[0] ?? -1] as Revision;
    about.push(this.revisions.length);
    return this.append(stamp, words, "plan", edits);
  }

  /** As another window would. */
  elsewhere(stamp: string, ...edits: Edit[]): Change {
    return this.apply({ id: stamp, kind: "edits", words: "elsewhere", edits });
  }

  changeOf(index: number): Change {
    const { stamp, words, origin, edits } = this.revisions[index] as Revision;
    return structuredClone({ revision: index + 1, stamp, words, origin, edits, ...this.turns });
  }

  private append(stamp: string, words: string, origin: Change["origin"], given: Edit[]): Change {
    // with what is proposed of the loom, as the server does it
    const proposed = this.large ? [] : complete(edit(this.record, given).record).edits;
    const edits = [...given, ...proposed];
    const edited = edit(this.record, edits);
    this.revisions.push({ stamp, words, origin, edits, inverses: edited.inverses, record: edited.record });
    const change = this.changeOf(this.revisions.length - 1);
    this.tell({ kind: "change", change });
    return change;
  }
}

/** What becomes of one request, asked in its order: it may wait, and its answer may be lost. */
export type Fate = { wait?: Promise<void>; lost?: boolean; refuse?: ServerError };

export class PlayedServer implements Server {
  readonly railways = new Map<string, PlayedRailway>();
  /** Every request that came, as text. */
  readonly asked: string[] = [];
  /** Connections over which changes are told. */
  readonly listeners = new Map<string, Set<(event: ServerEvent) => void>>();
  away = false;
  /** Nothing is told by events. */
  silent = false;
  fate: (request: string) => Fate = () => ({});

  add(id: string): PlayedRailway {
    const railway = new PlayedRailway(id, (event) => !this.silent && this.tell(id, event));
    this.railways.set(id, railway);
    return railway;
  }

  tell(id: string, event: ServerEvent): void {
    for (const listener of this.listeners.get(id) ?? []) listener(event);
  }

  private async request<T>(what: string, id: string, answer: (railway: PlayedRailway) => T): Promise<T> {
    this.asked.push(`${what} ${id}`);
    const { wait, lost, refuse } = this.fate(`${what} ${id}`);
    if (this.away) throw new ServerError("The server does not answer.", 0);
    if (refuse) throw refuse;
    const railway = this.railways.get(id);
    if (!railway) throw new ServerError("There is no such railway here.", 404);
    const result = structuredClone(answer(railway));
    await wait;
    if (lost) throw new ServerError("The server does not answer.", 0);
    return result;
  }

  open = (id: string) =>
    this.request("open", id, ({ record, version, turns }) => ({ id, ...version, record, ...turns }));

  plan = (id: string) => this.request("plan", id, () => undefined);

  send = (id: string, entry: Entry, against: Version) =>
    this.request(`send ${entry.kind}`, id, (railway) => {
      if (railway.revisions.some(({ stamp }) => stamp === entry.id)) return railway.apply(entry);
      this.requireKnown(railway, against);
      if (against.revision !== railway.revisions.length)
        throw new ServerError("The railway was changed in another window since.", 409);
      return railway.apply(entry);
    });

  missed = (id: string, since: Version) =>
    this.request("missed", id, (railway) => {
      this.requireKnown(railway, since);
      const changes = railway.revisions.map((_, index) => railway.changeOf(index)).slice(since.revision);
      return { changes, turns: railway.turns };
    });

  applied = (id: string, stamps: readonly string[]) =>
    this.request("applied", id, ({ revisions }) => stamps.filter((stamp) => revisions.some((r) => r.stamp === stamp)));

  clashed = async (id: string, clash: Clash) => {
    this.asked.push(`clash ${id}`);
    if (this.away || this.fate(`clash ${id}`).lost) throw new TypeError("Failed to fetch");
    if (!this.silent) this.tell(id, { kind: "clash", clash: structuredClone(clash) });
  };

  importCopy = async (record: RailwayRecord) => {
    const copy = this.add(`copy-${this.railways.size}`);
    // as the server reads it: from the text of a file, checked
    const read = openRailwayFile(writeRailwayFile(record));
    copy.revisions = [{ stamp: "imported", words: "", origin: "edit", edits: [], inverses: [], record: read }];
    return copy.id;
  };

  listen = (id: string, tell: (event: ServerEvent) => void) => {
    const listeners = this.listeners.get(id) ?? new Set();
    this.listeners.set(id, listeners.add(tell));
    return () => void listeners.delete(tell);
  };

  private requireKnown(railway: PlayedRailway, { revision, stamp }: Version): void {
    const own = revision === 0 ? railway.id : railway.revisions[revision - 1]?.stamp;
    if (own !== stamp) throw new ServerError("The file does not go on from what this window knows.", 409, true);
  }
}

/** The browser's own store, which outlives a page. */
export class PlayedBrowser {
  kept: { railwayId: string; entry: Entry; against: Version; window: string }[] = [];

  /** A page opened in it. */
  queue(window = "window01"): KeptQueue {
    let count = 0;
    return {
      isOwn: (id) => id.startsWith(`${window}-`),
      newId: () => `${window}-${count++}-${Math.random().toString(36).slice(2)}`,
      keep: async (railwayId, entry, against) => void this.kept.push({ railwayId, entry, against, window }),
      settled: async () => {},
      forget: async (ids) => {
        this.kept = this.kept.filter(({ entry }) => !ids.includes(entry.id));
      },
      waiting: async (railwayId) => {
        const own = this.kept.filter((each) => each.railwayId === railwayId);
        const [first] = own;
        if (!first) return null;
        return {
          queue: own.map(({ entry }) => entry),
          since: first.against,
          isOwn: (stamp) => own.some((each) => stamp.startsWith(each.window)),
        };
      },
      railways: async () => [...new Set(this.kept.map(({ railwayId }) => railwayId))],
    };
  }
}

/** A checker that checks nothing. */
export const idleChecker = (): Checker => ({
  publish: () => {},
  want: () => {},
  restart: () => {},
  consequences: async () => null,
  layings: async () => [],
  routePress: async () => null,
  unitDesigns: async () => [],
  cures: async () => null,
});

/** Services for a store that a test plays with; pauses are short. */
export function playedServices(server: Server, keptQueue: KeptQueue): Services {
  const ahead = { begin: () => {}, expect: () => {} };
  return { server, keptQueue, checker: idleChecker(), ahead, pause: () => new Promise((done) => setTimeout(done, 1)) };
}
