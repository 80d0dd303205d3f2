import { Checkbox } from "../../../kit/Checkbox.tsx";

/** Whether a thing is kept as it is. */
export function KeptAs({ kept, set }: { kept: boolean; set: (kept: boolean) => void }) {
  return (
    <Checkbox className="mt-2" checked={kept} onChange={set}>
      Kept as it is, whatever the plan would rather have
    </Checkbox>
  );
}
