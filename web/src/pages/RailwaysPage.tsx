import { count, MOST_CHARACTERS, Railway, type Summary } from "@alderman/core";
import { zodResolver } from "@hookform/resolvers/zod";
import { Download, FolderOpen, Trash2, Upload } from "lucide-react";
import { useEffect, useState } from "react";
import { useForm } from "react-hook-form";
import { Link, useNavigate } from "react-router";
import * as z from "zod/mini";
import { Mark } from "../drawing/Mark.tsx";
import { PlainFrame } from "../frame/PlainFrame.tsx";
import { Button, buttonClass } from "../kit/Button.tsx";
import { DataTable } from "../kit/DataTable.tsx";
import { AlertDialog } from "../kit/Dialog.tsx";
import { Field, Problem } from "../kit/Field.tsx";
import { FileButton } from "../kit/FileButton.tsx";
import { Input } from "../kit/Input.tsx";
import { Sheet } from "../kit/Sheet.tsx";
import { Sheets } from "../kit/Sheets.tsx";
import { expectRailway } from "../session/actions.ts";
import { api, sentenceOf } from "../store/api.ts";
import { useAppDispatch } from "../store/store.ts";
import { trimmed } from "../tools/trimmed.ts";
import { dateAndTime, isClockBehind } from "../tools/when.ts";
import { Backups } from "./Backups.tsx";

const SAMPLES: Record<string, string> = {
  "skerrin-ferry": "Skerrin Ferry, a train-ferry terminal: fourteen turnouts, and five things wired wrong to be found",
  yard: "A yard of six roads with a diode board at each end: one button sets both ends, all in order",
  shelf: "A shelf of four turnouts: coils, one discharge unit, toggles and lamps, all in order",
  schools: "The schools side by side: one turnout for each way of driving, feeding the frog and showing",
  mistakes: "One mistake for each rule, wired wrong on purpose, to see what is found and what cures it",
  "club-400": "A generated club railway of 400 turnouts, to see how it bears a load",
};

/** Place among the samples: the demo first, any that are not described last. */
function placeOf(sample: string): number {
  const place = Object.keys(SAMPLES).indexOf(sample);
  return place < 0 ? Object.keys(SAMPLES).length : place;
}

/** The railways kept here: open, new, import, samples. */
export function RailwaysPage() {
  const { data = [], isLoading, error } = api.useRailwaysQuery(undefined, { refetchOnMountOrArgChange: true });
  const [removing, setRemoving] = useState<Summary | null>(null);
  useExpected(data);
  return (
    <PlainFrame title="Railways" about="All are kept on this machine; no network is needed.">
      <Sheets columns="minmax(0,1.5fr) minmax(0,1fr)" rows="minmax(0,1fr)">
        <div className="flex min-h-0 flex-col gap-2.5">
          {isClockBehind(
            data.map(({ changedAt }) => changedAt),
            Date.now(),
          ) && (
            <p role="alert" className="border border-rule-2 bg-sheet p-3">
              <Mark verdict="doubtful" size={15} /> This machine's clock says {dateAndTime(new Date().toISOString())},
              and something here was changed later than that. Set the clock: what you do now gets a wrong date, and the
              list and the backups stand in a wrong order.
            </p>
          )}
          <Sheet title="Open" className="flex-1" about={isLoading ? "" : `${data.length} kept here`}>
            {error ? (
              <p role="alert" className="p-3 text-red">
                {sentenceOf(error)}
              </p>
            ) : (
              <DataTable<Summary>
                label="Railways"
                items={data}
                idOf={({ id }) => id}
                empty={
                  !isLoading && (
                    <p className="p-3 text-ink-2">
                      None yet. Begin a new one beside this, or open a sample to look around.
                    </p>
                  )
                }
                columns={[
                  {
                    ...{ id: "name", title: "Railway", wraps: true, value: ({ name }) => name },
                    cell: ({ id, name, problem }) =>
                      problem ? (
                        <span>
                          <b className="font-head text-[16px] font-semibold">{name}</b>
                          <span className="block text-small text-red">
                            {problem} Put a backup back, or export it as it is.
                          </span>
                        </span>
                      ) : (
                        <Link
                          className="font-head text-[16px] font-semibold underline decoration-rule-2 underline-offset-3"
                          to={`/r/${id}`}
                        >
                          {name}
                        </Link>
                      ),
                  },
                  { id: "turnouts", title: "Turnouts", figures: true, value: ({ turnouts }) => turnouts },
                  {
                    ...{ id: "open", title: "Left open", figures: true, value: ({ openEnds }) => openEnds },
                    cell: ({ id, openEnds }) =>
                      openEnds > 0 ? (
                        <Link className="underline decoration-rule-2" to={`/r/${id}/open-ends`}>
                          {count(openEnds, "open end")}
                        </Link>
                      ) : (
                        "nothing"
                      ),
                  },
                  { id: "revision", spare: true, title: "Revision", figures: true, value: ({ revision }) => revision },
                  {
                    ...{ id: "changed", spare: true, title: "Last changed", value: ({ changedAt }) => changedAt },
                    cell: ({ changedAt }) => dateAndTime(changedAt),
                  },
                  {
                    ...{ id: "actions", title: "What to do", untitled: true },
                    cell: (railway) => (
                      <span className="flex justify-end gap-1.5 max-sm:flex-col">
                        <a
                          className={buttonClass("plain", "small")}
                          href={`/api/railways/${railway.id}/${railway.problem ? "rows" : "file"}`}
                          download
                          aria-label={`Export ${railway.name}`}
                        >
                          <Download size={13} aria-hidden="true" /> Export
                        </a>
                        <Button size="small" aria-label={`Remove ${railway.name}`} onClick={() => setRemoving(railway)}>
                          <Trash2 size={13} aria-hidden="true" /> Remove
                        </Button>
                      </span>
                    ),
                  },
                ]}
              />
            )}
          </Sheet>
          <Backups />
        </div>
        <div className="flex min-h-0 flex-col gap-2.5">
          <NewRailway />
          <Import />
          <Samples />
        </div>
      </Sheets>
      {removing && <RemoveDialog railway={removing} close={() => setRemoving(null)} />}
    </PlainFrame>
  );
}

