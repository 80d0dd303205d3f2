import type { MeterReading } from "@alderman/core";
import { type FormEvent, type PointerEvent, useState } from "react";
import { useResults } from "../derivation/hooks.ts";
import { probesOf } from "../derivation/probesOf.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { probe, setRange } from "../store/view.ts";
import { Band } from "./Band.tsx";
import { LastReadings, NextPlace, useKeepReading, WRITE } from "./KeptReadings.tsx";
import { Mark } from "./Mark.tsx";

/** The meter dock: two probes, a range, what a real meter should show, and what it did show. */
export function Meter() {
  const view = useAppSelector((state) => state.view);
  const dispatch = useAppDispatch();
  const { focus } = useResults();
  // what was worked out for other terminals is not what these two should show
  const probes = view.red && view.black && probesOf(view.red.key, view.black.key);
  const reading = focus?.probes === probes ? (focus?.meter ?? null) : null;
  const current = reading?.range === view.range ? reading : null;
  return (
    <aside className="meter" aria-label="Meter">
      <h2>Meter</h2>
      <div>
        <Probe which="red" />
        <Probe which="black" />
      </div>
      <fieldset className="seg mt-2.5" aria-label="Range">
        {(["V", "ohm", "mA"] as const).map((range) => (
          <button
            key={range}
            type="button"
            className="flex-1"
            aria-pressed={view.range === range}
            onClick={() => dispatch(setRange(range))}
          >
            {range}
          </button>
        ))}
      </fieldset>
      <Expected reading={current} />
      <Said key={`${view.red?.key} ${view.black?.key} ${view.range}`} reading={current} />
      <NextPlace />
      <LastReadings />
      {current && current.value !== null && (
        <div className="wide-only mt-4 border-t border-rule-2 pt-2">
          <div className="lab">How it is reckoned</div>
          <p className="mt-1 text-[12px] leading-[1.4]">{current.reckoned}</p>
        </div>
      )}
    </aside>
  );
}

function Expected({ reading }: { reading: MeterReading | null }) {
  return (
    <div className="mt-4" aria-live="polite">
      <div className="lab">Expect</div>
      {reading ? (
        <Figure reading={reading} />
      ) : (
        <p className="quiet mt-1 text-[12px]">Put both probes on terminals: click one, or focus it and press r or b.</p>
      )}
    </div>
  );
}

function Figure({ reading }: { reading: MeterReading }) {
  if (reading.value === null) {
    return (
      <>
        <div className="read mt-1">{reading.range === "mA" ? "nothing" : "open"}</div>
        <p className="quiet mt-1 text-[12px]">{reading.reckoned}</p>
        {reading.caution && (
          <p className="mt-2 border-l-3 border-copper bg-copper-wash px-2 py-1.5 text-[12px]">{reading.caution}</p>
        )}
      </>
    );
  }
  const [figure, unit] = split(reading.range, reading.value);
  const scale = reading.range === "mA" ? 1000 : 1;
  return (
    <>
      <div className="read mt-1" data-testid="expect">
        {figure}
        <u>{unit}</u>
      </div>
      <p className="quiet mt-1 text-[12px]">
        {reading.range === "ohm" ? "" : reading.ac ? "AC, " : "DC, "}±
        {split(reading.range, reading.tolerance).join(" ")}
      </p>
      <Band
        low={(reading.value - reading.tolerance) * scale}
        high={(reading.value + reading.tolerance) * scale}
        width={176}
      />
    </>
  );
}

/** Figure and unit apart, as the meter shows them. */
function split(range: MeterReading["range"], value: number): [string, string] {
  const [figure = "", unit = ""] = WRITE[range](value).split(" ");
  return [figure, unit];
}

/** What the owner's meter says, held against the expectation, and kept on request. */
function Said({ reading }: { reading: MeterReading | null }) {
  const [text, setText] = useState("");
  const keep = useKeepReading();
  if (!reading) return null;
  const typed = text.trim() === "" ? null : Number(text.replace(",", ".").replace("−", "-"));
  // amps inside, milliamps on the dial
  const value = typed !== null && reading.range === "mA" ? typed / 1000 : typed;
  const sound = value !== null && Number.isFinite(value);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!sound) return;
    keep(reading, value);
    setText("");
  };
  return (
    <form className="mt-3" onSubmit={submit}>
      <label className="lab" htmlFor="meter-said">
        Meter said
      </label>
      <div className="mt-1 flex gap-1.5">
        <input
          id="meter-said"
          className="field mono min-w-0 flex-1"
          inputMode="decimal"
          autoComplete="off"
          value={text}
          placeholder={reading.range}
          onChange={(event) => setText(event.target.value)}
        />
        <button type="submit" className="btn" disabled={!sound}>
          Keep
        </button>
      </div>
      <p className="mt-2 flex gap-1.5 text-[12.5px] leading-[1.35]">
        <Answer value={value} reading={reading} />
      </p>
    </form>
  );
}

function Answer({ value, reading }: { value: number | null; reading: MeterReading }) {
  if (value === null) {
    return (
      <>
        <Mark verdict="open" /> Not read yet.
      </>
    );
  }
  if (Number.isNaN(value)) return <>Type a number, as the meter shows it.</>;
  if (reading.value === null) {
    return (
      <>
        <Mark verdict="wrong" />{" "}
        {reading.range === "mA" ? "There is no wire to measure in." : "Something joins them: it should be open."}
      </>
    );
  }
  const off = Math.abs(value - reading.value) - reading.tolerance;
  if (off <= 0) {
    return (
      <>
        <Mark verdict="good" /> Agrees.
      </>
    );
  }
  return (
    <>
      <Mark verdict="wrong" /> Off by {split(reading.range, off).join(" ")} more than the parts allow.
    </>
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
    <div className="probe">
      <svg
        width="30"
        height="26"
        viewBox="0 0 30 26"
        role="img"
        aria-label={`${which} probe; drag it to a terminal`}
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerUp={drop}
      >
        <path d="M1 23L9 16" stroke="var(--ink)" strokeWidth="1.6" />
        <path d="M8 17L20 6L24 10L12 20Z" fill={`var(--w-${colour})`} stroke="var(--wire-line)" strokeWidth="1.2" />
        <path d="M22 8C27 4 29 3 29.500 0" fill="none" stroke="var(--wire-line)" strokeWidth="3.4" />
        <path d="M22 8C27 4 29 3 29.500 0" fill="none" stroke={`var(--w-${colour})`} strokeWidth="1.8" />
      </svg>
      <div>
        <small>{which === "red" ? "Red on" : "Black on"}</small>
        <span className="mono text-[13px] font-bold">{end?.name ?? "nothing"}</span>
      </div>
      {end && (
        <button
          type="button"
          className="quiet px-1 text-[12px]"
          aria-label={`Take the ${which} probe off`}
          onClick={() => dispatch(probe({ probe: which, end: null }))}
        >
          off
        </button>
      )}
    </div>
  );
}
