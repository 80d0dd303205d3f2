import * as z from "zod/mini";
import { faultOfLine } from "../line/topology.ts";
import { badInput, type Field } from "./calculator.ts";

const Word = z.string().check(z.minLength(1), z.maxLength(40));

/** A line as routes and polarity are worked out from it. */
export const LineInput = z.strictObject({
  turnouts: z.array(z.strictObject({ id: Word, hand: z.optional(z.string()) })).check(z.maxLength(2_000)),
  ends: z.array(Word).check(z.maxLength(2_000)),
  links: z.array(z.tuple([Word, Word])).check(z.maxLength(10_000)),
});
export type LineInput = z.infer<typeof LineInput>;

/** @throws {RecordError} that says where the line is wrong */
export function requireLine(line: LineInput): LineInput {
  const fault = faultOfLine(line);
  if (fault) throw badInput(fault.message, fault.path);
  return line;
}

/** What a form asks of a line: a balloon loop behind two turnouts. */
export const LINE_FIELDS: readonly Field[] = [
  { name: "turnouts", title: "Turnouts", unit: "", example: "Y1 Y2 B1", lines: 1 },
  { name: "ends", title: "Ends", unit: "", example: "main road1 road2", lines: 1 },
  {
    name: "links",
    title: "Links, one a line: two legs (Y1.toe, Y1.normal, Y1.reverse) or ends",
    unit: "",
    example:
      "main Y1.toe\nY1.normal Y2.toe\nY2.normal road1\nY2.reverse road2\nY1.reverse B1.toe\nB1.normal B1.reverse",
    lines: 7,
  },
];

/** The input that a form of these fields holds. */
export function lineFromForm(form: Record<string, unknown>): unknown {
  const words = (text: unknown) =>
    String(text ?? "")
      .split(/[\s,]+/)
      .filter((word) => word !== "");
  const lines = String(form.links ?? "").split("\n");
  return {
    turnouts: words(form.turnouts).map((id) => ({ id })),
    ends: words(form.ends),
    links: lines.map(words).filter((link) => link.length > 0),
  };
}
