/** What can be listened to: the changes of a railway, or what goes over its live lines. */
export type Topic = `railway ${string}` | `line ${string}`;

/** Something that was told, as text of JSON, or whether anything is told at all. */
export type Told = { topic: Topic; name: string; data: string } | { live: boolean };

/** A connection as browsers make it (WHATWG HTML, server-sent events). */
export type Source = Pick<EventSource, "addEventListener" | "close" | "readyState">;

/** How the hub reaches the server. */
export interface Reach {
  /** Opens a connection; null where the browser knows none. */
  open: (path: string) => Source | null;
  /** Where a railway stands, as the text that `hello` would tell; null when there is none. Fails when there is no answer. */
  versionOf: (id: string) => Promise<string | null>;
}

/** Names of what railways tell, and lines. */
const NAMES = { railway: ["hello", "change", "clash", "removed"], line: ["began", "messages", "stopped"] } as const;

/** Several topics that begin at once make one connection, milliseconds. */
const GATHER = 20;
/** From one look at where railways stand to the next while nothing is told, milliseconds. */
export const POLL = 5_000;
/** Time in which a connection that broke off may be back, milliseconds. */
export const GRACE = 6_000;
/** Looks after which a connection is tried again. */
const LOOKS_BEFORE_TRYING = 6;

/** `readyState` of a connection that the browser has given up (WHATWG HTML). */
const GIVEN_UP = 2;

/**
 * One connection to the server for everything that is listened to, in one tab or in all of them: a browser opens few at a time
 * to one server, and every tab that held one of its own would keep the others from saving. Where there can be no
 * connection it asks every few seconds, and says that nothing is live.
 */
export class EventHub {
  private readonly listeners = new Map<Topic, Set<(told: Told) => void>>();
  private source: Source | null = null;
  private gathering: ReturnType<typeof setTimeout> | null = null;
  private polling: ReturnType<typeof setInterval> | null = null;
  private doubting: ReturnType<typeof setTimeout> | null = null;
  private live = true;

  constructor(private readonly reach: Reach) {}

  /** @returns how to stop listening */
  listen(topic: Topic, tell: (told: Told) => void): () => void {
    const own = this.listeners.get(topic) ?? new Set();
    this.listeners.set(topic, own.add(tell));
    if (!this.live) tell({ live: false });
    this.reconnect();
    return () => {
      own.delete(tell);
      if (own.size > 0 || this.listeners.get(topic) !== own) return;
      this.listeners.delete(topic);
      this.reconnect();
    };
  }

  private reconnect(): void {
    this.gathering ??= setTimeout(() => {
      this.gathering = null;
      this.connect();
    }, GATHER);
  }

  /** A connection for what is listened to now; the one before ends, and what it would have told is caught up with by `hello`. */
  private connect(): void {
    this.source?.close();
    this.source = null;
    const topics = [...this.listeners.keys()];
    if (topics.length === 0) {
      this.stopPolling();
      return;
    }
    const ids = (kind: string) => topics.flatMap((topic) => (topic.startsWith(`${kind} `) ? [idOf(topic)] : []));
    const source = this.reach.open(`/api/events?railways=${ids("railway").join()}&lines=${ids("line").join()}`);
    this.source = source;
    if (source) this.attend(source);
    else this.poll();
  }

  private attend(source: Source): void {
    const on = (name: string, hear: (event: Event) => void) =>
      source.addEventListener(name, (event) => {
        // one that has been replaced has nothing more to say
        if (source === this.source) hear(event);
      });
    on("open", () => {
      this.stopPolling();
      this.sayLive(true);
    });
    on("error", () => {
      // the browser tries again by itself unless it was refused
      if (source.readyState === GIVEN_UP) this.poll();
      else this.doubt();
    });
    for (const kind of ["railway", "line"] as const)
      for (const name of NAMES[kind])
        on(name, (event) => {
          const { data } = event as MessageEvent<string>;
          const id = whose(data);
          if (id !== null) this.tell({ topic: `${kind} ${id}`, name, data });
        });
  }

  private tell(told: Extract<Told, { topic: Topic }>): void {
    for (const each of this.listeners.get(told.topic) ?? []) each(told);
  }

  /** A connection that breaks off is mostly back before anybody would have to know. */
  private doubt(): void {
    this.doubting ??= setTimeout(() => this.sayLive(false), GRACE);
  }

  private sayLive(live: boolean): void {
    if (this.doubting !== null) clearTimeout(this.doubting);
    this.doubting = null;
    if (live === this.live) return;
    this.live = live;
    for (const own of this.listeners.values()) for (const each of own) each({ live });
  }

  /** Asks where railways stand from time to time, and tries a connection again after a while. */
  private poll(): void {
    this.sayLive(false);
    if (this.polling !== null) return;
    let looks = 0;
    this.polling = setInterval(() => {
      looks++;
      if (looks % LOOKS_BEFORE_TRYING === 0) this.connect();
      for (const topic of this.listeners.keys()) if (topic.startsWith("railway ")) void this.look(topic);
    }, POLL);
  }

  private async look(topic: Topic): Promise<void> {
    try {
      const data = await this.reach.versionOf(idOf(topic));
      this.tell(data === null ? { topic, name: "removed", data: "{}" } : { topic, name: "hello", data });
    } catch {
      // no answer now; what waits to be saved says so
    }
  }

  private stopPolling(): void {
    if (this.polling !== null) clearInterval(this.polling);
    this.polling = null;
  }
}

const idOf = (topic: Topic) => topic.slice(topic.indexOf(" ") + 1);

/** The railway that something is about, which the server writes first; null when it does not say. */
function whose(data: string): string | null {
  return /^\{"of":"([\w-]{1,64})"/.exec(data)?.[1] ?? null;
}

/** How a page or a worker reaches the server. */
export const REACH: Reach = {
  open: (path) => (typeof EventSource === "undefined" ? null : new EventSource(path)),
  versionOf: async (id) => {
    const response = await fetch(`/api/railways/${id}/version`);
    if (response.status === 404) return null;
    if (!response.ok) throw new Error("There is no answer.");
    return response.text();
  },
};
