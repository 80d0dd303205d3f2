import {
  type CapacitorChoice,
  ohms,
  type RailwayRecord,
  SAFE_VOLTS,
  SAFE_WITHIN,
  type UnitDesign,
} from "@alderman/core";
import { useEffect, useState } from "react";
import { askUnitDesigns, useOverview } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { SheetBody } from "../../kit/Sheet.tsx";
import { type Curve, TimeChart } from "../../kit/TimeChart.tsx";
import { useAppDispatch } from "../../store/store.ts";

/** What a discharge unit could be for the routes that it fires: capacitors, recharge, and until it is safe. */
export function UnitSheet({ record }: { record: RailwayRecord }) {
  const designs = useDesigns();
  if (designs === null) return <p className="p-3 text-ink-2">Working the units out.</p>;
  return (
    <SheetBody label="Discharge units" className="grid content-start gap-3 p-3">
      {designs.length === 0 && <p className="text-ink-2">No discharge unit fires a route yet.</p>}
      {designs.map((design) => (
        <Unit key={design.unit.device.id} design={design} currency={record.railway.currency} />
      ))}
    </SheetBody>
  );
}

function useDesigns(): UnitDesign[] | null {
  const dispatch = useAppDispatch();
  const overview = useOverview();
  const [designs, setDesigns] = useState<UnitDesign[] | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another overview is another railway
  useEffect(() => {
    let isWanted = true;
    void dispatch(askUnitDesigns()).then((found) => isWanted && setDesigns(found));
    return () => {
      isWanted = false;
    };
  }, [overview, dispatch]);
  return designs;
}

function Unit({ design, currency }: { design: UnitDesign; currency: string }) {
  const { unit, worst, volts, mostVolts, highVolts, chargeOhms, choices, each, price } = design;
  const present = choices.find(({ isPresent }) => isPresent);
  const best = choices.find(({ isEnough }) => isEnough);
  return (
    <section className="grid gap-2" aria-label={unit.device.label}>
      <h3>
        {unit.device.label}: the worst of its routes leaves {worst.label} least
      </h3>
      <p>
        Charged to {volts.toFixed(1)} V through {ohms(chargeOhms)}; {highVolts.toFixed(1)} V at the high end of its
        supply, of {mostVolts} V that the capacitor is made for
        {highVolts > mostVolts ? ": take one for more volts" : ""}. Each coil needs {worst.least} J.{" "}
        {best
          ? `${best.made} is enough, a capacitor at the low end of its tolerance included.`
          : "None of these is enough: divide the routes between two units, or lay thicker wire."}
      </p>
      {present && <Recharge design={design} choice={present} />}
      <DataTable<CapacitorChoice>
        flowing
        label={`Capacitors for ${unit.device.label}`}
        items={choices}
        idOf={({ made }) => made}
        columns={[
          {
            id: "made",
            title: "Capacitor",
            cell: ({ made, isPresent }) => (isPresent ? <b>{made}, fitted</b> : made),
            value: ({ made }) => made,
          },
          { id: "joules", title: "Holds", width: 70, value: ({ joules }) => `${joules.toFixed(2)} J` },
          { id: "weakest", title: "Weakest coil", width: 96, value: ({ weakest }) => `${weakest.toFixed(2)} J` },
          {
            id: "low",
            title: "20 % low",
            width: 84,
            cell: ({ weakestLow, isEnough }) => (
              <span className="inline-flex items-center gap-1">
                {weakestLow.toFixed(2)} J <Mark verdict={isEnough ? "good" : "wrong"} size={13} />
              </span>
            ),
            value: ({ weakestLow }) => weakestLow,
          },
          {
            id: "waits",
            title: "Ready after",
            width: 84,
            value: ({ waits }) => (waits === null ? "never" : `${waits.toFixed(1)} s`),
          },
          {
            id: "held",
            title: "By transistor",
            width: 96,
            value: ({ waitsHeld }) => (waitsHeld === null ? "never" : `${waitsHeld.toFixed(1)} s`),
          },
          { id: "minute", title: "A minute", width: 70, value: ({ perMinute }) => perMinute ?? "none" },
          { id: "safe", title: "Safe after", width: 76, value: ({ safeAfter }) => `${Math.round(safeAfter)} s` },
          {
            id: "bleed",
            title: `Safe in ${SAFE_WITHIN} s by`,
            width: 118,
            value: ({ bleedOhms, bleedWatts }) => `${ohms(bleedOhms)}, ${bleedWatts.toFixed(2)} W`,
          },
          { id: "price", title: currency, width: 50, value: ({ price: each }) => each.toFixed(1) },
        ]}
      />
      <p className="text-small text-ink-2">
        Dashed in the picture: charging through a transistor that holds the resistor's first current until the unit is
        full. A unit of its own at each of {each.motors} motors holds {each.joules.toFixed(2)} J there and costs some{" "}
        {each.price.toFixed(0)} {currency}, one for all some {price.toFixed(0)} {currency}; but a button through diodes
        fires one unit only.
      </p>
      <p className="text-small">
        A charged capacitor burns and welds. Bleed it before you work on it, and measure it: below {SAFE_VOLTS} V it is
        safe to touch with a tool.
      </p>
    </section>
  );
}

const POINTS = 50;

/** Volts of the unit as it charges again after a press, and when the worst route is firm again. */
function Recharge({ design: { volts, chargeOhms }, choice }: { design: UnitDesign; choice: CapacitorChoice }) {
  const constant = chargeOhms * choice.farads;
  const stop = Math.max(4 * constant, (choice.waits ?? 0) * 1.3);
  const curve = Array.from({ length: POINTS + 1 }, (_, index) => {
    const seconds = (stop * index) / POINTS;
    return {
      seconds,
      volts: volts * (1 - Math.exp(-seconds / constant)),
      held: volts * Math.min(1, seconds / constant),
    };
  });
  return (
    <TimeChart
      label={`Charges again to ${volts.toFixed(1)} V; ${choice.waits === null ? "the worst route is never firm" : `the worst route is firm after ${choice.waits.toFixed(1)} s`}.`}
      className="h-40 max-w-[640px]"
      points={curve}
      time={{ key: "seconds", title: "s after the press", write: (seconds) => seconds.toFixed(1) }}
      curves={RECHARGE_CURVES}
      mark={choice.waits === null ? null : { at: choice.waits, text: "ready again" }}
    />
  );
}

/** Through the resistor full, through a transistor dashed. */
const RECHARGE_CURVES: readonly Curve[] = [
  { key: "held", of: "volts", dashed: true },
  { key: "volts", of: "volts" },
];
