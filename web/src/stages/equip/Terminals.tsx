import { type Device, type DeviceType, terminalName } from "@alderman/core";
import { Button } from "../../kit/Button.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { probe } from "../../store/view.ts";

/** Every terminal of a board, those of free outputs too, to put the meter's probes on. */
export function Terminals({ device, type }: { device: Device; type: DeviceType }) {
  const dispatch = useAppDispatch();
  const red = useAppSelector((state) => state.view.red?.key);
  const black = useAppSelector((state) => state.view.black?.key);
  return (
    <section className="mt-4" aria-label={`Terminals of ${device.label}`}>
      <h3>Terminals</h3>
      <p className="text-small text-ink-2">Click two to put the meter's red and black probes on them.</p>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {type.terminals.map(({ name, about }) => {
          const end = { key: `${device.id}:${name}`, name: terminalName(device.label, name) };
          const carries = end.key === red ? "red" : end.key === black ? "black" : null;
          return (
            <Button
              key={name}
              size="small"
              className={`mono ${carries === "red" ? "text-red" : ""}`}
              title={about}
              aria-label={`Terminal ${end.name}, ${about}`}
              aria-pressed={carries !== null}
              onClick={() => dispatch(probe({ probe: "next", end }))}
            >
              {name}
              {carries && <span className="text-small">{carries}</span>}
            </Button>
          );
        })}
      </div>
    </section>
  );
}
