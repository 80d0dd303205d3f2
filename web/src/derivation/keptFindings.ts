import type { Version } from "@alderman/core";
import { createStore, del, get, set, update } from "idb-keyval";
import type { Known } from "./overview.ts";

/** A railway as it stood: what is found of it is the same each time. */
export interface Standing extends Version {
  railwayId: string;
}

/** What was found of railways, kept so that it is there at once when one is opened again as it stood. */
export interface KeptFindings {
  /** Null when nothing is kept, or of the railway as it stood at another time only. */
  known(of: Standing): Promise<Known | null>;
  keep(of: Standing, known: Known): Promise<void>;
}

interface Kept extends Version {
  /** Program that has found it: another one may find something else. */
  program: string;
  known: Known;
}

/** Railways of which it is kept, those that were checked last. */
export const MOST_KEPT = 12;
/** Time after which a browser's answer is not waited for any longer, milliseconds. */
const LONGEST_WAIT = 1000;
/** Name under which they are listed, the last one first; no railway's identifier has blanks. */
const ORDER = "checked last";

const openStore = () => createStore("alderman-findings", "railways");

/** Forgets what was found of a railway that is gone. */
export async function forgetFindings(railwayId: string): Promise<void> {
  const store = openStore();
  try {
    await del(railwayId, store);
    await update<string[]>(ORDER, (ids = []) => ids.filter((id) => id !== railwayId), store);
  } catch {
    // where nothing may be kept there is nothing to forget
  }
}

/** Kept in IndexedDB. A browser that forbids that keeps nothing, and nothing is lost by it. @param program by a name that no other version has */
export function indexedDbFindings(program: string): KeptFindings {
  const store = openStore();
  return {
    async known({ railwayId, revision, stamp }) {
      const asked = get<Kept>(railwayId, store).catch(() => undefined);
      // one that does not answer at all holds nothing up
      const kept = await Promise.race([asked, new Promise<undefined>((done) => setTimeout(done, LONGEST_WAIT))]);
      const isOfIt = kept?.program === program && kept.revision === revision && kept.stamp === stamp;
      return isOfIt ? kept.known : null;
    },
    async keep({ railwayId, revision, stamp }, { findings, loads }) {
      const kept: Kept = { program, revision, stamp, known: { findings, loads } };
      let over: string[] = [];
      try {
        await set(railwayId, kept, store);
        await update<string[]>(
          ORDER,
          (ids = []) => {
            const order = [railwayId, ...ids.filter((id) => id !== railwayId)];
            over = order.slice(MOST_KEPT);
            return order.slice(0, MOST_KEPT);
          },
          store,
        );
        await Promise.all(over.map((id) => del(id, store)));
      } catch {
        // no room, or not allowed: then it is found anew
      }
    },
  };
}

/** Keeps nothing: where the program has no name of its own, as while it is written. */
export const keepsNothing: KeptFindings = { known: async () => null, keep: async () => {} };
