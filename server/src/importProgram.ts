// Reads a railway file from its input and writes it into a database: a program of its own, so that other requests go on meanwhile.
import { text } from "node:stream/consumers";
import { openRailwayFile, RecordError } from "@alderman/core";
import { connect } from "./store/database.ts";
import { Store } from "./store/store.ts";

/** What the program answers. */
export type Answer = { id: string } | { problems: RecordError["problems"] } | { failure: string; code: string | null };

function taken(file: string, given: string): Answer {
  const database = connect(file);
  try {
    return { id: new Store(database).create(openRailwayFile(given)) };
  } catch (error) {
    if (error instanceof RecordError) return { problems: error.problems };
    const { message, code = null } = error as Error & { code?: string };
    return { failure: message, code };
  } finally {
    database.close();
  }
}

const [file = ""] = process.argv.slice(2);
process.send?.(taken(file, await text(process.stdin)), undefined, {}, () => process.disconnect());
