import type { ConstructionKind } from "@alderman/core";
import { Segmented } from "../../kit/Segmented.tsx";

const BUILDS: { value: ConstructionKind; text: string }[] = [
  { value: "fewest", text: "Fewest diodes" },
  { value: "full", text: "A diode at every link" },
  { value: "cascaded", text: "Cascaded" },
];

/** How a matrix is built, and whether it is shown with its diodes or as it were with plain wires only. */
export function BuildSegments({
  kind,
  setKind,
  hasDiodes,
  setDiodes,
}: {
  kind: ConstructionKind;
  setKind: (kind: ConstructionKind) => void;
  hasDiodes: boolean;
  setDiodes: (hasDiodes: boolean) => void;
}) {
  return (
    <>
      <Segmented size="small" label="How it is built" value={kind} segments={BUILDS} onChange={setKind} />
      <Segmented
        size="small"
        label="Diodes"
        value={hasDiodes ? "with" : "without"}
        segments={[
          { value: "with", text: "With diodes" },
          { value: "without", text: "Without diodes" },
        ]}
        onChange={(value) => setDiodes(value === "with")}
      />
    </>
  );
}
