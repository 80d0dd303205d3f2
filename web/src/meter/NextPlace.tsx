import { faultWords, measuringPoints, nextPlace, ownOf, standingAt, threadLedBy, wiresBetween } from "@alderman/core";
import { useState } from "react";
import { useLeader, useLoom } from "../derivation/hooks.ts";
import { Button } from "../kit/Button.tsx";
import { useRecord } from "../session/hooks.ts";
import { ThingDialog } from "../stages/loom/things/ThingDialog.tsx";
import type { LoomThing } from "../stages/loom/things/thing.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { probe, setRange } from "../store/view.ts";

/** Wires that are offered to be looked at; along more one measures on. */
const MOST_WIRES = 4;

/** Where to measure next when a kept reading on the chosen thread disagrees: half-way back along it. */
export function NextPlace() {
  const { asked, moment } = useAppSelector((state) => state.view);
  const record = useRecord();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const loom = useLoom();
  const [thing, setThing] = useState<LoomThing | null>(null);
  const thread = record && leader ? threadLedBy(record, leader) : undefined;
  if (!record || !leader || !thread) return null;
  const state = { turnoutId: leader, position: ownOf(asked, leader) ?? "N", moment } as const;
  const hints = measuringPoints(record, thread)
    .map((points) => nextPlace(points, (point) => standingAt(record.readings, point, state)))
    .filter((hint) => hint !== null);
  const [hint] = hints;
  if (!hint) return null;
  if ("fault" in hint) {
    const [before, after] = hint.fault.between;
    const wires = loom && before ? wiresBetween(loom, before.red, after.red) : [];
    return (
      <>
        <p className="mt-2 border-l-3 border-red bg-red-wash px-2 py-1.5 text-small">{faultWords(hint.fault)}</p>
        {wires.length > 0 && wires.length <= MOST_WIRES && (
          <p className="mt-1.5 flex flex-wrap gap-1 text-small">
            {wires.map(({ id, label, from, to }) => (
              <Button
                key={id}
                size="small"
                aria-label={`${label}, its card`}
                onClick={() => setThing({ kind: "wire", id })}
              >
                {label}, {from.name} to {to.name}
              </Button>
            ))}
          </p>
        )}
        {thing && <ThingDialog thing={thing} open={setThing} close={() => setThing(null)} />}
      </>
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
