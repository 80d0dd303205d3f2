import { type MeterReading, readNumber } from "@alderman/core";
import { X } from "lucide-react";
import { type FormEvent, type PointerEvent, type ReactNode, useState } from "react";
import { useFocusResult } from "../derivation/hooks.ts";
import { Band } from "../drawing/Band.tsx";
import { Mark } from "../drawing/Mark.tsx";
import { Button } from "../kit/Button.tsx";
import { IconButton } from "../kit/IconButton.tsx";
import { Input } from "../kit/Input.tsx";
import { Segmented } from "../kit/Segmented.tsx";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { isOfProbes, probe, setRange } from "../store/view.ts";
import { LastReadings, NextPlace } from "./KeptReadings.tsx";
import { useKeepReading } from "./useKeepReading.ts";
import { WRITE } from "./writeValue.ts";

/** A heading within the dock. */
export function Heading({ children }: { children: ReactNode }) {
  return <div className="font-head text-label font-semibold text-ink-2">{children}</div>;
}

const RANGES = (["V", "ohm", "mA"] as const).map((value) => ({ value, text: value }));

/** The meter dock: two probes, a range, what a real meter should show, and what it did show. */
export function Meter() {
  const view = useAppSelector((state) => state.view);
  const dispatch = useAppDispatch();
  const focus = useFocusResult();
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
      <Expected reading={current} />
      <Said key={`${view.red?.key} ${view.black?.key} ${view.range}`} reading={current} />
      <NextPlace />
      <LastReadings />
      {current && current.value !== null && (
        <div className="mt-4 border-t border-rule-2 pt-2 max-[1099px]:hidden">
          <Heading>How it is worked out</Heading>
          <p className="mt-1 text-small leading-[1.4]">{current.reckoned}</p>
        </div>
      )}
    </aside>
  );
}

function Expected({ reading }: { reading: MeterReading | null }) {
  return (
    <div className="mt-4 max-[1099px]:mt-0" aria-live="polite">
      <Heading>Expect</Heading>
      {reading ? (
        <Figure reading={reading} />
      ) : (
        <p className="mt-1 text-small text-ink-2">
          Put both probes on terminals: click one, or focus it and press r or b.
        </p>
      )}
    </div>
  );
}

function Figure({ reading }: { reading: MeterReading }) {
  if (reading.value === null) {
    return (
      <>
        <div className="read mt-1">{reading.range === "mA" ? "nothing" : "open"}</div>
        <p className="mt-1 text-small text-ink-2">{reading.reckoned}</p>
        {reading.caution && (
          <p className="mt-2 border-l-3 border-copper bg-copper-wash px-2 py-1.5 text-small">{reading.caution}</p>
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
      <p className="mt-1 text-small text-ink-2">
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
  const read = text.trim() === "" ? null : readNumber(text);
  // amps inside, milliamps on the dial
  const value = read && "number" in read ? read.number / (reading.range === "mA" ? 1000 : 1) : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (value === null) return;
    keep(reading, value);
    setText("");
  };
  return (
    <form className="mt-3 max-[1099px]:mt-0" onSubmit={submit}>
      <label className="font-head text-label font-semibold text-ink-2" htmlFor="meter-said">
        Meter said
      </label>
      <div className="mt-1 flex gap-1.5">
        <Input
          id="meter-said"
          className="min-w-0 flex-1 font-mono"
          inputMode="decimal"
          value={text}
          placeholder={reading.range}
          {...(read && "problem" in read ? { "aria-invalid": true } : {})}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit" disabled={value === null}>
          Keep
        </Button>
      </div>
      <p className="mt-2 flex gap-1.5 text-label leading-[1.35]">
        {read && "problem" in read ? read.problem : <Answer value={value} reading={reading} />}
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
