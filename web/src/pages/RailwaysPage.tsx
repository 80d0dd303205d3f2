import { count, MOST_CHARACTERS, type Summary } from "@alderman/core";
import { type FormEvent, useState } from "react";
import { Link, useNavigate } from "react-router";
import { SheetDialog } from "../parts/Dialogs.tsx";
import { PlainFrame } from "../parts/PlainFrame.tsx";
import { Sheet } from "../parts/Sheet.tsx";
import { dateAndTime } from "../parts/when.ts";
import { api, sentenceOf } from "../store/api.ts";

const SAMPLES: Record<string, string> = {
  "skerrin-ferry": "Skerrin Ferry, a train-ferry terminal: fourteen turnouts, and five things wired wrong to be found",
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
  return (
    <PlainFrame title="Railways" about="All are kept on this machine; no network is needed.">
      <div className="grid min-h-0 grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)] gap-2.5">
        <Sheet title="Open" about={isLoading ? "" : `${data.length} kept here`}>
          <div className="scroll">
            {error && (
              <p role="alert" className="p-3 text-red">
                {sentenceOf(error)}
              </p>
            )}
            {!isLoading && !error && data.length === 0 && (
              <p className="quiet p-3">None yet. Begin a new one beside this, or open the sample to look around.</p>
            )}
            <table className="list">
              <tbody>
                {data.map((railway) => (
                  <tr key={railway.id}>
                    <td>
                      <Link
                        className="font-head text-[16px] font-semibold underline decoration-rule-2 underline-offset-3"
                        to={`/r/${railway.id}`}
                      >
                        {railway.name}
                      </Link>
                      <div className="quiet text-[12px]">
                        revision {railway.revision}, {dateAndTime(railway.changedAt)}
                      </div>
                    </td>
                    <td className="num">{railway.turnouts} turnouts</td>
                    <td className="num">
                      {railway.openEnds > 0 ? (
                        <Link className="underline decoration-rule-2" to={`/r/${railway.id}/open-ends`}>
                          {count(railway.openEnds, "open end")}
                        </Link>
                      ) : (
                        "nothing open"
                      )}
                    </td>
                    <td className="text-right">
                      <a className="btn !min-h-6" href={`/api/railways/${railway.id}/file`} download>
                        Export
                      </a>{" "}
                      <button type="button" className="btn !min-h-6" onClick={() => setRemoving(railway)}>
                        Remove
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </Sheet>
        <div className="grid content-start gap-2.5">
          <NewRailway />
          <Import />
          <Samples />
        </div>
      </div>
      {removing && <RemoveDialog railway={removing} close={() => setRemoving(null)} />}
    </PlainFrame>
  );
}

function NewRailway() {
  const [create, { isLoading, error }] = api.useCreateMutation();
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const { data } = await create(name.trim());
    if (data) void navigate(`/r/${data.id}/equip?view=list`);
  };
  return (
    <Sheet title="New railway">
      <form className="grid gap-2 p-3" onSubmit={submit}>
        <label htmlFor="new-railway">What is it called?</label>
        <div className="flex gap-2">
          <input
            id="new-railway"
            className="field"
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <button type="submit" className="btn go" disabled={name.trim() === "" || isLoading}>
            Begin
          </button>
        </div>
        {error && (
          <p role="alert" className="text-red">
            {sentenceOf(error)}
          </p>
        )}
      </form>
    </Sheet>
  );
}

function Import() {
  const [importFile, { isLoading }] = api.useImportFileMutation();
  const [problem, setProblem] = useState<string | null>(null);
  const navigate = useNavigate();
  const open = async (file: File | undefined) => {
    if (!file) return;
    setProblem(null);
    if (file.size > MOST_CHARACTERS) {
      setProblem(
        `${file.name} has ${Math.round(file.size / 1e6)} MB; a railway file may have ${MOST_CHARACTERS / 1e6} MB. It was not read.`,
      );
      return;
    }
    const answer = await importFile(await file.text());
    if (answer.data) void navigate(`/r/${answer.data.id}`);
    else setProblem(sentenceOf(answer.error));
  };
  return (
    <Sheet title="Import">
      <div className="grid justify-items-start gap-2 p-3">
        <p>A railway that was exported reads back to the same railway.</p>
        <label className="btn cursor-pointer focus-within:outline-3 focus-within:outline-focus">
          {isLoading ? "Reading ..." : "Choose a railway file"}
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={(event) => {
              void open(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
        </label>
        {problem && (
          <p role="alert" className="text-red">
            {problem}
          </p>
        )}
      </div>
    </Sheet>
  );
}

function Samples() {
  const { data = [] } = api.useSamplesQuery();
  const [openSample] = api.useOpenSampleMutation();
  const navigate = useNavigate();
  return (
    <Sheet title="Samples">
      <ul>
        {[...data]
          .sort((a, b) => placeOf(a) - placeOf(b))
          .map((sample) => (
            <li key={sample} className="flex items-center gap-3 border-b border-rule p-3">
              <span className="flex-1">{SAMPLES[sample] ?? sample}</span>
              <button
                type="button"
                className="btn"
                onClick={async () => {
                  const answer = await openSample(sample);
                  if (answer.data) void navigate(`/r/${answer.data.id}`);
                }}
              >
                Open a copy
              </button>
            </li>
          ))}
      </ul>
    </Sheet>
  );
}

/** Removing cannot be undone, so the name has to be typed. */
function RemoveDialog({ railway, close }: { railway: Summary; close: () => void }) {
  const [remove, { error }] = api.useRemoveRailwayMutation();
  const [name, setName] = useState("");
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const answer = await remove(railway.id);
    if (!("error" in answer && answer.error)) close();
  };
  return (
    <SheetDialog
      title={`Remove ${railway.name}?`}
      about="Its history goes with it, and this cannot be undone. Export it first if you may want it again."
      close={close}
    >
      <form className="grid gap-2" onSubmit={submit}>
        <label htmlFor="remove-name">Type its name to remove it</label>
        <input id="remove-name" className="field" value={name} onChange={(event) => setName(event.target.value)} />
        <button type="submit" className="btn justify-self-start" disabled={name.trim() !== railway.name}>
          Remove
        </button>
        {error && (
          <p role="alert" className="text-red">
            {sentenceOf(error)}
          </p>
        )}
      </form>
    </SheetDialog>
  );
}
