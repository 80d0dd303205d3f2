import {
  LABEL_SHEETS,
  type LabelStyle,
  PAPER_SIZES,
  PAPERS,
  type Paper,
  type PaperSizeName,
  tablesOf,
} from "@alderman/core";
import { useEffect, useRef, useState } from "react";
import { Mark } from "../drawing/Mark.tsx";
import { Button } from "../kit/Button.tsx";
import { Checkbox } from "../kit/Checkbox.tsx";
import { ChoiceField } from "../kit/ChoiceField.tsx";
import { Dialog } from "../kit/Dialog.tsx";
import { Field, FormGrid } from "../kit/Field.tsx";
import { NumberField } from "../kit/NumberField.tsx";
import { Progress } from "../kit/Progress.tsx";
import { useKeptState } from "../kit/useKeptState.ts";
import { useRecord } from "../session/hooks.ts";
import { csvText, saveBytes, saveText } from "../tools/saveFile.ts";
import { date } from "../tools/when.ts";
import { OwnSheet } from "./OwnSheet.tsx";
import { optionsOf, type PaperChoices, scopesOf, sheetOf, USUAL_CHOICES } from "./paperChoices.ts";
import { PaperWork } from "./papers.ts";

type Format = "PDF" | "XLSX" | "CSV";

type Stage =
  | { at: "choosing"; said: string; warnings: readonly string[] }
  | { at: "working"; share: number; what: string };

const STYLES: { value: LabelStyle; text: string }[] = [
  { value: "flag", text: "as flags, folded round the wire" },
  { value: "wrap", text: "wound round the wire" },
];

