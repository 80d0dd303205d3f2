import { workerChecker } from "../derivation/checker.ts";
import { ahead } from "../session/early.ts";
import { indexedDbQueue } from "../session/keptQueue.ts";
import { httpServer } from "../session/server.ts";
import type { Services } from "./store.ts";

/** The server of this page, the browser's own store for what waits, and a worker. */
export function browserServices(): Services {
  return { server: httpServer, keptQueue: indexedDbQueue(), checker: workerChecker(), ahead, pause: pauseOrOnline };
}

/** Waits, but no longer than until the browser says that the network is back. */
function pauseOrOnline(milliseconds: number): Promise<void> {
  return new Promise((done) => {
    const end = () => {
      clearTimeout(timer);
      window.removeEventListener("online", end);
      done();
    };
    const timer = setTimeout(end, milliseconds);
    window.addEventListener("online", end);
  });
}
