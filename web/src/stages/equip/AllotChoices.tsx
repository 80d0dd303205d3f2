import {
  ADDRESSING,
  type Addressing,
  type AllotOptions,
  drivesMotors,
  type Model,
  type RailwayRecord,
  typesOfFamily,
} from "@alderman/core";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { ChoiceField } from "../../kit/ChoiceField.tsx";
import { Field, FormGrid } from "../../kit/Field.tsx";
import { NumberField } from "../../kit/NumberField.tsx";

const KINDS: { model: Model; name: string }[] = [
  { model: "stall-motor", name: "Stall motors on" },
  { model: "twin-coil", name: "Coils on" },
  { model: "servo", name: "Servos on" },
];

const ADDRESS_WORDS: Record<Addressing, string> = {
  runs: "in runs, board after board",
  numbers: "the number in the turnout's label",
  zones: "a hundred for each zone",
  factory: "keep the factory settings",
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
  const motors = typesOfFamily(record, "motor").map(({ id, name }) => ({
    value: id as string | null,
    text: `get: ${name}`,
  }));
  const drivers = typesOfFamily(record, "driver")
    .filter(drivesMotors)
    .map(({ id, name }) => ({ value: id as string | null, text: name }));
  return (
    <FormGrid>
      <ChoiceField
        label="Turnouts without a motor"
        value={options.motor}
        options={[{ value: null, text: "are left out" }, ...motors]}
        onChange={(motor) => set({ ...options, motor })}
      />
      {KINDS.map(({ model, name }) => (
        <ChoiceField
          key={model}
          label={name}
          value={options.boards[model] ?? null}
          options={drivers}
          onChange={(board) => board !== null && set({ ...options, boards: { ...options.boards, [model]: board } })}
        />
      ))}
      <ChoiceField
        label="Addresses"
        value={options.addresses}
        options={ADDRESSING.map((value) => ({ value, text: ADDRESS_WORDS[value] }))}
        onChange={(addresses) => set({ ...options, addresses })}
      />
      <Field label="New boards of a kind">
        {(ids) => (
          <NumberField
            ids={ids}
            value={options.mostBoards}
            empty="as many as it takes"
            save={(mostBoards) => {
              if (mostBoards !== null && (!Number.isInteger(mostBoards) || mostBoards < 0))
                return "Type a whole number, or leave it empty.";
              set({ ...options, mostBoards });
              return null;
            }}
          />
        )}
      </Field>
      <Checkbox className="col-span-full" checked={options.split} onChange={(split) => set({ ...options, split })}>
        A crossover that is too much for one output gets one for each motor
      </Checkbox>
    </FormGrid>
  );
}
