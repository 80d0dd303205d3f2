import { PULSE_CURVES, TimeChart } from "../kit/TimeChart.tsx";

/** Time constants that are shown, and points of the curves. */
const SHOWN = { constants: 4, points: 80 };

/** The discharge of a capacitor into equal coils: volts across it and amps in each coil, as they fall. */
export function PulsePicture({ input }: { input: Record<string, unknown> }) {
  const { microfarads, chargeVolts, coilOhms, coils, wireOhms = 0 } = input as Record<string, number>;
  if (![microfarads, chargeVolts, coilOhms, coils].every((each) => typeof each === "number" && each > 0)) return null;
  const ohms = ((coilOhms ?? 0) + wireOhms) / (coils ?? 1);
  const constant = ohms * (microfarads ?? 0) * 1e-6;
  const peak = (chargeVolts ?? 0) / ((coilOhms ?? 1) + wireOhms);
  const curve = Array.from({ length: SHOWN.points + 1 }, (_, index) => {
    const share = Math.exp((-SHOWN.constants * index) / SHOWN.points);
    const ms = (1000 * SHOWN.constants * constant * index) / SHOWN.points;
    return { ms, volts: (chargeVolts ?? 0) * share, amps: peak * share };
  });
  const half = 1000 * constant * Math.LN2;
  return (
    <section aria-label="The pulse" className="grid gap-2 border-t border-rule p-4">
      <TimeChart
        label={`Volts and amps fall from ${chargeVolts} V and ${peak.toFixed(2)} A; after ${half.toFixed(1)} ms half is left.`}
        className="h-64 max-w-[760px]"
        points={curve}
        time={{
          key: "ms",
          title: "ms after the press",
          write: (ms) => String(Number(ms.toPrecision(2))),
          // at each time constant
          ticks: Array.from({ length: SHOWN.constants + 1 }, (_, index) => 1000 * constant * index),
        }}
        curves={PULSE_CURVES}
        mark={{ at: half, text: "half of the peak" }}
      />
      <p>
        Dashed: volts across the capacitor. Full: amps in each coil, above half of the peak for{" "}
        <b className="mono">{half.toFixed(1)} ms</b>. A coil's inductance, which is left out here, rounds off the first
        instant.
      </p>
    </section>
  );
}
