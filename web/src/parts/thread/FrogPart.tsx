import { type FrogReading, railAtContact, type ThreadFrog, terminalName, volts } from "@alderman/core";
import type { Verdict } from "../Mark.tsx";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { Heading } from "./Heading.tsx";

const RAIL_NAMES = { L: "left rail", R: "right rail" };

/** The verdict on a frog: carries what it must, the wrong rail, or nothing. */
export function frogVerdict(frog: ThreadFrog, reads: FrogReading | undefined): Verdict {
  if (!reads?.wanted || (frog.from && reads.carries === null)) return "doubtful";
  if (!frog.from) return "open";
  return reads.carries === reads.wanted ? "good" : "wrong";
}

/** What a frog carries, in few words. */
export function frogWords(reads: FrogReading | undefined): string {
  return reads?.carries ? `carries ${RAIL_NAMES[reads.carries]}` : "dead";
}

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
  const byContact = from && from.type.model !== "polarity-unit" && (assignment.way ?? 1) <= from.type.contactSets;
  const set = `S${assignment.way ?? 1}`;
  const atFrog = (terminal: string, x: number, y: number, labelAt: "left" | "right" | "below") => (
    <Terminal
      end={`${device.id}:${terminal}`}
      name={terminalName(device.label, terminal)}
      x={x}
      y={y}
      label={terminal}
      labelAt={labelAt}
    />
  );
  const rail = (position: "N" | "R") => (railAtContact(frog, position) === "L" ? 556 : 622);
  const colour = (position: "N" | "R") => (railAtContact(frog, position) === "L" ? "PK" : "TQ");
  return (
    <g>
      <Heading
        x={540}
        y={286}
        number={number}
        words={`Frog ${frog.turnout.label}`}
        verdict={frogVerdict(frog, reads)}
      />
      <path d="M556 396V452M622 396V452" stroke="var(--ink)" strokeWidth="3" />
      <path d="M576 452L589 400L602 452" fill="none" stroke="var(--ink)" strokeWidth="3" strokeLinejoin="round" />
      {byContact && from && (
        <>
          <WirePath d={`M564 318H${rail("N") === 556 ? 548 : 630}V378H${rail("N")}V396`} colour={colour("N")} />
          <WirePath d={`M614 318H${rail("R") === 556 ? 548 : 630}V378H${rail("R")}V396`} colour={colour("R")} />
          <WirePath d="M589 352V400" colour="WHRD" />
          <ContactAbove to={reads?.carries ? (rail("N") === (reads.carries === "L" ? 556 : 622) ? "N" : "R") : null} />
          {(
            [
              ["n", 564, 318],
              ["r", 614, 318],
              ["c", 589, 352],
            ] as const
          ).map(([end, x, y]) => (
            <Terminal
              key={end}
              end={`${from.device.id}:${set}${end}`}
              name={terminalName(from.device.label, `${set}${end}`)}
              x={x}
              y={y}
              label={end}
              labelAt={end === "c" ? "aboveRight" : "above"}
              radius={4.5}
            />
          ))}
        </>
      )}
      {from?.type.model === "polarity-unit" && (
        <>
          <path d="M562 308H616V350H562Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
          <text className="tv" x="589" y="333" textAnchor="middle">
            {from.device.label}
          </text>
          <WirePath d="M589 352V400" colour="WHRD" />
          <Terminal
            end={`${from.device.id}:F`}
            name={terminalName(from.device.label, "F")}
            x={589}
            y={352}
            label="F"
            labelAt="aboveRight"
          />
        </>
      )}
      {atFrog("F", 589, 404, "below")}
      {atFrog("L", 556, 400, "left")}
      {atFrog("R", 622, 400, "right")}
      <text className="tm" x="540" y="300" style={{ fontSize: "11px" }}>
        {from ? `by ${from.device.label}${byContact ? `-${set}` : ""}` : "nothing feeds it"}
      </text>
      {reads && (
        <>
          <text className="tm" x="536" y="466">
            F-L {volts(Math.abs(reads.toLeft))}
          </text>
          <text
            className="tm"
            x="536"
            y="479"
            style={frogVerdict(frog, reads) === "wrong" ? { fill: "var(--red)", fontWeight: 700 } : {}}
          >
            {frogWords(reads)}
          </text>
        </>
      )}
    </g>
  );
}

/** A changeover contact seen from above: common below, its two sides above. */
function ContactAbove({ to }: { to: "N" | "R" | null }) {
  return to === null ? null : (
    <g transform="translate(589 335)">
      <title>{`Contact made at ${to}`}</title>
      <path d={`M0 12L${to === "N" ? -20 : 20} -12`} stroke="var(--copper)" strokeWidth="2.4" />
    </g>
  );
}
