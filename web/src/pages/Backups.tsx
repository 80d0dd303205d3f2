import { count } from "@alderman/core";
import { RotateCcw, Save, Stethoscope } from "lucide-react";
import { useState } from "react";
import { Button } from "../kit/Button.tsx";
import { DataTable } from "../kit/DataTable.tsx";
import { AlertDialog } from "../kit/Dialog.tsx";
import { Problem } from "../kit/Field.tsx";
import { Sheet } from "../kit/Sheet.tsx";
import { api, type Backup, sentenceOf } from "../store/api.ts";
import { dateAndTime } from "../tools/when.ts";

const KINDS: Record<Backup["kind"], string> = {
  daily: "by itself, each day",
  "before-update": "before an update",
  asked: "asked for",
  replaced: "put aside for another",
};

/** Backups of everything that is kept here: made each day and at a wish, put back, and a look at whether all is sound. */
export function Backups() {
  const { data = [], error } = api.useBackupsQuery();
  const [makeBackup, making] = api.useMakeBackupMutation();
  const [check, checking] = api.useCheckDatabaseMutation();
  const [chosen, choose] = useState<Backup | null>(null);
  const problem = error ?? making.error ?? checking.error;
  const damage = checking.data?.damage;
  return (
    <Sheet
      title="Backups"
      about={data.length === 0 ? "one is made each day" : `${count(data.length, "backup")} of all railways together`}
      className="max-h-[45%]"
      actions={
        <>
          <Button size="small" disabled={checking.isLoading} onClick={() => void check()}>
            <Stethoscope size={13} aria-hidden="true" /> {checking.isLoading ? "Looking ..." : "Check all"}
          </Button>
          <Button size="small" disabled={making.isLoading} onClick={() => void makeBackup()}>
            <Save size={13} aria-hidden="true" /> {making.isLoading ? "Writing ..." : "Back up now"}
          </Button>
        </>
      }
    >
      <div aria-live="polite">
        {problem && <Problem text={sentenceOf(problem)} />}
        {damage && (
          <p className={`px-3 py-2 ${damage.length > 0 ? "bg-red-wash" : ""}`}>
            {damage.length === 0
              ? "Looked at every page, index and key: all is sound."
              : `The database is damaged: ${damage[0]}. Put a backup back.`}
          </p>
        )}
      </div>
      <DataTable<Backup>
        label="Backups"
        items={data}
        idOf={({ name }) => name}
        empty={<p className="p-3 text-ink-2">None yet.</p>}
        columns={[
          {
            ...{ id: "at", title: "Made", value: ({ at }) => at },
            cell: ({ at }) => dateAndTime(at),
          },
          { ...{ id: "kind", title: "Why", value: ({ kind }) => KINDS[kind] } },
          {
            ...{
              id: "bytes",
              spare: true,
              title: "Size, kB",
              figures: true,
              value: ({ bytes }) => Math.ceil(bytes / 1000),
            },
          },
          {
            ...{ id: "actions", title: "What to do", untitled: true },
            cell: (backup) => (
              <span className="flex justify-end">
                <Button
                  size="small"
                  aria-label={`Put back the one of ${dateAndTime(backup.at)}`}
                  onClick={() => choose(backup)}
                >
                  <RotateCcw size={13} aria-hidden="true" /> Put back
                </Button>
              </span>
            ),
          },
        ]}
      />
      {chosen && <PutBack backup={chosen} close={() => choose(null)} />}
    </Sheet>
  );
}

function PutBack({ backup, close }: { backup: Backup; close: () => void }) {
  const [putBack, { error, isLoading }] = api.usePutBackMutation();
  const submit = async () => {
    const answer = await putBack(backup.name);
    if (!("error" in answer && answer.error)) close();
  };
  return (
    <AlertDialog
      title={`Put back what was kept on ${dateAndTime(backup.at)}?`}
      about="All railways become what they were then. What is here now is kept as a backup first, so that this can be taken back."
      close={close}
      actions={
        <Button look="best" disabled={isLoading} onClick={() => void submit()}>
          Put back
        </Button>
      }
    >
      <Problem text={error ? sentenceOf(error) : null} />
    </AlertDialog>
  );
}
