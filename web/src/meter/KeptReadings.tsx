import { measuringPoints, nextPlace, standingAt, threadLedBy } from "@alderman/core";
import { useLeader } from "../derivation/hooks.ts";
import { Mark } from "../drawing/Mark.tsx";
import { Button } from "../kit/Button.tsx";
import { useRecord } from "../session/hooks.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { probe, setRange } from "../store/view.ts";
import { shortDateAndTime } from "../tools/when.ts";
import { WRITE } from "./writeValue.ts";

/** Where to measure next when a kept reading on the chosen thread disagrees: half-way back along it. */
export function NextPlace() {
  const { asked, moment } = useAppSelector((state) => state.view);
  const record = useRecord();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const thread = record && leader ? threadLedBy(record, leader) : undefined;
  if (!record || !leader || !thread) return null;
  const state = { turnoutId: leader, position: asked[leader] ?? "N", moment } as const;
  const hints = measuringPoints(record, thread)
    .map((points) => nextPlace(points, (point) => standingAt(record.readings, point, state)))
    .filter((hint) => hint !== null);
  const [hint] = hints;
  if (!hint) return null;
  if ("between" in hint) {
    const [good, bad] = hint.between;
    return (
      <p className="mt-2 border-l-3 border-red bg-red-wash px-2 py-1.5 text-small">
        {good
          ? `The fault lies between ${good.redName} and ${bad.redName}.`
          : `The fault lies at ${bad.redName} or before it.`}
      </p>
    );
  }
  const { red, black, redName, blackName } = hint.measure;
  const place = () => {
    dispatch(setRange("V"));
    dispatch(probe({ probe: "red", end: { key: red, name: redName } }));
    dispatch(probe({ probe: "black", end: { key: black, name: blackName } }));
  };
  return (
    <Button className="mt-2 w-full !h-auto !whitespace-normal py-1 text-left" onClick={place}>
      Measure next: {redName} to {blackName}
    </Button>
  );
}

/** The latest readings kept, with what was expected. */
export function LastReadings() {
  const readings = useRecord()?.readings;
  const dispatch = useAppDispatch();
  const latest = [...(readings ?? [])].sort((a, b) => (a.at < b.at ? 1 : -1)).slice(0, 4);
  if (latest.length === 0) return null;
  return (
    <div className="mt-4 border-t border-rule-2 pt-2 max-[1099px]:hidden">
      <div className="font-head text-label font-semibold text-ink-2">Last readings</div>
      <ul aria-label="Last readings">
        {latest.map((kept) => (
          <li key={kept.id} className="border-b border-rule py-1 text-small">
            <button
              type="button"
              className="flex w-full items-center gap-1.5 text-left"
              onClick={() => {
                dispatch(setRange(kept.range));
                dispatch(probe({ probe: "red", end: { key: kept.red, name: kept.redName } }));
                dispatch(probe({ probe: "black", end: { key: kept.black, name: kept.blackName } }));
              }}
            >
              <Mark verdict={kept.agrees ? "good" : "wrong"} size={14} />
              <span className="mono min-w-0 flex-1 truncate">
                {kept.redName} {kept.blackName}
              </span>
              <span className="mono font-bold">{WRITE[kept.range](kept.read)}</span>
            </button>
            <div className="pl-5 text-ink-2">
              {kept.expected === null ? "expected open" : `expected ${WRITE[kept.range](kept.expected)}`}
              {kept.position ? `, at ${kept.position}` : ""}, {shortDateAndTime(kept.at)}
            </div>
          </li>
        ))}
      </ul>
    </div>
  );
}
