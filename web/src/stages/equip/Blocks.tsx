import { blocksOf, type Device, type DeviceType, type RailwayRecord, setBlock } from "@alderman/core";
import { Choice } from "../../kit/Choice.tsx";
import { TextField } from "../../kit/TextField.tsx";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";

const RAILS = [
  { value: "J", text: "in rail J" },
  { value: "K", text: "in rail K" },
] as const;

/**
 * The block that each zone of a detector watches, and the rail whose feed passes through the zone; or the loop that a
 * reverser feeds, and the rail that its first side joins.
 */
export function Blocks({ record, device, type }: { record: RailwayRecord; device: Device; type: DeviceType }) {
  const { zones } = type;
  const act = useEdit();
  const tryEdit = useTryEdit();
  const known = blocksOf(record, device.id);
  return (
    <section className="mt-4" aria-label={`Blocks of ${device.label}`}>
      <h3>{zones === undefined ? "Loop" : "Blocks"}</h3>
      <p className="text-small text-ink-2">
        {zones === undefined
          ? "The stretch behind its terminals A and B, isolated in both rails at both ends. Detectors within the loop are fed from here."
          : "Each zone watches one isolated stretch, in the feed of one rail. An empty name watches nothing."}
      </p>
      <ul>
        {Array.from({ length: zones ?? 1 }, (_, index) => index + 1).map((zone) => {
          const { block = "", rail = "J" } = known.get(zone) ?? {};
          const name = zones === undefined ? `${device.label}-A` : `${device.label}-${zone}`;
          return (
            <li key={zone} className="flex min-h-9 items-center gap-3 border-t border-rule px-1 py-0.5">
              <b className="mono w-14">{name}</b>
              <div className="min-w-0 flex-1">
                <TextField
                  label={`Block of ${name}`}
                  value={block}
                  placeholder="nothing"
                  save={(text) => tryEdit(() => setBlock(record, device.id, zone, { block: text, rail }))}
                />
              </div>
              {block !== "" && (
                <Choice
                  label={`Rail of ${name}`}
                  size="small"
                  value={rail}
                  options={RAILS}
                  onChange={(next) => act(() => setBlock(record, device.id, zone, { block, rail: next }))}
                />
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
