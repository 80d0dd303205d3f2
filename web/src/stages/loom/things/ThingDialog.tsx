import { useLoom } from "../../../derivation/hooks.ts";
import { useRecord } from "../../../session/hooks.ts";
import { CableDialog } from "./CableDialog.tsx";
import { StripDialog } from "./StripDialog.tsx";
import { TurnoutDialog } from "./TurnoutDialog.tsx";
import type { LoomThing, OpenThing } from "./thing.ts";
import { WireDialog } from "./WireDialog.tsx";

/** The card of a strip, a cable, a wire or a turnout: what it is, what is at it, and what of it can be changed by hand. */
export function ThingDialog({ thing, open, close }: { thing: LoomThing; open: OpenThing; close: () => void }) {
  const record = useRecord();
  const loom = useLoom();
  if (!record || !loom) return null;
  const rest = { record, loom, open, close };
  const strip = thing.kind === "strip" && loom.strips.find(({ id }) => id === thing.id);
  if (strip) return <StripDialog key={thing.id} thing={strip} {...rest} />;
  const cable = thing.kind === "cable" && loom.cables.find(({ id }) => id === thing.id);
  if (cable) return <CableDialog key={thing.id} thing={cable} {...rest} />;
  const wire = thing.kind === "wire" && loom.wires.find(({ id }) => id === thing.id);
  if (wire) return <WireDialog key={thing.id} thing={wire} {...rest} />;
  const turnout = thing.kind === "turnout" && record.turnouts.find(({ id }) => id === thing.id);
  if (turnout) return <TurnoutDialog key={thing.id} thing={turnout} {...rest} />;
  return null;
}
