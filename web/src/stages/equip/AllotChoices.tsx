import {
  ADDRESSING,
  type Addressing,
  type AllotOptions,
  drivesMotors,
  type Model,
  type RailwayRecord,
  typesOfFamily,
} from "@alderman/core";
import type { ReactNode } from "react";

const KINDS: { model: Model; name: string }[] = [
  { model: "stall-motor", name: "Stall motors on" },
  { model: "twin-coil", name: "Coils on" },
  { model: "servo", name: "Servos on" },
];

const ADDRESS_WORDS: Record<Addressing, string> = {
  runs: "in runs, board after board",
  numbers: "the number in the turnout's label",
  zones: "a hundred for each zone",
  factory: "leave the factory's",
};

/** What an allotment is to go by. */
export function AllotChoices({
  record,
  options,
  set,
}: {
  record: RailwayRecord;
  options: AllotOptions;
  set: (options: AllotOptions) => void;
}) {
  const motors = typesOfFamily(record, "motor");
  const drivers = typesOfFamily(record, "driver").filter(drivesMotors);
  return (
    <div className="grid grid-cols-[170px_1fr] items-center gap-x-4 gap-y-2">
      <label htmlFor="allot-motor">Turnouts without a motor</label>
      <select
        id="allot-motor"
        className="field"
        value={options.motor ?? ""}
        onChange={(event) => set({ ...options, motor: event.target.value || null })}
      >
        <option value="">are left out</option>
        {motors.map(({ id, name }) => (
          <option key={id} value={id}>
            get: {name}
          </option>
        ))}
      </select>
      {KINDS.map(({ model, name }) => (
        <Field key={model} id={`allot-${model}`} label={name}>
          <select
            id={`allot-${model}`}
            className="field"
            value={options.boards[model] ?? ""}
            onChange={(event) => set({ ...options, boards: { ...options.boards, [model]: event.target.value } })}
          >
            {drivers.map((type) => (
              <option key={type.id} value={type.id}>
                {type.name}
              </option>
            ))}
          </select>
        </Field>
      ))}
      <label htmlFor="allot-addresses">Addresses</label>
      <select
        id="allot-addresses"
        className="field"
        value={options.addresses}
        onChange={(event) => set({ ...options, addresses: event.target.value as Addressing })}
      >
        {ADDRESSING.map((each) => (
          <option key={each} value={each}>
            {ADDRESS_WORDS[each]}
          </option>
        ))}
      </select>
      <label htmlFor="allot-most">New boards of a kind</label>
      <input
        id="allot-most"
        className="field"
        inputMode="numeric"
        placeholder="as many as it takes"
        value={options.mostBoards ?? ""}
        onChange={(event) => {
          const most = event.target.value.trim() === "" ? null : Number(event.target.value);
          if (most === null || (Number.isInteger(most) && most >= 0)) set({ ...options, mostBoards: most });
        }}
      />
      <label className="col-span-2 flex items-center gap-2">
        <input
          type="checkbox"
          className="size-4 accent-[var(--copper)]"
          checked={options.split}
          onChange={(event) => set({ ...options, split: event.target.checked })}
        />
        A crossover that is too much for one output gets one for each motor
      </label>
    </div>
  );
}

function Field({ id, label, children }: { id: string; label: string; children: ReactNode }) {
  return (
    <>
      <label htmlFor={id}>{label}</label>
      {children}
    </>
  );
}
