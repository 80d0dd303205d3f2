import { readFileSync } from "node:fs";
import { curesOf, Derived, type Finding, openRailwayFile, type RailwayRecord, RecordError } from "@alderman/core";

/** What the command says of one finding. */
interface CheckedFinding {
  rule: string;
  severity: Finding["severity"];
  /** Where it is: a device, a turnout, an address. */
  subject: string;
  /** Labels of the turnouts that it concerns. */
  turnouts: string[];
  why: string;
  /** What cures it, in words: each was made and solved before it is named. */
  remedies: string[];
}

/**
 * npm run -s check -- FILE.json: the findings of a railway file as one JSON object on standard output. Exit 0 when nothing
 * is of severity "stop", 1 when something is; 2, with one JSON line on standard error, when the file cannot be read.
 * What the owner keeps, with a reason, does not count.
 */
function run(path: string | undefined): number {
  if (path === undefined) fail("Name the railway file to check, as in: npm run -s check -- my-railway.json");
  const record = read(path);
  const derived = new Derived(record);
  const labels = new Map(record.turnouts.map(({ id, label }) => [id, label]));
  const checked = derived.findings
    .filter(({ kept }) => kept === null)
    .map((finding): CheckedFinding => {
      const { ruleId, severity, where, turnoutIds, why } = finding;
      const offered = curesOf(derived, finding).filter(({ group }) => group !== null);
      return {
        ...{ rule: ruleId, severity, subject: where, turnouts: turnoutIds.map((id) => labels.get(id) ?? id) },
        ...{ why, remedies: offered.map(({ label }) => label) },
      };
    });
  const report = { railway: record.railway.name, turnouts: record.turnouts.length, findings: checked };
  process.stdout.write(`${JSON.stringify(report)}\n`);
  return checked.some(({ severity }) => severity === "stop") ? 1 : 0;
}

function read(path: string): RailwayRecord {
  let text: string;
  try {
    text = readFileSync(path, "utf8");
  } catch (error) {
    const code = error instanceof Error && "code" in error ? String(error.code) : String(error);
    fail(`The file ${path} cannot be opened (${code}).`);
  }
  try {
    return openRailwayFile(text);
  } catch (error) {
    if (!(error instanceof RecordError)) throw error;
    fail(error.message, error.problems[0]?.path ?? []);
  }
}

function fail(message: string, path: (string | number)[] = []): never {
  process.stderr.write(`${JSON.stringify({ error: { message, path } })}\n`);
  process.exit(2);
}

process.exitCode = run(process.argv[2]);
