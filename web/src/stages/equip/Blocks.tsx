import { blocksOf, type Device, type RailwayRecord, setBlock } from "@alderman/core";
import { Choice } from "../../kit/Choice.tsx";
import { TextField } from "../../kit/TextField.tsx";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";

const RAILS = [
  { value: "J", text: "in rail J" },
  { value: "K", text: "in rail K" },
] as const;

/** The block that each zone of a detector watches, and the rail whose feed passes through the zone. */
export function Blocks({ record, detector, zones }: { record: RailwayRecord; detector: Device; zones: number }) {
  const act = useEdit();
  const tryEdit = useTryEdit();
  const known = blocksOf(record, detector.id);
  return (
    <section className="mt-4" aria-label={`Blocks of ${detector.label}`}>
      <h3>Blocks</h3>
      <p className="text-small text-ink-2">
        Each zone watches one isolated stretch, in the feed of one rail. An empty name watches nothing.
      </p>
      <ul>
        {Array.from({ length: zones }, (_, index) => index + 1).map((zone) => {
          const { block = "", rail = "J" } = known.get(zone) ?? {};
          const name = `${detector.label}-${zone}`;
          return (
            <li key={zone} className="flex min-h-9 items-center gap-3 border-t border-rule px-1 py-0.5">
              <b className="mono w-14">{name}</b>
              <div className="min-w-0 flex-1">
                <TextField
                  label={`Block of ${name}`}
                  value={block}
                  placeholder="nothing"
                  save={(text) => tryEdit(() => setBlock(record, detector.id, zone, { block: text, rail }))}
                />
              </div>
              {block !== "" && (
                <Choice
                  label={`Rail of ${name}`}
                  size="small"
                  value={rail}
                  options={RAILS}
                  onChange={(next) => act(() => setBlock(record, detector.id, zone, { block, rail: next }))}
                />
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
