import {
  type Block,
  blocksOnLine,
  changeMark,
  DETECTOR_FAILURES,
  feederWords,
  find,
  isOnStep,
  lineLayout,
  type Mark,
  type MarkFields,
  type MarkOf,
  OUTLINE_WORDS,
  type Outline,
  type RailwayRecord,
  RecordError,
  reachFrom,
  removeMark,
  removeOutline,
  runOf,
  signalsOn,
  traitsOf,
  turnMark,
  turnoutsInside,
  typeOf,
} from "@alderman/core";
import { X } from "lucide-react";
import { useMemo } from "react";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { Field } from "../../kit/Field.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { TextField } from "../../kit/TextField.tsx";
import type { useEdit } from "../../session/useEdit.ts";
import { useAppDispatch } from "../../store/store.ts";
import { hold, occupy } from "../../store/view.ts";
import type { useLineState } from "./useLineState.ts";
import { metresAndSeconds, signalWords, watchWords } from "./words.ts";

interface CardProps {
  record: RailwayRecord;
  state: ReturnType<typeof useLineState>;
  edit: ReturnType<typeof useEdit>;
}

const TITLES = { block: "Block", sensor: "Spot sensor", signal: "Signal", feeder: "Feeder", stand: "Board" } as const;

/** A mark of the line, or an outline: what it says, and what follows from it. */
export function MarkCard({ id, close, ...props }: CardProps & { id: string; close: () => void }) {
  const { record, edit } = props;
  const mark = find(record, "mark", id);
  const outline = find(record, "outline", id);
  const take = () => {
    edit(() => removeMark(record, id) ?? removeOutline(record, id));
    close();
  };
  const actions = (
    <>
      {mark && isOnStep(mark) && (mark.what === "signal" || mark.what === "feeder") && (
        <Button size="small" onClick={() => edit(() => turnMark(record, id))}>
          {mark.what === "signal" ? "For the other direction" : "Exchange J and K"}
        </Button>
      )}
      <Button size="small" onClick={take}>
        Take away
      </Button>
      <IconButton icon={X} label="Let go of it" onClick={close} />
    </>
  );
  if (outline)
    return (
      <Sheet title={OUTLINE_WORDS[outline.what]} about={`${outline.points.length} points`} actions={actions}>
        <div className="grid gap-2 p-3">
          <OutlineWords record={record} outline={outline} />
          <p className="text-ink-2">Drag from its end to lengthen it.</p>
        </div>
      </Sheet>
    );
  if (!mark || !(mark.what in TITLES)) return null;
  const name = "name" in mark ? mark.name : mark.what === "stand" ? find(record, "device", mark.deviceId)?.label : "";
  return (
    <Sheet title={`${TITLES[mark.what as keyof typeof TITLES]} ${name}`} actions={actions}>
      <SheetBody label="Chosen mark" className="grid content-start gap-2.5 p-3">
        <Body key={id} {...props} mark={mark} />
      </SheetBody>
    </Sheet>
  );
}

/** What follows from an outline. */
function OutlineWords({ record, outline }: { record: RailwayRecord; outline: Outline }) {
  if (outline.what === "trunk") return <p>Wire runs from boards to turnouts go along it.</p>;
  const inside = turnoutsInside(record, outline);
  const labels = inside.map(({ label }) => label).join(", ");
  if (outline.what === "lift-out")
    return (
      <p>
        {inside.length === 0
          ? "No turnout lies on it; only its rails and feeders pass its edge."
          : `On it ${inside.length === 1 ? "lies" : "lie"} ${labels}: all their wires pass its edge, and need a plug there.`}
      </p>
    );
  const placed = new Set(inside.map(({ id }) => id));
  const outside = record.spots.flatMap(({ turnoutId }) =>
    placed.has(turnoutId) ? [] : (find(record, "turnout", turnoutId)?.label ?? []),
  );
  return (
    <p>
      {outside.length === 0
        ? "All turnouts lie on it."
        : `${outside.join(", ")} ${outside.length === 1 ? "lies" : "lie"} outside it.`}
    </p>
  );
}

function Body({ mark, ...props }: CardProps & { mark: Mark }) {
  switch (mark.what) {
    case "block":
      return <BlockBody {...props} mark={mark} />;
    case "signal":
      return <SignalBody {...props} mark={mark} />;
    case "sensor":
      return (
        <div className="flex flex-wrap items-center gap-3">
          <NameField {...props} mark={mark} label="Name of the sensor" />
          <DeviceChoice {...props} mark={mark} label="Which sensor" suits="spot-sensor" />
        </div>
      );
    case "feeder":
      return <FeederBody {...props} mark={mark} />;
    case "stand":
      return <StandBody {...props} mark={mark} />;
    default:
      return null;
  }
}

