import { amps, figureValue, type Position, supplyOf, terminalName, volts } from "@alderman/core";
import { useAppSelector } from "../../store/store.ts";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { Contact, Lamp } from "./glyphs.tsx";
import { Heading, Missing } from "./Heading.tsx";
import { Lane, viaWords } from "./Lane.tsx";
import { BACK_ROWS, type LaneProps, type Numbered } from "./laneProps.ts";
import { type DrawnEnd, linkVerdict } from "./wiring.ts";

/** Contact, cable and lamp, with the supply that feeds them. */
export function BackLane({ thread, reading, wiring, findings, first }: LaneProps & Numbered) {
  const { lamp } = thread;
  const record = useAppSelector((state) => state.railway.record);
  if (!lamp) {
    return (
      <g>
        <Missing x={12} y={362} words="No lamp" />
      </g>
    );
  }
  const { motorId, way } = lamp.assignment;
  const source = thread.motors.find(({ device }) => device.id === motorId);
  const contactLabel = source?.device.label ?? "";
  const hasContact = source !== undefined && way <= source.type.contactSets;
  const end = (id: string, label: string, terminal: string): DrawnEnd => ({
    key: `${id}:${terminal}`,
    name: terminalName(label, terminal),
  });
  const at = (terminal: string) => end(motorId, contactLabel, terminal);
  const lampEnd = (terminal: string) => end(lamp.device.id, lamp.device.label, terminal);
  const supply = (record && supplyOf(record, lamp.device.id)?.device) ?? null;
  const [toN, toR] = lamp.assignment.crossed ? ["Y", "G"] : ["G", "Y"];
  const rows = [
    wiring.row(lampEnd(toN), hasContact ? at(`S${way}n`) : null),
    wiring.row(lampEnd(toR), hasContact ? at(`S${way}r`) : null),
    wiring.row(lampEnd("0"), supply ? end(supply.id, supply.label, "−") : null),
  ];
  const ways = rows.flatMap((row) => (row.way ? [row.way] : []));
  const strips = [...new Set(ways.map(({ strip }) => strip))];
  const reads = reading?.lamp;
  const least = figureValue(lamp.type, "leastAmps");
  const flows = reads ? Math.max(reads.green, reads.yellow) : 0;
  const lit = reads
    ? [reads.green >= least ? "GN lit" : "GN dark", reads.yellow >= least ? "YE lit" : "YE dark"].join(", ")
    : "";
  const stands = reading?.motors.find((each) => each.motorId === motorId)?.goesTo ?? "N";
  const contactTo: Position = reading?.moment === "throwing" ? (stands === "N" ? "R" : "N") : stands;
  const plus = supply && wiring.joined(`${supply.id}:+`, `${motorId}:S${way}c`);
  const plusVia = supply && plus ? wiring.via(`${motorId}:S${way}c`, `${supply.id}:+`) : null;
  const notes = [
    ...viaWords(rows, "layout").map((words) => `${supply?.label ?? ""} ${words}`),
    ...(plusVia ? [`S${way}c via ${plusVia}`] : []),
  ];
  return (
    <g>
      <Heading
        x={12}
        y={286}
        number={first + 2}
        words={`Lamp ${lamp.device.label}`}
        verdict={linkVerdict(findings, thread, [lamp.device.label])}
      />
      {ways.length > 0 && (
        <>
          <text className="th" x="125" y="290">
            {strips.map((strip) => `P${strip}`).join(" ")}
          </text>
          <text className="th" x="255" y="290">
            {strips.map((strip) => `K${strip}`).join(" ")}
          </text>
        </>
      )}
      <Lane rows={rows} ys={BACK_ROWS} boardX={[444, 444, 440]} />
      <Lamp y={362} green={reads?.green ?? 0} yellow={reads?.yellow ?? 0} least={least} />
      {[toN, toR, "0"].map((name, index) => (
        <Terminal
          key={name}
          end={`${lamp.device.id}:${name}`}
          name={terminalName(lamp.device.label, name)}
          x={90}
          y={BACK_ROWS[index] ?? 0}
          label={name}
        />
      ))}
      {reads && (
        <>
          <text className="tv" x="12" y="424">
            {amps(flows)}
          </text>
          <text className="tq" x="12" y="439">
            {lit}
          </text>
        </>
      )}
      {viaWords(rows, "panel").map((words) => (
        <text key={words} className="tm" x="12" y="455">
          {words}
        </text>
      ))}
      {hasContact ? (
        <>
          <Heading
            x={404}
            y={286}
            number={first + 1}
            words={`Contact ${contactLabel}-S${way}`}
            verdict={linkVerdict(findings, thread, [`${contactLabel}-S${way}`])}
          />
          {plus && <WirePath d="M500 410H516V350H502" colour="RD" dashed={plusVia !== null} />}
          <Contact x={444} y={318} to={contactTo} />
          <Terminal
            end={`${motorId}:S${way}n`}
            name={`${contactLabel}-S${way}n`}
            x={444}
            y={330}
            label="n"
            labelAt="aboveLeft"
          />
          <Terminal
            end={`${motorId}:S${way}r`}
            name={`${contactLabel}-S${way}r`}
            x={444}
            y={370}
            label="r"
            labelAt="aboveLeft"
          />
          <Terminal
            end={`${motorId}:S${way}c`}
            name={`${contactLabel}-S${way}c`}
            x={502}
            y={350}
            label="c"
            labelAt="aboveRight"
          />
        </>
      ) : (
        <Missing x={400} y={350} words="No contact for it" />
      )}
      {supply ? (
        <>
          <path d="M440 396H500V424H440Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.2" />
          <text className="tv" x="470" y="415" textAnchor="middle">
            {supply.label}
          </text>
          <Terminal
            end={`${supply.id}:−`}
            name={terminalName(supply.label, "−")}
            x={440}
            y={410}
            label="−"
            labelAt="aboveLeft"
          />
          <Terminal
            end={`${supply.id}:+`}
            name={terminalName(supply.label, "+")}
            x={500}
            y={410}
            label="+"
            labelAt="aboveRight"
          />
          {reads && (
            <text className="tm" x="318" y="306">
              {volts(reads.contactVolts)} at the contact
            </text>
          )}
        </>
      ) : (
        <Missing x={400} y={410} words="No supply" />
      )}
      {notes.map((words, index) => (
        <text key={words} className="tm" x="318" y={436 + index * 15}>
          {words}
        </text>
      ))}
    </g>
  );
}
