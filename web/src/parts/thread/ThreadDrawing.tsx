import {
  amps,
  type Finding,
  figureValue,
  type Position,
  supplyOf,
  type Thread,
  type ThreadReading,
  terminalName,
  volts,
} from "@alderman/core";
import { useAppSelector } from "../../store/store.ts";
import type { Overview } from "../../worker/derive.worker.ts";
import { MarkShape, PositionShape, type Verdict } from "../Mark.tsx";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { CoilMotor, Contact, Lamp, SmallCoilMotor, StallMotor, Toggle, TurnoutGlyph } from "./glyphs.tsx";
import { Lane, viaWords } from "./Lane.tsx";
import { type DrawnEnd, linkVerdict, Wiring } from "./lane.ts";

export interface ThreadProps {
  overview: Overview;
  thread: Thread;
  reading: ThreadReading | null;
}

const OUT_ROWS = [84, 124, 164];
const BACK_ROWS = [330, 370, 410];

/** From finger to blade above, from blade to lamp below, with the values of the chosen position and moment. */
export function ThreadDrawing({ overview, thread, reading }: ThreadProps) {
  const wiring = new Wiring(overview);
  const { findings } = overview;
  const driver = thread.motors[0]?.driver;
  const blades = driver?.way ? 5 : 7;
  const numbered = driver !== undefined && driver !== null && driver.type.outputs > 0;
  return (
    <svg
      data-thread
      className="draw mx-auto block w-full"
      viewBox="0 0 644 480"
      role="group"
      aria-label={`Thread of ${thread.label}`}
    >
      <path d="M108 0V452M306 0V452M530 0V480" stroke="var(--rule)" />
      <path d="M0 262H530" strokeDasharray="1 4" stroke="var(--rule-2)" />
      {(
        [
          [12, "On the panel"],
          [120, "Loom"],
          [318, "Under the board"],
          [540, "Track"],
        ] as const
      ).map(([x, words]) => (
        <text key={words} x={x} y="18" className="zone">
          {words}
        </text>
      ))}
      <g fill="none" stroke="var(--copper)" strokeWidth="1.4">
        <path d="M270 14H296M291 10L296 14L291 18M296 466H270M275 462L270 466L275 470" />
      </g>
      <text x="264" y="18" className="tq" textAnchor="end">
        out
      </text>
      <text x="264" y="470" className="tq" textAnchor="end">
        back
      </text>
      {thread.motors.length === 0 ? (
        <Missing x={318} y={120} words={`Choose a motor for ${thread.label}`} />
      ) : numbered ? (
        <DecoderLane thread={thread} reading={reading} wiring={wiring} findings={findings} overview={overview} />
      ) : (
        <SwitchedLane thread={thread} reading={reading} wiring={wiring} findings={findings} />
      )}
      <BackLane thread={thread} reading={reading} wiring={wiring} findings={findings} first={blades} />
      <Track thread={thread} reading={reading} findings={findings} first={blades} />
    </svg>
  );
}

/** Number of the blades among the links; contact and lamp follow. */
interface Numbered {
  first: number;
}

interface LaneProps {
  thread: Thread;
  reading: ThreadReading | null;
  wiring: Wiring;
  findings: readonly Finding[];
}

