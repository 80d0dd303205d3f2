import type { Overview } from "../../derivation/overview.ts";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { Heading, Missing } from "./Heading.tsx";
import type { LaneProps } from "./laneProps.ts";

import { linkVerdict } from "./linkVerdict.ts";

/** How a thread without a control at inputs is commanded: by address over the track, by events over a bus, or by itself. */
export function CommandPart({ thread, findings, overview }: LaneProps & { overview: Overview }) {
  const [motor] = thread.motors;
  const board = motor?.driver ?? motor;
  if (!board) return null;
  const { device, type } = board;
  const way = motor?.driver?.way ?? 1;
  const onBus = type.hears === "bus";
  const [first, second] = onBus ? (["H", "L"] as const) : (["J", "K"] as const);
  const output = overview.addresses.find((each) => each.deviceId === device.id && each.way === way);
  const source = overview.nets
    .flatMap(({ ends }) => (ends.some((each) => each.deviceId === device.id && each.terminal === first) ? ends : []))
    .find((each) => each.terminal === first && isSource(overview, each.deviceId));
  const name = source && nameOf(overview, `${source.deviceId}:${first}`)?.replace(/-[JH]$/, "");
  const board_x = motor?.driver ? 318 : 476;
  const ys = motor?.driver ? [104, 136] : [77, 97];
  return (
    <g>
      <Heading
        x={12}
        number={1}
        words={onBus ? "Event" : output ? "Address" : "By itself"}
        {...(output ? { verdict: linkVerdict(findings, thread, [output.label, `Address ${output.address}`]) } : {})}
      />
      <path d="M18 74H86L94 84V138H18Z" fill="var(--copper-wash)" stroke="var(--copper)" strokeWidth="1.2" />
      <text className="tq" x="56" y="96" textAnchor="middle">
        {onBus ? "taught" : output ? "command" : "no"}
      </text>
      <text
        className="tv"
        x="56"
        y="121"
        textAnchor="middle"
        style={{ fontSize: output ? "20px" : "13px", fill: "var(--copper)" }}
      >
        {output?.address ?? (onBus ? "events" : "command")}
      </text>
      <text className="tq" x="12" y="160">
        {onBus ? "from any producer" : output ? "from the throttle" : "ahead of the train"}
      </text>
      {source && name ? (
        <>
          <Heading
            x={120}
            number={2}
            words={`${onBus ? "Bus" : "Track bus"} ${name}`}
            verdict={linkVerdict(findings, thread, [name])}
          />
          <WirePath
            d={`M206 104H${board_x - (ys[0] === 104 ? 0 : 40)}${ys[0] === 104 ? "" : `V${ys[0]}H${board_x}`}`}
            colour={onBus ? "WHGN" : "PK"}
          />
          <WirePath
            d={`M206 136H${board_x - (ys[1] === 136 ? 0 : 30)}${ys[1] === 136 ? "" : `V${ys[1]}H${board_x}`}`}
            colour={onBus ? "WHBN" : "TQ"}
          />
          <path d="M138 84H206V156H138Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
          <path
            d={
              onBus
                ? "M150 114H162L168 106H182L188 114H194M150 122H162L168 130H182L188 122H194"
                : "M150 128V112H160V128H170V112H180V128H190"
            }
            fill="none"
            stroke="var(--copper)"
            strokeWidth="1.6"
          />
          {([first, second] as const).map((terminal, index) => (
            <g key={terminal}>
              <Terminal
                end={`${source.deviceId}:${terminal}`}
                name={`${name}-${terminal}`}
                x={206}
                y={index === 0 ? 104 : 136}
                label={terminal}
                labelAt="aboveRight"
              />
              {motor?.driver && (
                <Terminal
                  end={`${device.id}:${terminal}`}
                  name={`${device.label}-${terminal}`}
                  x={board_x}
                  y={ys[index] ?? 0}
                  label={terminal}
                  labelAt="right"
                />
              )}
            </g>
          ))}
          <text className="tq" x="138" y="174">
            {output || onBus ? "brings the commands" : "brings the power"}
          </text>
        </>
      ) : (
        <Missing x={120} y={104} words={onBus ? "No control bus" : "No track bus"} />
      )}
    </g>
  );
}

function isSource(overview: Overview, deviceId: string): boolean {
  return overview.loads.some((load) => load.deviceId === deviceId);
}

/** What is written beside a terminal, by the wires that end there. */
function nameOf(overview: Overview, key: string): string | undefined {
  for (const { from, to } of overview.loom.wires) {
    if (from.key === key) return from.name;
    if (to.key === key) return to.name;
  }
  return undefined;
}