/** Time for which the list stands as it is before a railway of it is read ahead, milliseconds. */
const STANDS = 500;

/** Has the railway that was changed last, with which the list begins, read ahead: it is the one that is mostly opened next. */
function useExpected(railways: readonly Summary[]): void {
  const dispatch = useAppDispatch();
  const id = railways.find(({ problem }) => !problem)?.id;
  useEffect(() => {
    if (!id) return;
    const timer = setTimeout(() => {
      // a list that nobody sees is left alone
      if (!document.hidden) dispatch(expectRailway(id));
    }, STANDS);
    return () => clearTimeout(timer);
  }, [dispatch, id]);
}

const NewFields = z.object({ name: trimmed(Railway.shape.name) });

function NewRailway() {
  const [create, { isLoading }] = api.useCreateMutation();
  const navigate = useNavigate();
  const { register, handleSubmit, setError, formState } = useForm({
    resolver: zodResolver(NewFields),
    defaultValues: { name: "" },
  });
  const begin = handleSubmit(async ({ name }) => {
    const { data, error } = await create(name);
    if (data) void navigate(`/r/${data.id}/equip?view=list`);
    else setError("name", { message: sentenceOf(error) });
  });
  const problem = formState.errors.name?.message;
  return (
    <Sheet title="New railway">
      <form className="p-3" onSubmit={begin}>
        <Field
          label="What is it called?"
          problem={problem && (problem.endsWith(".") ? problem : `The name ${problem}.`)}
          stacked
        >
          {(ids) => (
            <div className="flex gap-2">
              <Input {...ids} {...register("name")} />
              <Button type="submit" look="best" disabled={isLoading}>
                Begin
              </Button>
            </div>
          )}
        </Field>
      </form>
    </Sheet>
  );
}

function Import() {
  const [importFile, { isLoading }] = api.useImportFileMutation();
  const [problem, setProblem] = useState<string | null>(null);
  const navigate = useNavigate();
  const open = async (file: File) => {
    setProblem(null);
    if (file.size > MOST_CHARACTERS) {
      const [has, may] = [Math.round(file.size / 1e6), MOST_CHARACTERS / 1e6];
      setProblem(`${file.name} has ${has} MB; a railway file may have ${may} MB. It was not read.`);
      return;
    }
    const answer = await importFile(await file.text());
    if (answer.data) void navigate(`/r/${answer.data.id}`);
    else setProblem(sentenceOf(answer.error));
  };
  return (
    <Sheet title="Import">
      <div className="flex flex-wrap items-center gap-2 p-3">
        <p className="min-w-40 flex-1">Import a railway file exported earlier; nothing is lost.</p>
        <FileButton accept=".json,application/json" disabled={isLoading} onFile={(file) => void open(file)}>
          <Upload size={14} aria-hidden="true" /> {isLoading ? "Reading ..." : "Choose a railway file"}
        </FileButton>
        <Problem text={problem} />
      </div>
    </Sheet>
  );
}

function Samples() {
  const { data = [] } = api.useSamplesQuery();
  const [openSample] = api.useOpenSampleMutation();
  const navigate = useNavigate();
  const open = async (sample: string) => {
    const answer = await openSample(sample);
    if (answer.data) void navigate(`/r/${answer.data.id}`);
  };
  return (
    <Sheet title="Samples" className="flex-1">
      <ul className="min-h-0 flex-1 overflow-auto">
        {[...data]
          .sort((a, b) => placeOf(a) - placeOf(b))
          .map((sample) => (
            <li key={sample} className="flex items-center gap-3 border-b border-rule p-3">
              <span className="flex-1">{SAMPLES[sample] ?? sample}</span>
              <Button onClick={() => void open(sample)}>
                <FolderOpen size={14} aria-hidden="true" /> Open a copy
              </Button>
            </li>
          ))}
      </ul>
    </Sheet>
  );
}

/** Removing cannot be undone, so the name has to be typed. */
function RemoveDialog({ railway, close }: { railway: Summary; close: () => void }) {
  const [remove, { error }] = api.useRemoveRailwayMutation();
  const { register, watch, handleSubmit } = useForm({ defaultValues: { name: "" } });
  const typed = watch("name").trim() === railway.name;
  const submit = handleSubmit(async () => {
    if (!typed) return;
    const answer = await remove(railway.id);
    if (!("error" in answer && answer.error)) close();
  });
  return (
    <AlertDialog
      title={`Remove ${railway.name}?`}
      about="Its history goes with it, and this cannot be undone. Export it first if you may want it again."
      close={close}
      actions={
        <Button look="best" disabled={!typed} onClick={() => void submit()}>
          Remove
        </Button>
      }
    >
      <form onSubmit={submit}>
        <Field label="Type its name to remove it" problem={error ? sentenceOf(error) : null} stacked>
          {(ids) => <Input {...ids} {...register("name")} />}
        </Field>
      </form>
    </AlertDialog>
  );
}
