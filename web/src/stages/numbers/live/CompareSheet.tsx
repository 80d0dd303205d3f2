import {
  compareAddresses,
  compareNodes,
  count,
  type EditGroup,
  list,
  noteAnswers,
  noteNodes,
  noteSettings,
  type OutputAddress,
  programmingOrder,
  type RailwayRecord,
  setAnswer,
  threadsOf,
} from "@alderman/core";
import { type ReactNode, useMemo, useRef, useState } from "react";
import { Button } from "../../../kit/Button.tsx";
import { Progress } from "../../../kit/Progress.tsx";
import { Sheet, SheetBody } from "../../../kit/Sheet.tsx";
import type { LiveLine } from "../../../live/liveLine.ts";
import {
  askNodes,
  locksOf,
  programAll,
  readAll,
  stationSettings,
  type Tell,
  teachAll,
  tryAll,
  writeAll,
} from "../../../live/work.ts";
import { useEdit } from "../../../session/useEdit.ts";

type Part = "addresses" | "events" | "settings";

interface Found {
  words: string;
  /** Writes it down; null when it is down. */
  note: ((record: RailwayRecord) => EditGroup | null) | null;
}

/** What is wanted beside what the devices answer, for the whole railway; and putting it right over the line. */
export function CompareSheet({
  railwayId,
  record,
  outputs,
  line,
  attempt,
}: {
  railwayId: string;
  record: RailwayRecord;
  outputs: readonly OutputAddress[];
  line: LiveLine;
  attempt: (work: () => Promise<unknown>) => Promise<void>;
}) {
  const act = useEdit();
  const [found, setFound] = useState<Partial<Record<Part, Found>>>({});
  const [busy, setBusy] = useState<{ part: Part; share: number } | null>(null);
  // what is written down meanwhile is part of the record that the next step is made of
  const latest = useRef({ record, outputs });
  latest.current = { record, outputs };
  const there = new Set(line.status?.gateways.map(({ name }) => name));
  const at = () => new Date().toISOString();
  const run = (part: Part, work: (tell: Tell) => Promise<Found>) =>
    attempt(async () => {
      setBusy({ part, share: 0 });
      try {
        const result = await work((share) => setBusy({ part, share }));
        setFound((known) => ({ ...known, [part]: result }));
      } finally {
        setBusy(null);
      }
    });
  const steps = useMemo(() => programmingOrder(record, outputs), [record, outputs]);
  const settings = useMemo(() => stationSettings(record), [record]);
  const open = settings.filter(({ standing }) => standing === "due" || standing === "differs");

  const tryAddresses = () =>
    run("addresses", async (tell) => {
      const comparison = compareAddresses(
        latest.current.outputs,
        await tryAll(railwayId, latest.current.outputs, record.railway.addressShift, tell),
      );
      return { words: comparison.words, note: (now) => noteAnswers(now, latest.current.outputs, comparison, at()) };
    });
  const program = () =>
    run("addresses", async (tell) => {
      const done = await programAll(
        railwayId,
        record,
        steps,
        ({ deviceId, ways: [way = 1], address }) => {
          const how = { how: "programmed" as const, seen: "took it over the line, and moved", at: at() };
          act(() => setAnswer(latest.current.record, deviceId, way, address, how));
        },
        tell,
      );
      return {
        words: `Programmed ${done} of ${count(steps.length, "output")}, and each that was answers.`,
        note: null,
      };
    });
  const nodes = (before: (tell: Tell) => Promise<void>) =>
    run("events", async (tell) => {
      await before(tell);
      const { nodes: held, silent } = await askNodes(railwayId, latest.current.record);
      const words = compareNodes(latest.current.record, threadsOf(latest.current.record), held);
      const quiet = silent.length > 0 ? ` No answer from ${list(silent)}.` : "";
      return { words: `${words}${quiet}`, note: (now) => noteNodes(now, held, at()) };
    });
  const settingsBy = (what: "read" | "write") =>
    run("settings", async (tell) => {
      const lines = what === "read" ? settings : open;
      const values =
        what === "read"
          ? await readAll(railwayId, lines, tell)
          : await writeAll(railwayId, lines, locksOf(latest.current.record), tell);
      const others = lines.filter(({ id, wanted }) => values.get(id) !== wanted);
      const told = others
        .slice(0, 3)
        .map(({ id, of, setting, wanted }) => `${setting.name} of ${of} is ${values.get(id)}, not ${wanted}`);
      const more = others.length > 3 ? ` and ${others.length - 3} more` : "";
      return {
        words: `${lines.length - others.length} of ${count(lines.length, "setting")} are as wanted${told.length > 0 ? `; ${list(told)}${more}` : ""}.`,
        note: (now) => noteSettings(now, stationSettings(now), values, at()),
      };
    });
  const write = (part: Part) => {
    const note = found[part]?.note;
    if (note && act(() => note(latest.current.record)))
      setFound((known) => ({ ...known, [part]: { words: found[part]?.words ?? "", note: null } }));
  };
  const shared = { found, busy, write };
  return (
    <Sheet title="Wanted and actual" about="over the line">
      <SheetBody label="Wanted and actual">
        {there.size === 0 && <p className="p-3 text-ink-2">Start the stand-ins to try the whole railway.</p>}
        {there.has("station") && (
          <PartRow part="addresses" title="Addresses" {...shared}>
            <Button size="small" disabled={busy !== null} onClick={tryAddresses}>
              Try all
            </Button>
            {steps.length > 0 && (
              <Button size="small" disabled={busy !== null} onClick={program}>
                Program {steps.length} left
              </Button>
            )}
          </PartRow>
        )}
        {there.has("bus") && (
          <PartRow part="events" title="Events" {...shared}>
            <Button size="small" disabled={busy !== null} onClick={() => nodes(async () => {})}>
              Ask all nodes
            </Button>
            <Button
              size="small"
              disabled={busy !== null}
              onClick={() => nodes((tell) => teachAll(railwayId, latest.current.record, tell))}
            >
              Teach what is left
            </Button>
          </PartRow>
        )}
        {there.has("station") && settings.length > 0 && (
          <PartRow part="settings" title="Settings" {...shared}>
            <Button size="small" disabled={busy !== null} onClick={() => settingsBy("read")}>
              Read all
            </Button>
            {open.length > 0 && (
              <Button size="small" disabled={busy !== null} onClick={() => settingsBy("write")}>
                Write {open.length}, read back
              </Button>
            )}
          </PartRow>
        )}
      </SheetBody>
    </Sheet>
  );
}

function PartRow({
  part,
  title,
  found,
  busy,
  write,
  children,
}: {
  part: Part;
  title: string;
  found: Partial<Record<Part, Found>>;
  busy: { part: Part; share: number } | null;
  write: (part: Part) => void;
  children: ReactNode;
}) {
  const result = found[part];
  return (
    <section aria-label={title} className="grid gap-1.5 border-b border-rule px-3 py-2">
      <div className="flex flex-wrap items-center gap-1.5">
        <b className="flex-1">{title}</b>
        {children}
      </div>
      {busy?.part === part && <Progress label={title} share={busy.share} />}
      {result && busy?.part !== part && (
        <>
          <p role="status">{result.words}</p>
          {result.note && (
            <div>
              <Button size="small" look="best" onClick={() => write(part)}>
                Write it down
              </Button>
            </div>
          )}
        </>
      )}
    </section>
  );
}
