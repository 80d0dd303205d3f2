import { Mark } from "../drawing/Mark.tsx";
import { useRecord } from "../session/hooks.ts";
import { useAppDispatch } from "../store/store.ts";
import { probe, setRange } from "../store/view.ts";
import { shortDateAndTime } from "../tools/when.ts";
import { WRITE } from "./writeValue.ts";

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
