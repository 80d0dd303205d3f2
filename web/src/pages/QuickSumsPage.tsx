import { CALCULATORS, type Calculator, type Problem, RecordError } from "@alderman/core";
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
          {calculator.fields.map(({ name, title, unit, choices }) => {
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
                  <span className="quiet w-8">{unit}</span>
                </div>
                {problem && <p className="mt-0.5 text-[12px] text-red">{problem.message}</p>}
              </div>
            );
          })}
        </div>
        <div className="grid content-start gap-3" aria-live="polite">
          {output &&
            calculator.results.map(({ name, title, unit, digits }, index) => (
              <div key={name} className={index === 0 ? "" : "border-t border-rule pt-2"}>
                <div className="quiet">{title}</div>
                <div className={index === 0 ? "read" : "mono text-[16px]"} data-result={name}>
                  {write(Number(output[name]), digits)}
                  <u className="no-underline"> {unit}</u>
                </div>
              </div>
            ))}
        </div>
      </div>
    </Sheet>
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
  for (const { name, choices } of calculator.fields) {
    const text = (texts[name] ?? "").trim().replace(",", ".");
    if (choices) input[name] = text;
    else if (text === "" || Number.isNaN(Number(text)))
      return { output: null, problems: [{ path: [name], message: "Type a number." }] };
    else input[name] = Number(text);
  }
  try {
    return { output: calculator.run(input), problems: [] };
  } catch (error) {
    if (!(error instanceof RecordError)) throw error;
    return { output: null, problems: error.problems };
  }
}
