import { problemsOf, RecordError } from "@alderman/core";

/** A schema of Zod, of its whole form or its small one. */
interface Schema<T> {
  safeParse: (
    given: unknown,
  ) => { success: true; data: T } | { success: false; error: Parameters<typeof problemsOf>[0] };
}

/** What was sent, once it has been looked at. @throws {RecordError} with every place that is wrong */
export function parse<T>(schema: Schema<T>, given: unknown): T {
  const parsed = schema.safeParse(given);
  if (!parsed.success) throw new RecordError(problemsOf(parsed.error));
  return parsed.data;
}
