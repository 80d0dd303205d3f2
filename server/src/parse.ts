import { problemsOf, RecordError } from "@alderman/core";
import type * as z from "zod";

/** What was sent, once it has been looked at. @throws {RecordError} with every place that is wrong */
export function parse<S extends z.ZodType>(schema: S, given: unknown): z.infer<S> {
  const parsed = schema.safeParse(given);
  if (!parsed.success) throw new RecordError(problemsOf(parsed.error));
  return parsed.data;
}
