import { CALCULATORS, type Calculator, type Problem, RecordError, type Result, readNumber } from "@alderman/core";
import { type ComponentType, useMemo } from "react";
import { Controller, useForm } from "react-hook-form";
import { Link, useParams } from "react-router";
import { PlainFrame } from "../frame/PlainFrame.tsx";
import { Choice } from "../kit/Choice.tsx";
import { DataTable } from "../kit/DataTable.tsx";
import { Field } from "../kit/Field.tsx";
import { Input, inputClass } from "../kit/Input.tsx";
import { Optional, part } from "../kit/part.tsx";
import { Sheet, SheetBody } from "../kit/Sheet.tsx";
import { Sheets } from "../kit/Sheets.tsx";

/** The calculators, without a railway. */
export function QuickSumsPage() {
  const { name } = useParams();
  const calculator = CALCULATORS.find((each) => each.name === name) ?? CALCULATORS[0];
  return (
    <PlainFrame title="Quick sums" about="Small calculations, without a railway">
      <Sheets columns="300px minmax(0,1fr)">
        <Sheet title="Sums">
          <SheetBody>
            <ul>
              {CALCULATORS.map((each) => (
                <li key={each.name}>
                  <Link
                    className={`block border-b border-rule px-3 py-2 ${each === calculator ? "bg-copper-wash shadow-[inset_3px_0_0_var(--copper)]" : ""}`}
                    to={`/quick-sums/${each.name}`}
                  >
                    <b className="font-head text-h3">{each.title}</b>
                    <p className="text-small text-ink-2">{each.about}</p>
                  </Link>
                </li>
              ))}
            </ul>
          </SheetBody>
        </Sheet>
        {calculator && <CalculatorSheet key={calculator.name} calculator={calculator} />}
      </Sheets>
    </PlainFrame>
  );
}

function CalculatorSheet({ calculator }: { calculator: Calculator }) {
  const { register, control, watch } = useForm<Record<string, string>>({
    defaultValues: Object.fromEntries(calculator.fields.map(({ name, example }) => [name, String(example)])),
  });
  const texts = watch();
  const written = JSON.stringify(texts);
  // the same as long as nothing is typed, so that a picture is worked out once
  const { output, input, problems } = useMemo(() => calculated(calculator, JSON.parse(written)), [calculator, written]);
  const Picture = PICTURES[calculator.name];
  return (
    <Sheet title={calculator.title} about={calculator.about}>
      <SheetBody>
        <div className="grid max-w-[760px] grid-cols-2 gap-8 p-4 max-sm:grid-cols-1">
          <form className="grid content-start gap-2.5" onSubmit={(event) => event.preventDefault()}>
            {calculator.fields.map(({ name, title, unit, choices, lines }) => (
              <Field key={name} label={title} problem={problems.find(({ path }) => path[0] === name)?.message} stacked>
                {(ids) => (
                  <div className="flex items-center gap-2">
                    {choices ? (
                      <Controller
                        control={control}
                        name={name}
                        render={({ field }) => (
                          <Choice
                            id={ids.id}
                            className="w-full"
                            value={field.value ?? ""}
                            options={choices.map((choice) => ({ value: choice, text: choice }))}
                            onChange={field.onChange}
                          />
                        )}
                      />
                    ) : lines ? (
                      <textarea
                        {...ids}
                        className={inputClass("py-1.5 font-mono text-small leading-[1.45]")}
                        rows={lines}
                        spellCheck={false}
                        {...register(name)}
                      />
                    ) : (
                      <Input {...ids} className="font-mono" inputMode="decimal" {...register(name)} />
                    )}
                    {!lines && <span className="w-8 text-ink-2">{unit}</span>}
                  </div>
                )}
              </Field>
            ))}
          </form>
          <div className="grid content-start gap-3" aria-live="polite">
            {output &&
              calculator.results.map((result, index) => (
                <div key={result.name} className={index === 0 ? "" : "border-t border-rule pt-2"}>
                  <div className="text-ink-2">{result.title}</div>
                  <Answer result={result} value={output[result.name]} first={index === 0} />
                </div>
              ))}
          </div>
        </div>
        {Picture && output && input && (
          <Optional>
            <Picture input={input} />
          </Optional>
        )}
      </SheetBody>
    </Sheet>
  );
}

