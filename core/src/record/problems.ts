import { en } from "zod/locales";
import * as z from "zod/mini";

// the small build of Zod brings no sentences of its own
z.config(en());

/** One thing that is wrong with what was given, and where. */
export interface Problem {
  path: (string | number)[];
  message: string;
}

/**
 * What was given cannot be taken. Nothing has been changed.
 *
 * Every message is a sentence for the owner; `problems` says where each one is.
 */
export class RecordError extends Error {
  override readonly name = "RecordError";
  readonly problems: Problem[];
  constructor(problems: Problem[]) {
    super(problems.map((problem) => problem.message).join(" "));
    this.problems = problems;
  }
}

/** A single problem as an error. */
export function recordError(message: string, path: Problem["path"] = []): RecordError {
  return new RecordError([{ path, message }]);
}

/** Zod's issues as problems, each message naming its place; at most ten, since one cause often repeats. */
export function problemsOf(error: z.core.$ZodError): Problem[] {
  return error.issues.slice(0, 10).map((issue) => {
    const path = issue.path.map((step) => (typeof step === "symbol" ? String(step) : step));
    const place = path.length > 0 ? `${path.join(".")}: ` : "";
    return { path, message: `${place}${issue.message}.`.replace("..", ".") };
  });
}
