import type { MeterKind } from "@alderman/core";
import { X } from "lucide-react";
import type { PointerEvent } from "react";
import { useFocusResult } from "../derivation/hooks.ts";
import { IconButton } from "../kit/IconButton.tsx";
import { Optional, part } from "../kit/part.tsx";
import { Segmented } from "../kit/Segmented.tsx";
import { useRecord } from "../session/hooks.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { isOfProbes, METER_KIND, probe, setMeterKind, setRange } from "../store/view.ts";
import { keepText } from "../tools/browserStore.ts";
import { Heading } from "./Heading.tsx";

// before anything was measured there is nothing to show
const Expected = part(async () => (await import("./Readings.tsx")).Expected);
const Readings = part(async () => (await import("./Readings.tsx")).Readings);

const RANGES = (["V", "ohm", "mA", "diode"] as const).map((value) => ({ value, text: value }));

/** The meter dock: two probes, a range, what a real meter should show, and what it did show. */
export function Meter() {
  const view = useAppSelector((state) => state.view);
  const dispatch = useAppDispatch();
  const focus = useFocusResult();
  const hasKept = (useRecord()?.readings.length ?? 0) > 0;
  // what was worked out for other terminals is not what these two should show
  const reading = focus && isOfProbes(view, focus.probes) ? focus.meter : null;
  const current = reading?.range === view.range ? reading : null;
  return (
    <aside
      aria-label="Meter"
      className="flex min-h-0 flex-col overflow-auto border-l border-rule-2 bg-plaster-2 px-3 max-[1099px]:col-span-full max-[1099px]:flex-row max-[1099px]:flex-wrap max-[1099px]:items-center max-[1099px]:gap-x-5 max-[1099px]:gap-y-1 max-[1099px]:border-t max-[1099px]:border-l-0 max-[1099px]:py-1.5"
    >
      <h2 className="flex min-h-12 items-center max-[1099px]:min-h-0">Meter</h2>
      <div>
        <Probe which="red" />
        <Probe which="black" />
      </div>
      <Segmented
        label="Range"
        className="mt-2.5 w-full max-[1099px]:mt-0 max-[1099px]:w-auto"
        value={view.range}
        segments={RANGES}
        onChange={(range) => dispatch(setRange(range))}
      />
      <div className="mt-4 max-[1099px]:mt-0" aria-live="polite">
        <Heading>Expect</Heading>
        {current ? (
          <Optional>
            <Expected reading={current} />
          </Optional>
        ) : (
          <p className="mt-1 text-small text-ink-2">
            Put both probes on terminals: click one, or focus it and press r or b.
          </p>
        )}
      </div>
      {current?.byKind && <Kind />}
      <Optional>
        {(current || hasKept) && (
          <Readings key={`${view.red?.key} ${view.black?.key} ${view.range}`} reading={current} />
        )}
      </Optional>
    </aside>
  );
}

const KINDS = [
  { value: "unknown", text: "Either" },
  { value: "averaging", text: "Average" },
  { value: "effective", text: "RMS" },
] as const;

/** What kind of meter the owner has; the browser keeps it. */
function Kind() {
  const kind = useAppSelector((state) => state.view.meterKind);
  const dispatch = useAppDispatch();
  const choose = (chosen: MeterKind) => {
    keepText(METER_KIND, chosen);
    dispatch(setMeterKind(chosen));
  };
  return (
    <div className="mt-2">
      <Heading>What my meter shows on AC</Heading>
      <Segmented
        label="Kind of meter"
        className="mt-1 w-full max-[1099px]:w-auto"
        value={kind}
        segments={KINDS}
        onChange={choose}
      />
    </div>
  );
}

/** One probe: where it is, and a handle to drag it to a terminal. */
function Probe({ which }: { which: "red" | "black" }) {
  const end = useAppSelector((state) => state.view[which]);
  const dispatch = useAppDispatch();
  const drop = (event: PointerEvent) => {
    const under = document.elementFromPoint(event.clientX, event.clientY)?.closest<SVGElement>("[data-end]");
    const { end: key, name } = under?.dataset ?? {};
    if (key && name) dispatch(probe({ probe: which, end: { key, name } }));
  };
  const colour = which === "red" ? "RD" : "BK";
  return (
    <div className="grid min-h-10 touch-none grid-cols-[30px_1fr_auto] items-center gap-1.5 border-t border-rule-2">
      <svg
        width="30"
        height="26"
        viewBox="0 0 30 26"
        role="img"
        aria-label={`${which} probe; drag it to a terminal`}
        className="cursor-grab"
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerUp={drop}
      >
        <path d="M1 23L9 16" stroke="var(--ink)" strokeWidth="1.6" />
        <path d="M8 17L20 6L24 10L12 20Z" fill={`var(--w-${colour})`} stroke="var(--wire-line)" strokeWidth="1.2" />
        <path d="M22 8C27 4 29 3 29.500 0" fill="none" stroke="var(--wire-line)" strokeWidth="3.4" />
        <path d="M22 8C27 4 29 3 29.500 0" fill="none" stroke={`var(--w-${colour})`} strokeWidth="1.8" />
      </svg>
      <div>
        <small className="block text-[11px] leading-[1.15] text-ink-2">{which === "red" ? "Red on" : "Black on"}</small>
        <span className="mono text-[13px] font-bold">{end?.name ?? "nothing"}</span>
      </div>
      {end && (
        <IconButton
          icon={X}
          label={`Take the ${which} probe off`}
          onClick={() => dispatch(probe({ probe: which, end: null }))}
        />
      )}
    </div>
  );
}
