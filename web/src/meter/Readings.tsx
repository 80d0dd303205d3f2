import { type MeterReading, readNumber } from "@alderman/core";
import { type FormEvent, useState } from "react";
import { Band } from "../drawing/Band.tsx";
import { Mark } from "../drawing/Mark.tsx";
import { Button } from "../kit/Button.tsx";
import { Input } from "../kit/Input.tsx";
import { Heading } from "./Heading.tsx";
import { LastReadings } from "./LastReadings.tsx";
import { NextPlace } from "./NextPlace.tsx";
import { useKeepReading } from "./useKeepReading.ts";
import { WRITE } from "./writeValue.ts";

/** What the owner's meter said: between the probes, before, and where to measure next. */
export function Readings({ reading }: { reading: MeterReading | null }) {
  return (
    <>
      <Said reading={reading} />
      <NextPlace />
      <LastReadings />
      {reading && reading.value !== null && (
        <div className="mt-4 border-t border-rule-2 pt-2 max-[1099px]:hidden">
          <Heading>How it is worked out</Heading>
          <p className="mt-1 text-small leading-[1.4]">{reading.reckoned}</p>
        </div>
      )}
    </>
  );
}

/** What a real meter should show between the probes, with the band that the parts allow. */
export function Expected({ reading }: { reading: MeterReading }) {
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
        {reading.range === "ohm" || reading.range === "diode" ? "" : reading.ac ? "AC, " : "DC, "}±
        {split(reading.range, reading.tolerance).join(" ")}
        {reading.corner > reading.tolerance && `, at worst ±${split(reading.range, reading.corner).join(" ")}`}
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
          placeholder={reading.range === "diode" ? "V" : reading.range}
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
  const off = Math.abs(value - reading.value);
  if (off <= reading.tolerance) {
    return (
      <>
        <Mark verdict="good" /> Agrees.
      </>
    );
  }
  if (off <= reading.corner) {
    return (
      <>
        <Mark verdict="doubtful" /> Few sound builds read so: only with most parts at their worst. Read again, and look
        at what may differ.
      </>
    );
  }
  return (
    <>
      <Mark verdict="wrong" /> Off by {split(reading.range, off - reading.corner).join(" ")} more than the parts allow.
    </>
  );
}