/** A toggle, or the place for one, with discharge unit or bare supply and the motors on it. */
function SwitchedLane({ thread, reading, wiring, findings }: LaneProps) {
  const { control } = thread;
  const [motor] = thread.motors;
  const driver = motor?.driver;
  const verdict = (...labels: string[]) => linkVerdict(findings, thread, labels);
  const end = (fitted: { device: { id: string; label: string } }, terminal: string): DrawnEnd => ({
    key: `${fitted.device.id}:${terminal}`,
    name: terminalName(fitted.device.label, terminal),
  });
  const plus = driver && (driver.type.model === "cdu" ? ["+", "−"] : driver.type.terminals.map(({ name }) => name));
  const coil = motor?.type.model === "twin-coil";
  const [n, r] = coil ? (motor.assignment.crossed ? ["R", "N"] : ["N", "R"]) : ["+", "−"];
  const rows = control
    ? [
        wiring.row(end(control, "N"), motor ? end(motor, n) : null),
        wiring.row(end(control, "C"), driver ? end(driver, plus?.[0] ?? "+") : null),
        wiring.row(end(control, "R"), motor ? end(motor, r) : null),
      ]
    : [];
  const ways = rows.flatMap(({ way }) => (way ? [way] : []));
  const strips = [...new Set(ways.map(({ strip }) => strip))];
  const made =
    control && (control.type.model === "latching-toggle" || reading?.moment !== "rest")
      ? (reading?.position ?? null)
      : null;
  const common = motor && end(motor, coil ? "C" : motor.assignment.crossed ? "+" : "−");
  const minus = driver && end(driver, plus?.[1] ?? "−");
  const returnVia = common && minus && wiring.joined(common.key, minus.key) ? wiring.via(common.key, minus.key) : null;
  const reads = reading?.motors[0];
  const busy =
    reads && Math.max(Math.abs(reads.amps.N), Math.abs(reads.amps.R)) > 0.02
      ? Math.abs(reads.amps.N) > Math.abs(reads.amps.R)
        ? "N"
        : "R"
      : null;
  const spare = thread.motors.slice(1);
  return (
    <g>
      {control ? (
        <>
          <Heading x={12} number={1} words={`Toggle ${control.device.label}`} verdict={verdict(control.device.label)} />
          {ways.length > 0 && (
            <>
              <Heading x={118} number={2} words={strips.map((strip) => `P${strip}`).join(" ")} />
              <Heading x={176} number={3} words={[...new Set(ways.map(({ cable }) => cable))].join(" ")} />
              <Heading x={246} number={4} words={strips.map((strip) => `K${strip}`).join(" ")} />
            </>
          )}
          <Lane rows={rows} ys={OUT_ROWS} boardX={[456, 330, 456]} />
          <Toggle made={made} rest={control.type.model === "latching-toggle" ? "latching" : "at the centre"} />
          {(["N", "C", "R"] as const).map((name, index) => (
            <Terminal
              key={name}
              end={`${control.device.id}:${name}`}
              name={terminalName(control.device.label, name)}
              x={90}
              y={OUT_ROWS[index] ?? 0}
              label={name}
            />
          ))}
          <text className="tm" x="12" y="202">
            {made ? `C to ${made} closed` : "all open"}
          </text>
          <text className="tq" x="12" y="218">
            {control.type.model === "latching-toggle" ? "stays where put" : "springs to centre"}
          </text>
          {viaWords(rows, "panel").map((words, index) => (
            <text key={words} className="tm" x="12" y={235 + index * 15}>
              {words}
            </text>
          ))}
        </>
      ) : (
        <Missing x={12} y={112} words="Choose a control" />
      )}
      {driver ? (
        <>
          <Heading
            x={318}
            number={5}
            words={`${driver.type.model === "cdu" ? "Unit" : "Supply"} ${driver.device.label}`}
            verdict={verdict(driver.device.label)}
          />
          {common && minus && wiring.joined(common.key, minus.key) && (
            <WirePath d="M402 124H456" colour={wiring.colourOf(minus.key)} dashed={returnVia !== null} />
          )}
          <path d="M330 100H402V148H330Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
          <path
            d={
              driver.type.model === "cdu"
                ? "M356 124H363M363 112V136M370 112V136M370 124H377"
                : driver.type.model === "ac-supply"
                  ? "M352 124C356 112 362 112 366 124C370 136 376 136 380 124"
                  : "M354 120H378M354 128H360M363 128H369M372 128H378"
            }
            stroke="var(--ink)"
            strokeWidth="1.6"
            fill="none"
          />
          <Terminal
            end={`${driver.device.id}:${plus?.[0]}`}
            name={terminalName(driver.device.label, plus?.[0] ?? "+")}
            x={330}
            y={124}
            label={plus?.[0] ?? "+"}
            labelAt="aboveLeft"
          />
          {minus && (
            <Terminal end={minus.key} name={minus.name} x={402} y={124} label={plus?.[1] ?? "−"} labelAt="aboveRight" />
          )}
          {reading && (
            <>
              <text className="tv" x="318" y="202">
                {volts(reading.driverVolts ?? 0)}
                {reading.alternating ? " AC" : ""}
              </text>
              <text className="tq" x="318" y="218">
                {reading.moment === "rest"
                  ? "ready to give"
                  : reading.moment === "throwing"
                    ? "in the pulse"
                    : "held long after"}
              </text>
            </>
          )}
          {returnVia && (
            <text className="tm" x="318" y="235">
              C via {returnVia}
            </text>
          )}
          {rows[1]?.layoutVia && (
            <text className="tm" x="318" y="250">
              {driver.device.label} via {rows[1].layoutVia}
            </text>
          )}
        </>
      ) : (
        <Missing x={318} y={112} words="Choose a driver" />
      )}
      {motor && (
        <>
          <Heading x={430} number={6} words={`Motor ${motor.device.label}`} verdict={verdict(motor.device.label)} />
          {coil ? (
            <CoilMotor x={456} y={68} to={reads?.goesTo ?? null} busy={busy} />
          ) : (
            <StallMotor x={456} y={70} to={reads?.goesTo ?? null} height={68} />
          )}
          {coil
            ? (["N", "C", "R"] as const).map((name, index) => {
                const order = motor.assignment.crossed ? ["R", "C", "N"] : ["N", "C", "R"];
                const shown = order[index] ?? name;
                return (
                  <Terminal
                    key={shown}
                    end={`${motor.device.id}:${shown}`}
                    name={terminalName(motor.device.label, shown)}
                    x={456}
                    y={OUT_ROWS[index] ?? 0}
                    label={shown}
                    labelAt="aboveLeft"
                  />
                );
              })
            : (["+", "−"] as const).map((name, index) => (
                <Terminal
                  key={name}
                  end={`${motor.device.id}:${name}`}
                  name={terminalName(motor.device.label, name)}
                  x={456}
                  y={index === 0 ? 84 : 124}
                  label={name}
                  labelAt="aboveLeft"
                />
              ))}
          {reading &&
            reads &&
            (coil ? (
              (["N", "R"] as const).map((side, index) => (
                <text key={side} className={busy === side ? "tv" : "tm"} x="420" y={202 + index * 16}>
                  {side} {amps(Math.abs(reads.amps[side]))}
                </text>
              ))
            ) : (
              <text className="tv" x="420" y="202">
                {amps(Math.abs(reads.amps.N))}
              </text>
            ))}
          <text className="tq" x="420" y="235">
            {reads?.goesTo ? `throws to ${reads.goesTo}` : "does not move"}
          </text>
          {spare.length > 0 && (
            <text className="tm" x="420" y="250">
              and {spare.map(({ device }) => device.label).join(", ")}
            </text>
          )}
        </>
      )}
    </g>
  );
}

