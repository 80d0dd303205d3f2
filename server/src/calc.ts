import { readFileSync } from "node:fs";
import { CALCULATORS, calculatorCalled, RecordError } from "@alderman/core";

/** A calculator as a command: JSON on standard input, JSON on standard output; bad input is one JSON line on standard error and exit 2. */
function run(): unknown {
  const name = process.argv[2] ?? "";
  const calculator = calculatorCalled(name);
  if (!calculator)
    fail(`There is no calculator called "${name}". There are: ${CALCULATORS.map((each) => each.name).join(", ")}.`, []);
  let input: unknown;
  try {
    input = JSON.parse(readFileSync(0, "utf8"));
  } catch {
    fail("The input is not JSON.", []);
  }
  try {
    return calculator.run(input);
  } catch (error) {
    if (!(error instanceof RecordError)) throw error;
    fail(error.message, error.problems[0]?.path ?? []);
  }
}

function fail(message: string, path: (string | number)[]): never {
  process.stderr.write(`${JSON.stringify({ error: { message, path } })}\n`);
  process.exit(2);
}

process.stdout.write(`${JSON.stringify(run())}\n`);
