import { find, type Position, type RailwayRecord, type Thread, typeOf } from "@alderman/core";
import { threadsThrough } from "../../derivation/focus.ts";
import { useResults } from "../../derivation/hooks.ts";
import { PositionMark } from "../../drawing/Mark.tsx";
import { ScaledDrawing } from "../../drawing/ScaledDrawing.tsx";
import { ThreadDrawing } from "../../drawing/thread/ThreadDrawing.tsx";
import { Clear } from "../../findings/Checked.tsx";
import { FindingCard } from "../../findings/FindingCard.tsx";
import { Button } from "../../kit/Button.tsx";
import { Optional, part } from "../../kit/part.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { choose, lookAt } from "../../store/view.ts";
import { ThrowSelector } from "./ThrowSelector.tsx";

const LampSelector = part(async () => (await import("./LampSelector.tsx")).LampSelector);
const BySelector = part(async () => (await import("./BySelector.tsx")).BySelector);

/** The thread of the chosen turnout, and the findings on it. */
export function ThreadSheets({ thread }: { thread: Thread }) {
  const { overview, focus } = useResults();
  const record = useRecord();
  if (!overview || !record) return null;
  const own = focus?.turnoutId === thread.turnout.id ? focus : null;
  const findings = overview.findings.filter(({ turnoutIds }) => turnoutIds.includes(thread.turnout.id));
  const counted = findings.filter(({ kept }) => kept === null);
  const wrong = counted.filter(({ severity }) => severity === "stop").length;
  const doubtful = counted.filter(({ severity }) => severity === "look").length;
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)] gap-2.5 max-[699px]:flex max-[699px]:flex-col min-[1600px]:grid-cols-[minmax(0,1fr)_360px] min-[1600px]:grid-rows-[minmax(0,1fr)]">
      <Sheet
        title={`Thread of ${thread.label}`}
        about={describe(thread)}
        actions={
          <>
            <Optional>{thread.moreControls.length > 0 && <BySelector thread={thread} />}</Optional>
            <Optional>{thread.lamps.length > 1 && <LampSelector thread={thread} />}</Optional>
            <ThrowSelector turnoutId={thread.turnout.id} />
          </>
        }
      >
        <SharedBy record={record} thread={thread} />
        {own && <GoAlong record={record} leader={thread.turnout.id} along={own.along} />}
        <ScaledDrawing className="[&_svg.draw]:max-h-[64vh] min-[1600px]:[&_svg.draw]:max-h-none">
          <ThreadDrawing overview={overview} thread={thread} reading={own?.reading ?? null} />
        </ScaledDrawing>
      </Sheet>
      <Sheet
        title={`Findings on ${thread.label}`}
        about={`${wrong} wrong, ${doubtful} doubtful${overview.partial ? " so far" : ""}`}
      >
        <SheetBody>
          {counted.length === 0 && (
            <p className="p-3 text-ink-2">
              <Clear>All checks are clear.</Clear>
            </p>
          )}
          {findings.map((finding) => (
            <FindingCard key={finding.key} finding={finding} />
          ))}
        </SheetBody>
      </Sheet>
    </div>
  );
}

/** When a board, a supply or a control is looked at: the threads that pass through it, to go from one to the next. */
function SharedBy({ record, thread }: { record: RailwayRecord; thread: Thread }) {
  const chosen = useAppSelector((state) => state.view.chosen);
  const dispatch = useAppDispatch();
  if (chosen?.kind !== "device") return null;
  const device = find(record, "device", chosen.id);
  if (!device) return null;
  const leaders = threadsThrough(record, chosen);
  return (
    <p className="flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-rule px-3 py-1.5" role="status">
      <span>
        Through <b className="mono">{device.label}</b>, {typeOf(record, device).name}:
      </span>
      {leaders.map((id) => (
        <Button
          key={id}
          size="small"
          look={id === thread.turnout.id ? "best" : "plain"}
          onClick={() => dispatch(lookAt(id))}
        >
          {find(record, "turnout", id)?.label}
        </Button>
      ))}
    </p>
  );
}

/** The turnouts that are thrown along with this one, because they share its control or its output. */
function GoAlong({
  record,
  leader,
  along,
}: {
  record: RailwayRecord;
  leader: string;
  along: Record<string, Position>;
}) {
  const dispatch = useAppDispatch();
  const others = Object.entries(along).filter(([id]) => id !== leader);
  if (others.length === 0) return null;
  return (
    <p className="flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-rule px-3 py-1.5" role="status">
      <span>Thrown with it, by the same control or output:</span>
      {others.map(([id, to]) => (
        <Button key={id} size="small" onClick={() => dispatch(choose({ kind: "turnout", id }))}>
          {find(record, "turnout", id)?.label} to {to} <PositionMark position={to} />
        </Button>
      ))}
    </p>
  );
}

function describe({ turnout, motors }: Thread): string {
  const kinds = motors.map(({ type }) => type.short);
  const [kind] = kinds;
  const words =
    motors.length === 0 ? "no motor yet" : motors.length === 1 ? `${kind} motor` : `${motors.length} ${kind} motors`;
  return [turnout.name, words].filter(Boolean).join("; ");
}