/** A numbered decoder output with its address and the motors that follow one another on it. */
function DecoderLane({ thread, reading, wiring, findings, overview }: LaneProps & { overview: Overview }) {
  const [motor] = thread.motors;
  const driver = motor?.driver;
  if (!motor || !driver) return null;
  const { device, way, type } = driver;
  const verdict = (...labels: string[]) => linkVerdict(findings, thread, labels);
  const output = overview.addresses.find((each) => each.deviceId === device.id && each.way === way);
  const track = overview.nets
    .flatMap(({ purpose, ends }) =>
      purpose === "track-j" && ends.some((each) => each.deviceId === device.id) ? ends : [],
    )
    .find((each) => each.terminal === "J" && each.deviceId !== device.id);
  const feed = overview.loom.wires.find(({ from, to }) => to.key === `${device.id}:+` || from.key === `${device.id}:+`);
  const feedName = feed && (feed.from.key.startsWith(`${device.id}:`) ? feed.to.name : feed.from.name);
  const trackName = overview.loom.wires
    .find(({ from }) => from.key === `${track?.deviceId}:J`)
    ?.from.name.replace("-J", "");
  const sides = [
    { letter: "A", y: 100, bus: 458, out: 414 },
    { letter: "B", y: 136, bus: 444, out: 426 },
  ] as const;
  const motorTop = (index: number) => 68 + index * 66;
  const lead = (index: number, terminal: string) => motorTop(index) + (terminal === "+" || terminal === "N" ? 9 : 29);
  const over = overview.findings.some(
    ({ ruleId, terminals }) => ruleId === "output-over-limit" && terminals.includes(`${device.label}-${way}`),
  );
  const fenced = new Set(
    findings
      .filter(
        ({ ruleId, turnoutIds }) =>
          (ruleId === "pair-thrown-against" || ruleId === "goes-astray") && turnoutIds.includes(thread.turnout.id),
      )
      .flatMap(({ terminals }) => terminals),
  );
  return (
    <g>
      <Heading
        x={12}
        number={1}
        words="Address"
        verdict={output ? linkVerdict(findings, thread, [output.label, `Address ${output.address}`]) : "open"}
      />
      <path d="M18 74H86L94 84V138H18Z" fill="var(--copper-wash)" stroke="var(--copper)" strokeWidth="1.2" />
      <text className="tq" x="56" y="96" textAnchor="middle">
        command
      </text>
      <text className="tv" x="56" y="121" textAnchor="middle" style={{ fontSize: "20px", fill: "var(--copper)" }}>
        {output?.address ?? ""}
      </text>
      <text className="tq" x="12" y="160">
        from the throttle
      </text>
      {thread.control && (
        <text className="tm" x="12" y="178" style={{ fill: "var(--amber)" }}>
          {thread.control.device.label} not wired
        </text>
      )}
      {trackName && track ? (
        <>
          <Heading x={120} number={2} words={`Track bus ${trackName}`} verdict={verdict(trackName)} />
          <WirePath d="M206 104H318" colour="PK" />
          <WirePath d="M206 136H318" colour="TQ" />
          <path d="M138 84H206V156H138Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
          <path d="M150 128V112H160V128H170V112H180V128H190" fill="none" stroke="var(--copper)" strokeWidth="1.6" />
          <Terminal
            end={`${track.deviceId}:J`}
            name={`${trackName}-J`}
            x={206}
            y={104}
            label="J"
            labelAt="aboveRight"
          />
          <Terminal
            end={`${track.deviceId}:K`}
            name={`${trackName}-K`}
            x={206}
            y={136}
            label="K"
            labelAt="aboveRight"
          />
          <text className="tq" x="138" y="174">
            brings the commands
          </text>
        </>
      ) : (
        <Missing x={120} y={104} words="No track bus" />
      )}
      <Heading
        x={318}
        number={3}
        words={`Driver ${device.label}`}
        verdict={verdict(device.label, `${device.label}-${way}`)}
      />
      <path d="M318 68H388V172H318Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <text className="th" x="353" y="116" textAnchor="middle">
        out {way}
      </text>
      <text className="tq" x="353" y="132" textAnchor="middle">
        of {type.outputs}
      </text>
      <Terminal end={`${device.id}:J`} name={`${device.label}-J`} x={318} y={104} label="J" labelAt="right" />
      <Terminal end={`${device.id}:K`} name={`${device.label}-K`} x={318} y={136} label="K" labelAt="right" />
      {sides.map(({ letter, y, bus, out }) => {
        const key = `${device.id}:${way}${letter}`;
        const ends = thread.motors.map((each, index) => {
          const terminal = (each.type.model === "twin-coil" ? ["N", "R"] : ["+", "−"]).find((name) =>
            wiring.joined(key, `${each.device.id}:${name}`),
          );
          return terminal ? lead(index, terminal) : null;
        });
        const [first, ...rest] = ends;
        return (
          <g key={letter}>
            {typeof first === "number" && (
              <WirePath d={`M388 ${y}H${out}V${first}H476`} colour={wiring.colourOf(key)} />
            )}
            {typeof first === "number" &&
              rest.map((end, index) =>
                typeof end === "number" ? (
                  <WirePath
                    key={thread.motors[index + 1]?.device.id}
                    d={`M${bus} ${first}V${end}H476`}
                    colour={wiring.colourOf(key)}
                  />
                ) : null,
              )}
            {typeof first === "number" && rest.length > 0 && (
              <circle cx={bus} cy={first} r="3" fill="var(--wire-line)" />
            )}
            <Terminal end={key} name={`${device.label}-${way}${letter}`} x={388} y={y} label={letter} labelAt="left" />
          </g>
        );
      })}
      <Heading
        x={430}
        number={4}
        words={
          thread.motors.length > 1
            ? thread.motors.map((each) => each.device.label).join(" ")
            : `Motor ${motor.device.label}`
        }
        verdict={verdict(...thread.motors.map((each) => each.device.label))}
      />
      {thread.motors.map((each, index) => {
        const reads = reading?.motors[index];
        const names = each.type.model === "twin-coil" ? ["N", "R"] : ["+", "−"];
        return (
          <g key={each.device.id}>
            {each.type.model === "twin-coil" ? (
              <SmallCoilMotor x={476} y={motorTop(index)} />
            ) : (
              <StallMotor x={476} y={motorTop(index)} to={reads?.goesTo ?? null} />
            )}
            {names.map((name) => (
              <Terminal
                key={name}
                end={`${each.device.id}:${name}`}
                name={terminalName(each.device.label, name)}
                x={476}
                y={lead(index, name)}
                radius={4.5}
              />
            ))}
            {reads && (
              <text className="tm" x="518" y={motorTop(index) + 53} textAnchor="end">
                {amps(Math.abs(reads.amps.N))}
              </text>
            )}
            {names.some((name) => fenced.has(terminalName(each.device.label, name))) && (
              <path
                d={`M468 ${motorTop(index) - 1}H486V${motorTop(index) + 39}H468Z`}
                fill="none"
                stroke="var(--red)"
                strokeWidth="1.6"
                strokeDasharray="4 3"
              />
            )}
          </g>
        );
      })}
      {reading && (
        <>
          <text className="tv" x="318" y="196">
            {volts(reading.driverVolts ?? 0)}
            <tspan className="tq" dx="6" style={{ fontWeight: 400, letterSpacing: 0, fontFamily: "var(--font-body)" }}>
              A to B
            </tspan>
          </text>
          <text className="tm" x="318" y="213" style={over ? { fill: "var(--red)", fontWeight: 700 } : {}}>
            {amps(reading.driverAmps ?? 0)} of {amps(figureValue(type, "outputAmps"))}
          </text>
        </>
      )}
      <text className="tq" x="318" y="230">
        {feedName ? `fed from ${feedName}` : "no supply"}
      </text>
    </g>
  );
}