/** Saves fields of a mark; why it cannot, as a field says it. */
function useSave({ record, edit }: CardProps, id: string) {
  return (fields: MarkFields): string | null => {
    try {
      edit(changeMark(record, id, fields));
      return null;
    } catch (error) {
      if (error instanceof RecordError) return error.message;
      throw error;
    }
  };
}

function NameField({
  mark,
  label,
  ...props
}: CardProps & { mark: MarkOf<"block" | "signal" | "sensor">; label: string }) {
  const save = useSave(props, mark.id);
  return (
    <TextField
      label={label}
      className="w-40!"
      value={mark.name}
      save={(name) => (name.trim() === "" ? "Type a name." : save({ name: name.trim() }))}
    />
  );
}

const NONE = "none";

/** The device that a mark stands for, among those of its kind. */
function DeviceChoice({
  mark,
  label,
  suits,
  ...props
}: CardProps & { mark: MarkOf<"signal" | "sensor">; label: string; suits: "spot-sensor" | "lamp" }) {
  const { record } = props;
  const save = useSave(props, mark.id);
  const devices = record.devices.filter((device) => {
    const type = typeOf(record, device);
    return suits === "lamp" ? type.family === "lamp" : traitsOf(type).inTrack === suits;
  });
  return (
    <Choice
      label={label}
      size="small"
      value={mark.deviceId ?? NONE}
      options={[
        { value: NONE, text: "not wired yet" },
        ...devices.map((device) => ({ value: device.id, text: device.label, hint: typeOf(record, device).short })),
      ]}
      onChange={(id) => save({ deviceId: id === NONE ? null : id })}
    />
  );
}

function BlockBody({ mark, ...props }: CardProps & { mark: MarkOf<"block"> }) {
  const { record, state } = props;
  const dispatch = useAppDispatch();
  const { blocks } = blocksOnLine(record);
  const block = blocks.find(({ marks }) => marks.some(({ id }) => id === mark.id));
  if (!block) return <p>It lies on no track any more.</p>;
  const { trainMetres } = record.railway;
  const others = block.marks.filter(({ name }) => name.toLowerCase() !== mark.name.toLowerCase());
  return (
    <>
      <div className="flex flex-wrap items-center gap-3">
        <NameField {...props} mark={mark} label="Name of the block" />
        <Checkbox checked={state.occupied.has(block.id)} onChange={(on) => dispatch(occupy({ id: block.id, on }))}>
          a train is here
        </Checkbox>
      </div>
      <p>
        {metresAndSeconds(record, block.metres)} of track
        {block.junctions.length > 0
          ? ` with ${block.junctions.map(({ turnout }) => turnout?.label ?? "?").join(", ")}`
          : ""}
        ; {block.metres < trainMetres ? "shorter than" : "room for"} the longest train ({trainMetres} m). Watched by{" "}
        {watchWords(record, block)}.
      </p>
      {others.length > 0 && (
        <p className="text-red">
          No gap parts it from {others.map(({ name }) => name).join(", ")}: both are one block.
        </p>
      )}
      <Reach record={record} block={block} />
    </>
  );
}

/** Where a train in a block can go without turning back, each way. */
function Reach({ record, block }: { record: RailwayRecord; block: Block }) {
  const ways = useMemo(() => {
    const layout = lineLayout(record);
    const [part] = block.parts;
    if (!part) return [];
    const step = Math.min(Math.floor((part.from + part.to) / 2), part.stretch.points.length - 2);
    const names = new Map(
      layout.ends.map(({ id, mark, point }) => [id, mark?.name ?? `the end at ${point.join(", ")}`]),
    );
    return [true, false].map((along) =>
      [...reachFrom(layout, { stretch: part.stretch, step, along })]
        .sort(([, a], [, b]) => a - b)
        .map(([id, metres]) => `${names.get(id)} (${metres.toFixed(1)} m)`),
    );
  }, [record, block]);
  const { length } = lineLayout(record).ends;
  return (
    <p className="text-ink-2">
      {ways.map((ends, index) => (
        <span key={ends.join()}>
          {index === 0 ? "Without turning back a train comes " : "; the other way "}
          {ends.length === 0 ? "to no end" : ends.length === length ? "to every end" : `to ${ends.join(", ")}`}
        </span>
      ))}
      .
    </p>
  );
}

