// What failed, by the reports that Vitest and Playwright write, so that it can be said once more at the end.
import { stripVTControlCharacters } from "node:util";

/** Most characters of a failure's message that are said again. */
const MOST = 3_000;

const plain = (text) => stripVTControlCharacters(text).slice(0, MOST);

/** Failed tests of a report by Vitest; files that could not be loaded are among them. @returns [{name, why}] */
export function failedUnits(report) {
  return (report?.testResults ?? []).flatMap(({ name, message, status, assertionResults }) => {
    const failed = assertionResults.filter((each) => each.status === "failed");
    if (failed.length === 0 && status === "failed") return [{ name, why: plain(message) }];
    return failed.map(({ fullName, failureMessages }) => ({
      name: `${name}: ${fullName}`,
      why: plain(failureMessages.join("\n")),
    }));
  });
}

/** Tests that failed in each of their tries, of a report by Playwright. @returns [{name, why}] */
export function failedPages(report) {
  const specsOf = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specsOf)];
  return (report?.suites ?? [])
    .flatMap(specsOf)
    .filter(({ tests }) => tests.some(({ status }) => status === "unexpected"))
    .map(({ file, line, title, tests }) => ({
      name: `${file}:${line}: ${title}`,
      why: plain(
        tests
          .flatMap(({ results }) => results.flatMap(({ errors }) => errors.map(({ message }) => message)))
          .join("\n"),
      ),
    }));
}
