import { openRailwayFile, RecordError } from "@alderman/core";
import { startBeside } from "./house.ts";
import type { Answer } from "./importProgram.ts";
import type { Store } from "./store/store.ts";

/** Characters from which a file is read by a program of its own: of a smaller one the reading takes less than the starting. */
const LARGE = 500_000;

/**
 * Takes a railway file in as a railway of its own.
 * @returns its identifier
 * @throws {RecordError} with what is wrong with the file; nothing is taken in then
 */
export async function importFile(store: Store, text: string): Promise<string> {
  if (text.length < LARGE) return store.create(openRailwayFile(text));
  const answer = await readBy(store.file, text);
  if ("problems" in answer) throw new RecordError(answer.problems);
  if ("failure" in answer) throw Object.assign(new Error(answer.failure), { code: answer.code });
  return answer.id;
}

function readBy(database: string, text: string): Promise<Answer> {
  const program = startBeside("importProgram", [database], { stdio: ["pipe", "ignore", "inherit", "ipc"] });
  return new Promise((done, fail) => {
    program.once("message", (answer) => done(answer as Answer));
    program.once("error", fail);
    program.once("exit", () => fail(new Error("The program that reads a file ended without an answer.")));
    // one that ends early leaves the rest unread, and says so by ending
    program.stdin?.on("error", () => {});
    program.stdin?.end(text);
  });
}
