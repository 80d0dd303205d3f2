import type * as z from "zod/mini";
import { type Problem, problemsOf, RecordError } from "../record/problems.ts";

/** A small reckoning with checked input and output, offered by the web, over HTTP and as a command. */
export interface Calculator {
  name: string;
  title: string;
  about: string;
  /** Fields in the order in which they are asked. */
  fields: readonly Field[];
  results: readonly Result[];
  /** Makes the input of what a form holds: numbers as numbers, choices and texts as they read. As it is when not given. */
  fromForm?: (form: Record<string, unknown>) => unknown;
  /** @throws {RecordError} whose first problem says where the input is wrong */
  run: (input: unknown) => Record<string, unknown>;
}

export interface Field {
  name: string;
  title: string;
  unit: string;
  /** What the form begins with. */
  example: number | string;
  choices?: readonly string[];
  /** The field takes a text of several lines, and shows this many. */
  lines?: number;
}

/** One result: a number, a list of words, or numbers by name. */
export interface Result {
  name: string;
  title: string;
  unit: string;
  digits: number;
}

interface Definition<I extends z.ZodMiniType, O extends z.ZodMiniType> extends Omit<Calculator, "run"> {
  input: I;
  output: O;
  run: (input: z.infer<I>) => z.infer<O>;
}

/** Makes a calculator of a typed definition: input is parsed before, output after. */
export function calculator<I extends z.ZodMiniType, O extends z.ZodMiniType>(definition: Definition<I, O>): Calculator {
  const { input, output, run, ...rest } = definition;
  return {
    ...rest,
    run: (given) => {
      const parsed = input.safeParse(given);
      if (!parsed.success) throw new RecordError(problemsOf(parsed.error));
      return output.parse(run(parsed.data)) as Record<string, unknown>;
    },
  };
}

/** An input that is of the right kind but cannot be reckoned with. */
export function badInput(message: string, path: Problem["path"]): RecordError {
  return new RecordError([{ message, path }]);
}