function SignalBody({ mark, ...props }: CardProps & { mark: MarkOf<"signal"> }) {
  const { record, state } = props;
  const dispatch = useAppDispatch();
  const shown = state.signals.find((each) => each.mark.id === mark.id);
  if (!shown) return <p>It stands at no track any more.</p>;
  const { blocks, next, metresToBlock } = shown;
  return (
    <>
      <div className="flex flex-wrap items-center gap-3">
        <NameField {...props} mark={mark} label="Name of the signal" />
        <DeviceChoice {...props} mark={mark} label="What shows it" suits="lamp" />
        <Checkbox checked={state.held.has(mark.id)} onChange={(on) => dispatch(hold({ id: mark.id, on }))}>
          held at danger
        </Checkbox>
      </div>
      <p>
        <b>{signalWords(record, shown)}</b>.{" "}
        {blocks.length > 0
          ? `It guards ${blocks.map(({ name }) => name ?? "track without a name").join(", ")}, from ${metresAndSeconds(record, metresToBlock)} ahead${next ? `, as far as ${next.name}` : ""}.`
          : "There is no gap between it and the next signal: it guards no block."}
      </p>
      <Failures {...props} mark={mark} />
    </>
  );
}

/** What the signal would show over an occupied block, were something broken. */
function Failures({ record, state, mark }: CardProps & { mark: MarkOf<"signal"> }) {
  const own = state.signals.find((each) => each.mark.id === mark.id);
  const block = own?.blocks.find(({ zones }) => zones.length > 0);
  if (!own || !block) return null;
  const clear = new Set([...state.occupied].filter((id) => id !== block.id));
  const aspectWith = (occupied: ReadonlySet<string>) =>
    signalsOn(record, { ...state, occupied }).find((each) => each.mark.id === mark.id)?.aspect ?? "red";
  const told = {
    clear: aspectWith(clear),
    dead: aspectWith(clear),
    occupied: aspectWith(new Set([...clear, block.id])),
  };
  return (
    <div className="text-ink-2">
      With a train in {block.name}, and
      <ul className="list-disc pl-4">
        {DETECTOR_FAILURES.map(({ what, tells }) => (
          <li key={what}>
            {what}: {told[tells]}
            {tells === "occupied"
              ? ", whether a train is there or not"
              : told[tells] === "red"
                ? ""
                : ", which is false"}
            {tells === "dead" ? "; the block has no power either" : ""}
          </li>
        ))}
      </ul>
      A detector that closes its output over a train falls to clear when it fails; one that opens it falls to danger.
    </div>
  );
}

function FeederBody({ mark, ...props }: CardProps & { mark: MarkOf<"feeder"> }) {
  const save = useSave(props, mark.id);
  return (
    <>
      <p>Seen from its first point: {feederWords(mark)}.</p>
      <Segmented
        size="small"
        label="Rails that it feeds"
        value={mark.rails}
        segments={[
          { value: "both", text: "both rails" },
          { value: "left", text: "the left one" },
          { value: "right", text: "the right one" },
        ]}
        onChange={(rails) => save({ rails })}
      />
    </>
  );
}

function StandBody({ mark, ...props }: CardProps & { mark: MarkOf<"stand"> }) {
  const { record } = props;
  const save = useSave(props, mark.id);
  const step = record.railway.stepMetres;
  const driven = record.assignments.flatMap((each) =>
    each.role === "driver" && each.deviceId === mark.deviceId ? [each.motorId] : [],
  );
  const turnouts = record.assignments.flatMap((each) =>
    each.role === "motor" && driven.includes(each.deviceId) ? (find(record, "turnout", each.turnoutId) ?? []) : [],
  );
  return (
    <>
      <div className="flex flex-wrap items-end gap-3">
        <Field label="Along, m" stacked>
          {(ids) => (
            <NumberField
              ids={ids}
              className="w-24!"
              value={mark.alongMetres}
              empty={(mark.x * step).toFixed(2)}
              save={(alongMetres) => save({ alongMetres })}
            />
          )}
        </Field>
        <Field label="Across, m" stacked>
          {(ids) => (
            <NumberField
              ids={ids}
              className="w-24!"
              value={mark.acrossMetres}
              empty={(mark.y * step).toFixed(2)}
              save={(acrossMetres) => save({ acrossMetres })}
            />
          )}
        </Field>
        <span className="text-ink-2">measured, where it matters</span>
      </div>
      {turnouts.length > 0 && (
        <p>
          Wire to{" "}
          {turnouts
            .map(({ id, label, runMetres }) => `${label} ${runOf(record, id)} m${runMetres === null ? "" : " (typed)"}`)
            .join(", ")}
          .
        </p>
      )}
    </>
  );
}
