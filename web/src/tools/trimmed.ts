import * as z from "zod/mini";

/** A text of the record as somebody types it: blanks at its ends do not count. */
export const trimmed = (schema: z.ZodMiniType<string, string>) => z.pipe(z.string().check(z.trim()), schema);
