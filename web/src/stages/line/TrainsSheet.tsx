import {
  type AutomaticThrow,
  automaticThrows,
  CATALOGUE,
  deviceOf,
  explainTurning,
  find,
  followsFrom,
  metresPerSecond,
  type RailwayRecord,
  serves,
  traitsOf,
  turningOf,
  wayName,
} from "@alderman/core";
import { useMemo } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import { SheetBody } from "../../kit/Sheet.tsx";

/** What trains do on the line: sections that turn them, and turnouts that they throw themselves. */
export function TrainsSheet({ record }: { record: RailwayRecord }) {
  const throws = useMemo(() => automaticThrows(record), [record]);
  const { scale, trainKmh, trainMetres, units } = record.railway;
  const speed = units === "imperial" ? `${Math.round(trainKmh / 1.609344)} mph` : `${Math.round(trainKmh)} km/h`;
  return (
    <SheetBody label="Trains on the line" still>
      <p className="border-b border-rule px-3 py-1.5 text-small text-ink-2">
        {speed} in 1:{scale} is {metresPerSecond(record.railway).toFixed(2)} m in a second; the longest train is{" "}
        {trainMetres} m. Both are set with the railway.
      </p>
      {throws.map((thrown) => (
        <ThrowRow key={thrown.control.id} record={record} thrown={thrown} />
      ))}
      <Turning record={record} />
      {throws.length === 0 && !followsFrom(record).turning.conflict && (
        <p className="p-3 text-ink-2">No section turns trains, and no train throws a turnout.</p>
      )}
    </SheetBody>
  );
}

function ThrowRow({ record, thrown }: { record: RailwayRecord; thrown: AutomaticThrow }) {
  const { control, block, to, arrivals, seconds } = thrown;
  const label = find(record, "turnout", thrown.turnoutId)?.label ?? thrown.turnoutId;
  const good = seconds !== null && arrivals.every((arrival) => serves(thrown, arrival) && arrival.seconds >= seconds);
  return (
    <div className="grid grid-cols-[18px_minmax(0,1fr)] gap-2 border-b border-rule px-3 py-1.5">
      <Mark verdict={good ? "good" : "open"} size={14} />
      <div>
        A train in <b>{block.name}</b> ({wayName(deviceOf(record, control.deviceId).label, control.way)}) throws {label}{" "}
        to {to}
        {seconds === null ? "; it has no motor yet" : `, which lies after ${seconds.toFixed(1)} s`}.{" "}
        {arrivals.map((arrival) => (
          <span key={`${arrival.leg} ${arrival.metres}`}>
            It comes to the {arrival.leg === "toe" ? "points" : `${arrival.leg} leg`} after {arrival.metres.toFixed(2)}{" "}
            m, in {arrival.seconds.toFixed(1)} s{serves(thrown, arrival) ? "" : `, and ${to} is not for that leg`}.{" "}
          </span>
        ))}
      </div>
    </div>
  );
}

/** Sections that are turned, with the loops that make them necessary. */
function Turning({ record }: { record: RailwayRecord }) {
  const { sections, single } = useMemo(() => turningOf(record), [record]);
  const loops = useMemo(() => explainTurning(record), [record]);
  if (loops.length === 0) return null;
  const { trainMetres } = record.railway;
  const reversers = CATALOGUE.filter((type) => traitsOf(type).inTrack === "reverser");
  return (
    <>
      {sections.map(({ id, blocks, metres, gaps, touches }) => (
        <p key={id} className="border-b border-rule px-3 py-1.5">
          <b>{blocks.map(({ name }) => name).join(" and ") || "A section without a name"}</b> turns trains:{" "}
          {metres.toFixed(2)} m between {gaps.length} gaps, {metres < trainMetres ? "too short for" : "room for"} the
          longest train.
          {touches.length > 0 && " It meets another such section at a gap: their reversers may chase each other."}
        </p>
      ))}
      {single.length > 0 && (
        <p className="border-b border-rule px-3 py-1.5">One gap alone keeps the rails apart; a reverser needs two.</p>
      )}
      {loops.map(({ link, walk }) => (
        <div key={link.join(" ")} className="border-b border-rule px-3 py-1.5 text-ink-2">
          Why rails meet their opposites there:
          <ol className="mt-1 list-decimal pl-5">
            {walk.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ol>
        </div>
      ))}
      <p className="px-3 py-1.5 text-ink-2">
        A section is turned by{" "}
        {reversers.map(({ name }) => `an ${name.charAt(0).toLowerCase()}${name.slice(1)}`).join(", or ")}. One with an
        output for a motor throws the turnout as well; that output has to be of the motor's kind.
      </p>
    </>
  );
}