/** Chooses papers of the loom and has them made as PDF, as a workbook or as CSV; making can be stopped. */
export function PapersDialog({
  close,
  only,
}: {
  close: () => void /** Papers to begin with, instead of those made last. */;
  only?: readonly string[];
}) {
  const record = useRecord();
  const [kept, setKept] = useKeptState<PaperChoices>("papers", USUAL_CHOICES);
  const [choices, setOwn] = useState<PaperChoices>(only ? { ...kept, papers: [...only] } : kept);
  const setChoices = (next: PaperChoices) => {
    setOwn(next);
    if (!only) setKept(next);
  };
  const [stage, setStage] = useState<Stage>({ at: "choosing", said: "", warnings: [] });
  const work = useRef<PaperWork | null>(null);
  useEffect(() => () => work.current?.stop(), []);
  if (!record) return null;
  const set = (change: Partial<PaperChoices>) => setChoices({ ...choices, ...change });
  const { faults } = sheetOf(choices);
  const hasLabels = choices.papers.includes("labels");
  const isReady = choices.papers.length > 0 && (!hasLabels || faults.length === 0);

  const make = async (format: Format) => {
    const own = new PaperWork();
    work.current = own;
    const isMine = () => work.current === own;
    const tell = (share: number, what: string) => isMine() && setStage({ at: "working", share, what });
    tell(0, "Working the railway out");
    const end = (said: string, warnings: readonly string[] = []) =>
      isMine() && setStage({ at: "choosing", said, warnings });
    try {
      await own.begin(record, optionsOf(record, choices));
      const { made, save } = await filesOf(own, format, tell);
      if (isMine()) for (const file of save) file();
      const warnings = made.flatMap((each) => ("paper" in each ? (each.paper.warnings ?? []) : [each.refused]));
      end(save.length === 1 ? "One file is saved." : `${save.length} files are saved.`, warnings);
    } catch (error) {
      end("", [error instanceof Error ? error.message : String(error)]);
    }
    own.stop();
  };

  /** @returns the papers, and what saves each file of them */
  const filesOf = async (own: PaperWork, format: Format, tell: (share: number, what: string) => void) => {
    const ids = PAPERS.flatMap(({ id }) => (choices.papers.includes(id) ? [id] : []));
    if (format === "PDF") {
      const head = {
        railway: record.railway.name,
        date: date(new Date().toISOString()),
        size: PAPER_SIZES[choices.size],
      };
      const { made, files } = await own.pdfs(ids, head, ({ made, set, what }) =>
        tell((made / 4 + set * 0.75) / ids.length, what),
      );
      return {
        made,
        save: files.map(
          ({ name, type, bytes }) =>
            () =>
              saveBytes(name, type, bytes),
        ),
      };
    }
    const made = await own.make(ids, (each, index) =>
      tell((index + 1) / (ids.length + 1), "paper" in each ? each.paper.title : ""),
    );
    const papers = made.flatMap((each) => ("paper" in each ? [each.paper] : []));
    if (format === "CSV")
      return { made, save: papers.map((paper) => () => saveText(`${paper.id}.csv`, "text/csv", csvOf(paper))) };
    const { name, type, bytes } = await own.xlsx(papers, "papers.xlsx");
    return { made, save: [() => saveBytes(name, type, bytes)] };
  };
  const cancel = () => {
    work.current?.stop();
    work.current = null;
    setStage({ at: "choosing", said: "", warnings: [] });
  };

  return (
    <Dialog title="Papers" about="Lists, labels and sheets for the work, each a file of its own." close={close}>
      <fieldset className="grid gap-1" aria-label="Papers">
        {PAPERS.map(({ id, title, about }) => (
          <Checkbox
            key={id}
            checked={choices.papers.includes(id)}
            onChange={(wanted) =>
              set({
                papers: PAPERS.flatMap((each) =>
                  (each.id === id ? wanted : choices.papers.includes(each.id)) ? [each.id] : [],
                ),
              })
            }
          >
            {title} <span className="text-small text-ink-2">{about}</span>
          </Checkbox>
        ))}
      </fieldset>
      <div className="mt-3">
        <FormGrid>
          <ChoiceField
            label="For"
            value={choices.scope}
            options={scopesOf(record)}
            onChange={(scope) => set({ scope })}
          />
          <ChoiceField
            label="Paper"
            value={choices.size}
            options={(Object.keys(PAPER_SIZES) as PaperSizeName[]).map((value) => ({ value, text: value }))}
            onChange={(size) => set({ size })}
          />
          {hasLabels && (
            <>
              <ChoiceField
                label="Sheets of labels"
                value={choices.sheet}
                options={[
                  ...LABEL_SHEETS.map(({ id, name }) => ({ value: id, text: name })),
                  { value: "own", text: "my own, by its measures" },
                ]}
                onChange={(sheet) => set({ sheet })}
              />
              {choices.sheet === "own" && <OwnSheet sheet={choices.own} faults={faults} set={(own) => set({ own })} />}
              <ChoiceField label="Fixed" value={choices.style} options={STYLES} onChange={(style) => set({ style })} />
              <Field label="Labels gone from the first sheet">
                {(ids) => (
                  <NumberField
                    ids={ids}
                    value={choices.used}
                    save={(used) => {
                      if (used === null || !Number.isInteger(used) || used < 0)
                        return "Type how many are gone, 0 for none.";
                      set({ used });
                      return null;
                    }}
                  />
                )}
              </Field>
              <Checkbox className="col-span-full" checked={choices.code} onChange={(code) => set({ code })}>
                With a QR code that says the same
              </Checkbox>
            </>
          )}
          <Checkbox className="col-span-full" checked={choices.openOnly} onChange={(openOnly) => set({ openOnly })}>
            Leave out wires that are cut, or labelled, already
          </Checkbox>
        </FormGrid>
      </div>
      {/* what comes of it stays in sight, however far the choices go */}
      <div className="sticky -bottom-4 -mx-4 mt-3 -mb-4 border-t border-rule bg-sheet px-4 py-3">
        {stage.at === "working" ? (
          <div className="mb-2" role="status">
            <Progress label="Progress of the papers" share={stage.share} />
            <p className="text-small text-ink-2">{stage.what} ...</p>
          </div>
        ) : (
          <div role="status" className="mb-2 grid max-h-40 gap-1 overflow-auto empty:hidden">
            {stage.said && <p>{stage.said}</p>}
            {stage.warnings.map((warning) => (
              <p key={warning} className="flex gap-2 bg-amber-wash px-3 py-2">
                <Mark verdict="doubtful" /> {warning}
              </p>
            ))}
          </div>
        )}
        <div className="flex gap-2">
          {stage.at === "working" ? (
            <Button onClick={cancel}>Cancel</Button>
          ) : (
            (["PDF", "XLSX", "CSV"] as const).map((format) => (
              <Button
                key={format}
                look={format === "PDF" ? "best" : "plain"}
                disabled={!isReady}
                onClick={() => void make(format)}
              >
                {format === "PDF" ? "Make PDF" : format}
              </Button>
            ))
          )}
        </div>
      </div>
    </Dialog>
  );
}

/** The tables of a paper, one below the other. */
function csvOf(paper: Paper): string {
  const tables = tablesOf(paper);
  return tables.map(({ name, rows }) => csvText(tables.length > 1 ? [[name], ...rows, []] : rows)).join("\r\n");
}
