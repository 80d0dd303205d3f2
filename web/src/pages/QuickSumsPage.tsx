import { CALCULATORS, type Calculator, type Problem, RecordError, type Result } from "@alderman/core";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { PlainFrame } from "../parts/PlainFrame.tsx";
import { Sheet } from "../parts/Sheet.tsx";

/** The calculators, without a railway. */
export function QuickSumsPage() {
  const { name } = useParams();
  const calculator = CALCULATORS.find((each) => each.name === name) ?? CALCULATORS[0];
  return (
    <PlainFrame title="Quick sums" about="Small reckonings, without a railway">
      <div className="grid min-h-0 grid-cols-[300px_minmax(0,1fr)] gap-2.5">
        <Sheet title="Sums">
          <ul>
            {CALCULATORS.map((each) => (
              <li key={each.name}>
                <Link
                  className={`block border-b border-rule px-3 py-2 ${each === calculator ? "bg-copper-wash shadow-[inset_3px_0_0_var(--copper)]" : ""}`}
                  to={`/quick-sums/${each.name}`}
                >
                  <b className="font-head text-[14px]">{each.title}</b>
                  <p className="quiet text-[12px]">{each.about}</p>
                </Link>
              </li>
            ))}
          </ul>
        </Sheet>
        {calculator && <CalculatorSheet key={calculator.name} calculator={calculator} />}
      </div>
    </PlainFrame>
  );
}

function CalculatorSheet({ calculator }: { calculator: Calculator }) {
  const [texts, setTexts] = useState<Record<string, string>>(() =>
    Object.fromEntries(calculator.fields.map(({ name, example }) => [name, String(example)])),
  );
  const { output, problems } = reckon(calculator, texts);
  return (
    <Sheet title={calculator.title} about={calculator.about}>
      <div className="grid max-w-[760px] grid-cols-2 gap-8 p-4">
        <div className="grid content-start gap-2.5">
          {calculator.fields.map(({ name, title, unit, choices, lines }) => {
            const problem = problems.find(({ path }) => path[0] === name);
            const id = `sum-${name}`;
            const set = (text: string) => setTexts({ ...texts, [name]: text });
            return (
              <div key={name}>
                <label htmlFor={id}>{title}</label>
                <div className="mt-1 flex items-center gap-2">
                  {choices ? (
                    <select id={id} className="field" value={texts[name]} onChange={(event) => set(event.target.value)}>
                      {choices.map((choice) => (
                        <option key={choice}>{choice}</option>
                      ))}
                    </select>
                  ) : lines ? (
                    <textarea
                      id={id}
                      className="field mono !h-auto py-1.5 text-[12px] leading-[1.45]"
                      rows={lines}
                      spellCheck={false}
                      aria-invalid={problem !== undefined}
                      value={texts[name]}
                      onChange={(event) => set(event.target.value)}
                    />
                  ) : (
                    <input
                      id={id}
                      className="field mono"
                      inputMode="decimal"
                      autoComplete="off"
                      aria-invalid={problem !== undefined}
                      value={texts[name]}
                      onChange={(event) => set(event.target.value)}
                    />
                  )}
                  {!lines && <span className="quiet w-8">{unit}</span>}
                </div>
                {problem && <p className="mt-0.5 text-[12px] text-red">{problem.message}</p>}
              </div>
            );
          })}
        </div>
        <div className="grid content-start gap-3" aria-live="polite">
          {output &&
            calculator.results.map((result, index) => (
              <div key={result.name} className={index === 0 ? "" : "border-t border-rule pt-2"}>
                <div className="quiet">{result.title}</div>
                <Answer result={result} value={output[result.name]} first={index === 0} />
              </div>
            ))}
        </div>
      </div>
    </Sheet>
  );
}

function Answer({ result: { name, unit, digits }, value, first }: { result: Result; value: unknown; first: boolean }) {
  if (Array.isArray(value)) {
    return (
      <ol className="mt-1 grid gap-1 text-[16px]" data-result={name}>
        {value.map((word, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a band is known by its place only
          <li key={index}>
            <span className="quiet mono mr-2">{index + 1}</span>
            {String(word)}
          </li>
        ))}
      </ol>
    );
  }
  if (typeof value === "object" && value !== null) {
    return (
      <table className="list mt-1" data-result={name}>
        <tbody>
          {Object.entries(value).map(([key, each]) => (
            <tr key={key}>
              <td className="mono">{key}</td>
              <td className="num">{each === null ? "open" : `${write(Number(each), digits)} ${unit}`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    );
  }
  return (
    <div className={first ? "read" : "mono text-[16px]"} data-result={name}>
      {write(Number(value), digits)}
      <u className="no-underline"> {unit}</u>
    </div>
  );
}

function write(value: number, digits: number): string {
  return Number(value.toFixed(digits)).toString();
}

function reckon(
  calculator: Calculator,
  texts: Record<string, string>,
): { output: Record<string, unknown> | null; problems: Problem[] } {
  const input: Record<string, unknown> = {};
  for (const { name, choices, lines } of calculator.fields) {
    const raw = texts[name] ?? "";
    const text = raw.trim().replace(",", ".");
    if (choices || lines) input[name] = raw;
    else if (text === "" || Number.isNaN(Number(text)))
      return { output: null, problems: [{ path: [name], message: "Type a number." }] };
    else input[name] = Number(text);
  }
  try {
    return { output: calculator.run(calculator.fromForm?.(input) ?? input), problems: [] };
  } catch (error) {
    if (!(error instanceof RecordError)) throw error;
    return { output: null, problems: error.problems };
  }
}