/** Contact, cable and lamp, with the supply that feeds them. */
function BackLane({ thread, reading, wiring, findings, first }: LaneProps & Numbered) {
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

/** The turnouts as they come to lie. */
function Track({ thread, reading, findings, first }: Omit<LaneProps, "wiring"> & Numbered) {
  const turnouts = [thread.turnout, ...thread.followers].slice(0, 2);
  const asked = reading?.position ?? "N";
  const stands = turnouts.map((turnout) => {
    const index = thread.motors.findIndex((motor) => motor.turnout.id === turnout.id);
    return reading?.motors[index]?.goesTo ?? null;
  });
  const right = stands.every((each) => each === asked);
  return (
    <g>
      <Heading
        x={540}
        number={first}
        words="Blades"
        verdict={thread.motors.length === 0 ? "open" : right ? linkVerdict(findings, thread, []) : "wrong"}
      />
      {turnouts.map((turnout, index) => (
        <g key={turnout.id} transform={`translate(530 ${54 + index * 212})`}>
          <TurnoutGlyph turnout={turnout} asked={asked} stands={stands[index] ?? null} />
          <text
            className="tm"
            x="10"
            y="192"
            style={stands[index] === asked ? {} : { fill: "var(--red)", fontWeight: 700 }}
          >
            {turnout.label} {stands[index] ? `stands at ${stands[index]}` : "stays"}
          </text>
        </g>
      ))}
      {[thread.turnout, ...thread.followers].slice(2).map((turnout, index) => (
        <text key={turnout.id} className="tm" x="540" y={470 + index * 12}>
          and {turnout.label}
        </text>
      ))}
      {turnouts.length < 2 && (
        <g transform="translate(552 300)">
          <text className="tq" x="-12" y="0">
            Asked for
          </text>
          <g transform="translate(6 20)">
            <PositionShape position={asked} filled={false} />
          </g>
        </g>
      )}
    </g>
  );
}

function Heading({
  x,
  y = 46,
  number,
  words,
  verdict,
}: {
  x: number;
  y?: number;
  number: number;
  words: string;
  verdict?: Verdict;
}) {
  // Archivo Narrow at 13 px runs to about six units a letter
  const width = words.length * 6.4;
  return (
    <g>
      <text className="tm" x={x} y={y} style={{ fill: "var(--copper)", fontWeight: 700 }}>
        {number}
      </text>
      <text className="th" x={x + 11} y={y}>
        {words}
      </text>
      {verdict && (
        <g transform={`translate(${x + 22 + width} ${y - 4.5}) scale(.8)`}>
          <MarkShape verdict={verdict} />
        </g>
      )}
    </g>
  );
}

/** A place where something is still to be chosen. */
function Missing({ x, y, words }: { x: number; y: number; words: string }) {
  return (
    <g>
      <circle cx={x + 26} cy={y} r="18" fill="none" stroke="var(--ink-2)" strokeWidth="1.2" strokeDasharray="4 3" />
      <text className="tq" x={x} y={y + 36}>
        {words}
      </text>
    </g>
  );
}