/** Sums that have a picture below their results. */
const PICTURES: Record<string, ComponentType<{ input: Record<string, unknown> }>> = {
  "cdu-pulse": part(async () => (await import("./PulsePicture.tsx")).PulsePicture),
  "diode-matrix": part(async () => (await import("./MatrixPicture.tsx")).MatrixPicture),
};

function Answer({
  result: { name, title, unit, digits },
  value,
  first,
}: {
  result: Result;
  value: unknown;
  first: boolean;
}) {
  if (Array.isArray(value)) {
    return (
      <ol className="mt-1 grid gap-1 text-[16px]" data-result={name}>
        {value.map((word, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a band is known by its place only
          <li key={index}>
            <span className="mono mr-2 text-ink-2">{index + 1}</span>
            {wordsOf(word)}
          </li>
        ))}
      </ol>
    );
  }
  if (typeof value === "object" && value !== null) {
    const isOfLists = Object.values(value).some(Array.isArray);
    return (
      <div className="mt-1" data-result={name}>
        <DataTable<[string, unknown]>
          flowing
          label={title}
          items={Object.entries(value)}
          idOf={([key]) => key}
          columns={[
            { id: "name", title: "Name", mono: true, value: ([key]) => key },
            {
              ...{
                id: "value",
                title: unit || "Value",
                ...(isOfLists ? { wraps: true, mono: true } : { figures: true }),
              },
              cell: ([, each]) =>
                each === null
                  ? "open"
                  : Array.isArray(each)
                    ? each.join(", ") || "none"
                    : typeof each === "string"
                      ? each
                      : `${write(Number(each), digits)} ${unit}`,
            },
          ]}
        />
      </div>
    );
  }
  if (typeof value === "string" || typeof value === "boolean") {
    return (
      <div className="mono text-[16px] break-all" data-result={name}>
        {typeof value === "string" ? value : value ? "yes" : "no"}
      </div>
    );
  }
  return (
    <div className={first ? "read" : "mono text-[16px]"} data-result={name}>
      {write(Number(value), digits)}
      <u className="no-underline"> {unit}</u>
    </div>
  );
}

/** A thing of a list: a word, or what is said of a switch. */
function wordsOf(thing: unknown): string {
  if (typeof thing !== "object" || thing === null) return String(thing);
  if (Array.isArray(thing)) return thing.map(wordsOf).join(" to ");
  return Object.entries(thing)
    .map(([name, value]) => (typeof value === "object" ? wordsOf(value) : `${name} ${value}`))
    .join(", ");
}

function write(value: number, digits: number): string {
  return Number(value.toFixed(digits)).toString();
}

/** The results for what was typed, or what is wrong with it. */
function calculated(
  calculator: Calculator,
  texts: Readonly<Record<string, string>>,
): { output: Record<string, unknown> | null; input: Record<string, unknown> | null; problems: Problem[] } {
  const input: Record<string, unknown> = {};
  for (const { name, choices, lines } of calculator.fields) {
    const text = texts[name] ?? "";
    if (choices || lines) {
      input[name] = text;
      continue;
    }
    const read = readNumber(text);
    if ("problem" in read) return { output: null, input: null, problems: [{ path: [name], message: read.problem }] };
    input[name] = read.number;
  }
  try {
    const given = (calculator.fromForm?.(input) ?? input) as Record<string, unknown>;
    return { output: calculator.run(given), input: given, problems: [] };
  } catch (error) {
    if (!(error instanceof RecordError)) throw error;
    return { output: null, input: null, problems: error.problems };
  }
}
