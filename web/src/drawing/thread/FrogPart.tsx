import {
  type Fitted,
  type FrogReading,
  railAtContact,
  type ThreadFrog,
  terminalName,
  traitsOf,
  volts,
} from "@alderman/core";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { frogVerdict, frogWords } from "./frogWords.ts";
import { Heading } from "./Heading.tsx";

const RAIL_NAMES = { L: "left rail", R: "right rail" };

/** The frog between its rails with the contact that feeds it, in the lower half of the track's column. */
export function FrogPart({
  frog,
  reads,
  number,
}: {
  frog: ThreadFrog;
  reads: FrogReading | undefined;
  number: number;
}) {
  const { from, assignment, device } = frog;
  const byContact =
    from && traitsOf(from.type).inTrack !== "polarity-unit" && (assignment.way ?? 1) <= from.type.contactSets;
  const set = `S${assignment.way ?? 1}`;
  const atFrog = (terminal: string, x: number, y: number, labelAt: "left" | "right" | "aboveRight") => (
    <Terminal
      end={`${device.id}:${terminal}`}
      name={terminalName(device.label, terminal)}
      x={x}
      y={y}
      label={terminal}
      labelAt={labelAt}
    />
  );
  return (
    <g>
      <Heading
        x={540}
        y={286}
        number={number}
        words={`Frog ${frog.turnout.label}`}
        verdict={frogVerdict(frog, reads)}
      />
      <path d="M556 396V446M622 396V446" stroke="var(--ink)" strokeWidth="3" />
      <path d="M577 446L589 400L601 446" fill="none" stroke="var(--ink)" strokeWidth="3" strokeLinejoin="round" />
      {byContact && <FedByContact frog={frog} set={set} side={reads?.carries ?? null} />}
      {from && traitsOf(from.type).inTrack === "polarity-unit" && <FedByUnit unit={from} />}
      {atFrog("F", 589, 404, "aboveRight")}
      {atFrog("L", 556, 400, "left")}
      {atFrog("R", 622, 400, "right")}
      <text className="tm" x="540" y="300" style={{ fontSize: "11px" }}>
        {from ? `by ${from.device.label}${byContact ? `-${set}` : ""}` : "nothing feeds it"}
      </text>
      {reads && (
        <>
          <text className="tm" x="534" y="461" style={{ fontSize: "10.5px" }}>
            F-L {volts(Math.abs(reads.toLeft))}
          </text>
          <text
            className="tm"
            x="534"
            y="474"
            style={{
              fontSize: "10.5px",
              ...(frogVerdict(frog, reads) === "wrong" ? { fill: "var(--red)", fontWeight: 700 } : {}),
            }}
          >
            {frogWords(frog, reads)}
          </text>
        </>
      )}
    </g>
  );
}

/** The contact that joins the frog to one rail or the other. */
function FedByContact({ frog, set, side }: { frog: ThreadFrog; set: string; side: "L" | "R" | null }) {
  const { from } = frog;
  if (!from) return null;
  // the side that is wired to the left rail is drawn on the left
  const [left, right] = railAtContact(frog, "N") === "L" ? ["n", "r"] : ["r", "n"];
  const at = (end: string, x: number, y: number) => (
    <Terminal
      end={`${from.device.id}:${set}${end}`}
      name={terminalName(from.device.label, `${set}${end}`)}
      x={x}
      y={y}
      label={end}
      labelAt={end === "c" ? "aboveRight" : "above"}
      radius={4.5}
    />
  );
  return (
    <>
      <WirePath d="M564 326H548V378H556V396" colour="PK" />
      <WirePath d="M614 326H630V378H622V396" colour="TQ" />
      <WirePath d="M589 360V400" colour="WHRD" />
      <ContactAbove side={side} />
      {at(left ?? "n", 564, 326)}
      {at(right ?? "r", 614, 326)}
      {at("c", 589, 360)}
    </>
  );
}

/** The polarity unit that feeds the frog. */
function FedByUnit({ unit: { device } }: { unit: Fitted }) {
  return (
    <>
      <path d="M562 308H616V350H562Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <text className="tv" x="589" y="325" textAnchor="middle">
        {device.label}
      </text>
      <WirePath d="M589 350V400" colour="WHRD" />
      <Terminal
        end={`${device.id}:F`}
        name={terminalName(device.label, "F")}
        x={589}
        y={350}
        label="F"
        labelAt="aboveRight"
      />
    </>
  );
}

/** A changeover contact: common below, its two sides above. */
function ContactAbove({ side }: { side: "L" | "R" | null }) {
  return side === null ? null : (
    <path d={`M589 355L${side === "L" ? 569 : 609} 331`} stroke="var(--copper)" strokeWidth="2.4">
      <title>{`Contact made to the ${RAIL_NAMES[side]}`}</title>
    </path>
  );
}
