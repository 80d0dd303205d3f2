import {
  fedFrogs,
  frogKindOf,
  type LinePlace,
  liftTurnout,
  nameEnd,
  ownOf,
  placeTurnout,
  type RailwayRecord,
  RecordError,
  setPowerRouting,
  setSlip,
  trayOf,
  turnNormal,
} from "@alderman/core";
import { X } from "lucide-react";
import { useOverview } from "../../derivation/hooks.ts";
import { FindingCard } from "../../findings/FindingCard.tsx";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { TextField } from "../../kit/TextField.tsx";
import type { useEdit } from "../../session/useEdit.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { throwTo } from "../../store/view.ts";
import { isAbout } from "./concerns.ts";

const KINDS: Record<LinePlace["kind"], string> = {
  plain: "Track",
  bend: "A bend that no train takes",
  end: "End of track",
  turnout: "Turnout",
  "three-way": "Three-way turnout",
  crossing: "Crossing",
  slip: "Slip",
  unclear: "Tracks that do not run on",
};
const HANDS = { left: "left hand", right: "right hand", wye: "wye" } as const;

/** A place of the line: what is there, and what can be said of it. */
export function PlaceCard({
  record,
  place,
  edit,
  close,
}: {
  record: RailwayRecord;
  place: LinePlace;
  edit: ReturnType<typeof useEdit>;
  close: () => void;
}) {
  const { kind, point, junctions, acute } = place;
  const overview = useOverview();
  const findings = (overview?.findings ?? []).filter((finding) =>
    junctions.some(({ turnout }) => turnout !== null && isAbout(finding, turnout)),
  );
  const [x, y] = point;
  const title = junctions.map(({ turnout }) => turnout?.label ?? "?").join("/") || KINDS[kind];
  const metres = `${(x * record.railway.stepMetres).toFixed(2)} m along, ${(y * record.railway.stepMetres).toFixed(2)} m across`;
  return (
    <Sheet
      title={title}
      about={`${junctions.length > 0 ? `${KINDS[kind].toLowerCase()}, ` : ""}${metres}`}
      actions={<IconButton icon={X} label="Let go of it" onClick={close} />}
    >
      <SheetBody label="Chosen place" className="grid content-start gap-3 p-3">
        {junctions.map((junction) => (
          <JunctionPart key={junction.id} record={record} junction={junction} edit={edit} />
        ))}
        {kind === "end" && <EndPart record={record} point={point} edit={edit} />}
        {acute && (
          <div className="flex items-center gap-2">
            <span className="text-ink-2">Tracks cross here</span>
            <Segmented
              size="small"
              label="Blades at the crossing"
              value={slipAt(record, point)}
              segments={SLIPS}
              onChange={(slip) => edit(() => setSlip(record, point, slip === "none" ? null : slip))}
            />
            {slipAt(record, point) === "single" && (
              <Button
                size="small"
                onClick={() => edit(() => setSlip(record, point, "single", !isOther(record, point)))}
              >
                Its other curve
              </Button>
            )}
          </div>
        )}
        {kind === "unclear" && (
          <p>
            None of these tracks runs on into the others. Branch off by an eighth of a turn, then a turnout comes into
            being.
          </p>
        )}
        {findings.map((finding) => (
          <div key={finding.key} className="-mx-3 border-t border-rule">
            <FindingCard finding={finding} />
          </div>
        ))}
        {kind === "bend" && <p>Track turns by a quarter or more here. Bend it by an eighth at a time.</p>}
      </SheetBody>
    </Sheet>
  );
}

const FROGS = {
  insulated: "Insulated frog: its rails are fed through.",
  live: "Live frog, fed by a contact.",
  "power-routing": "Power-routing: blades, frog and inner rails are one.",
} as const;

const SLIPS = [
  { value: "none", text: "no blades" },
  { value: "single", text: "single slip" },
  { value: "double", text: "double slip" },
] as const;

function isOther(record: RailwayRecord, [x, y]: LinePlace["point"]): boolean {
  const mark = record.marks.find((each) => each.what === "slip" && each.x === x && each.y === y);
  return mark?.what === "slip" && mark.other;
}

function slipAt(record: RailwayRecord, [x, y]: LinePlace["point"]): "none" | "single" | "double" {
  const mark = record.marks.find((each) => each.what === "slip" && each.x === x && each.y === y);
  return mark?.what === "slip" ? mark.slip : "none";
}

function JunctionPart({
  record,
  junction,
  edit,
}: {
  record: RailwayRecord;
  junction: LinePlace["junctions"][number];
  edit: ReturnType<typeof useEdit>;
}) {
  const dispatch = useAppDispatch();
  const { turnout, hand, second, point, spot } = junction;
  const leader = turnout ? (turnout.movesWith ?? turnout.id) : "";
  const position = useAppSelector((state) => ownOf(state.view.asked, leader) ?? "N");
  const tray = trayOf(record);
  if (!turnout)
    return (
      <div className="flex flex-wrap items-center gap-2">
        <span>Blades ({HANDS[hand]}) without a turnout of the list.</span>
        {tray.length > 0 && (
          <Choice
            label="Put a turnout here"
            size="small"
            value="none"
            options={[
              { value: "none", text: "put here ..." },
              ...tray.map(({ id, label }) => ({ value: id, text: label })),
            ]}
            onChange={(id) => id !== "none" && edit(() => placeTurnout(record, id, point, second))}
          />
        )}
      </div>
    );
  return (
    <div className="grid gap-2">
      <div className="flex flex-wrap items-center gap-2">
        <b>{turnout.label}</b>
        <span className="text-ink-2">
          {HANDS[hand]}
          {turnout.movesWith ? `, moves with ${record.turnouts.find(({ id }) => id === turnout.movesWith)?.label}` : ""}
        </span>
        <Segmented
          size="small"
          label={`${turnout.label} lies`}
          value={position}
          segments={[
            { value: "N", text: "N" },
            { value: "R", text: "R" },
          ]}
          onChange={(to) => dispatch(throwTo({ turnoutId: leader, position: to }))}
        />
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <Button size="small" onClick={() => edit(() => turnNormal(record, turnout.id))}>
          {spot?.turned ? "The straighter leg is normal" : "The other leg is normal"}
        </Button>
        <Button size="small" onClick={() => edit(() => liftTurnout(record, turnout.id))}>
          Back to the tray
        </Button>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-ink-2">{FROGS[frogKindOf(fedFrogs(record), junction)]}</span>
        <Checkbox
          checked={spot?.powerRouting ?? false}
          onChange={(on) => edit(() => setPowerRouting(record, turnout.id, on))}
        >
          its blades feed the frog
        </Checkbox>
      </div>
    </div>
  );
}

function EndPart({
  record,
  point,
  edit,
}: {
  record: RailwayRecord;
  point: LinePlace["point"];
  edit: ReturnType<typeof useEdit>;
}) {
  const found = record.marks.find(({ what, x, y }) => what === "end" && x === point[0] && y === point[1]);
  const mark = found?.what === "end" ? found : null;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <TextField
        label="Name of the end"
        placeholder="road 1, to the ferry deck ..."
        className="w-56!"
        value={mark?.name ?? ""}
        save={(text) => {
          try {
            edit(nameEnd(record, [...point], text, mark?.buffer ?? true));
            return null;
          } catch (error) {
            if (error instanceof RecordError) return error.message;
            throw error;
          }
        }}
      />
      {mark && (
        <Checkbox
          checked={mark.buffer}
          onChange={(buffer) => edit(() => nameEnd(record, [...point], mark.name, buffer))}
        >
          a buffer
        </Checkbox>
      )}
    </div>
  );
}
