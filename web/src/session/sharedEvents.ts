import { EventHub, REACH, type Told, type Topic } from "./eventHub.ts";

/** What a tab says to the worker that listens for all of them. */
export type Asked =
  | { listen: Topic }
  | { leave: Topic }
  /** A lock that this tab holds for as long as it lives. */
  | { lives: string }
  | { bye: true };

type Port = Pick<MessagePort, "postMessage" | "addEventListener" | "start">;

/** Serves one tab: tells it what it listens to, until it leaves or is no more. */
export function servePort(hub: Pick<EventHub, "listen">, port: Port): void {
  const stops = new Map<Topic, () => void>();
  const leave = (topic: Topic) => {
    stops.get(topic)?.();
    stops.delete(topic);
  };
  const leaveAll = () => {
    for (const topic of [...stops.keys()]) leave(topic);
  };
  port.addEventListener("message", ({ data }: MessageEvent<Asked>) => {
    if ("listen" in data) {
      leave(data.listen);
      stops.set(
        data.listen,
        hub.listen(data.listen, (told) => port.postMessage(told)),
      );
    } else if ("leave" in data) leave(data.leave);
    else if ("bye" in data) leaveAll();
    // a tab that ended without a word has let go of its lock
    else void navigator.locks?.request(data.lives, leaveAll);
  });
  port.start();
}

/** Listens, and says how to stop. */
export type Listen = EventHub["listen"];

/** Listens over the worker that all tabs share; by itself where there is none, or no longer. */
export function browserListen(): Listen {
  const alone = () => {
    const hub = new EventHub(REACH);
    return hub.listen.bind(hub);
  };
  const worker = startWorker();
  if (!worker) return alone();
  return withSpare(listenOver(worker.port), alone, (failed) => worker.addEventListener("error", failed));
}

/**
 * Listens in one way until that fails, and from then on in another.
 * @param whenFailed is given what is to be called when the first way fails
 */
export function withSpare(first: Listen, spare: () => Listen, whenFailed: (failed: () => void) => void): Listen {
  const listening = new Set<{ topic: Topic; tell: (told: Told) => void; stop: () => void }>();
  let listen = first;
  whenFailed(() => {
    if (listen !== first) return;
    listen = spare();
    for (const each of listening) {
      each.stop();
      each.stop = listen(each.topic, each.tell);
    }
  });
  return (topic, tell) => {
    const each = { topic, tell, stop: listen(topic, tell) };
    listening.add(each);
    return () => {
      listening.delete(each);
      each.stop();
    };
  };
}

function startWorker(): SharedWorker | null {
  if (typeof SharedWorker === "undefined") return null;
  try {
    return new SharedWorker(new URL("./events.shared.ts", import.meta.url), { type: "module", name: "events" });
  } catch {
    // forbidden, as in some private windows
    return null;
  }
}

/** Listens over a port to a hub. */
export function listenOver(port: Port): Listen {
  const listeners = new Map<Topic, Set<(told: Told) => void>>();
  const ask = (asked: Asked) => port.postMessage(asked);
  port.addEventListener("message", ({ data }: MessageEvent<Told>) => {
    const those = "topic" in data ? [listeners.get(data.topic) ?? []] : listeners.values();
    for (const own of those) for (const tell of own) tell(data);
  });
  port.start();
  sayThatItLives(ask);
  // a page that is shown again from the browser's store of pages goes on listening
  addEventListener("pagehide", () => ask({ bye: true }));
  addEventListener("pageshow", ({ persisted }) => {
    if (persisted) for (const topic of listeners.keys()) ask({ listen: topic });
  });
  return (topic, tell) => {
    const own = listeners.get(topic) ?? new Set();
    listeners.set(topic, own.add(tell));
    // whoever comes later has to be told where things stand as well
    ask({ listen: topic });
    return () => {
      own.delete(tell);
      if (own.size > 0) return;
      listeners.delete(topic);
      ask({ leave: topic });
    };
  };
}

function sayThatItLives(ask: (asked: Asked) => void): void {
  if (!navigator.locks) return;
  const name = `alderman-tab-${Math.random().toString(36).slice(2)}`;
  void navigator.locks.request(name, () => {
    ask({ lives: name });
    return new Promise(() => {});
  });
}

let known: Listen | null = null;

/** How this page listens: found out when it is first asked for. */
export const pageListen: Listen = (topic, tell) => {
  known ??= browserListen();
  return known(topic, tell);
};
