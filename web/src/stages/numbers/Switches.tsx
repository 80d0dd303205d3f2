import type { SwitchPlace } from "@alderman/core";

/** From one switch to the next, and their size. */
const STEP = 44;
const BODY = { width: 19, height: 46 };

/** Switches and jumpers as they must be set, with what is printed beside them and what each weighs; those that are otherwise stand out. */
export function Switches({ switches }: { switches: readonly SwitchPlace[] }) {
  const width = switches.length * STEP + 12;
  const said = switches.map(({ name, wanted }) => `${name} ${wanted}`).join(", ");
  return (
    <svg
      className="draw block w-full max-w-[340px]"
      viewBox={`0 0 ${width} 112`}
      role="img"
      aria-label={`Switches: ${said}`}
    >
      {switches.map(({ name, weight, isJumper, wanted, found }, index) => {
        const x = 12 + index * STEP;
        const isOther = found !== null && found !== wanted;
        return (
          <g key={name}>
            <text className="tm" x={x + BODY.width / 2} y="13" textAnchor="middle">
              {name}
            </text>
            {isJumper ? <Jumper x={x} isFitted={wanted === "on"} /> : <Slide x={x} isOn={wanted === "on"} />}
            {isOther && (
              <path
                d={`M${x - 5} 16h${BODY.width + 10}v56h${-BODY.width - 10}Z`}
                fill="none"
                stroke="var(--copper)"
                strokeWidth="2"
              />
            )}
            <text className="tv" x={x + BODY.width / 2} y="87" textAnchor="middle" style={{ fontSize: "12.5px" }}>
              {isJumper ? (wanted === "on" ? "fitted" : "none") : wanted}
            </text>
            <text className="tq" x={x + BODY.width / 2} y="104" textAnchor="middle">
              {weight}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** A slide switch from the front; on is up. */
function Slide({ x, isOn }: { x: number; isOn: boolean }) {
  return (
    <g>
      <rect x={x} y="20" {...BODY} fill="var(--sheet-2)" stroke="var(--ink)" strokeWidth="1.3" />
      <rect x={x} y={isOn ? 20 : 48} width={BODY.width} height="18" fill="var(--ink)" />
    </g>
  );
}

/** Two pins, with a jumper over them or none. */
function Jumper({ x, isFitted }: { x: number; isFitted: boolean }) {
  return (
    <g>
      {isFitted && <rect x={x - 1} y="34" width="21" height="18" rx="2" fill="var(--ink)" />}
      {[4, 15].map((pin) => (
        <circle
          key={pin}
          cx={x + pin}
          cy="43"
          r="3.6"
          fill={isFitted ? "var(--sheet)" : "none"}
          stroke="var(--ink)"
          strokeWidth="1.3"
        />
      ))}
    </g>
  );
}

/** The same in a row of a table. */
export function SmallSwitches({ switches }: { switches: readonly SwitchPlace[] }) {
  if (switches.length === 0) return null;
  return (
    <svg
      viewBox={`0 0 ${switches.length * 12} 18`}
      width={switches.length * 12}
      height="18"
      aria-hidden="true"
      className="block"
    >
      {switches.map(({ name, isJumper, wanted }, index) =>
        isJumper ? (
          <circle
            key={name}
            cx={index * 12 + 5}
            cy="9"
            r="3.4"
            fill={wanted === "on" ? "var(--ink)" : "none"}
            stroke="var(--ink)"
          />
        ) : (
          <g key={name}>
            <rect x={index * 12 + 1.5} y="1.5" width="7" height="15" fill="none" stroke="var(--ink)" />
            <rect x={index * 12 + 1.5} y={wanted === "on" ? 1.5 : 10} width="7" height="6.5" fill="var(--ink)" />
          </g>
        ),
      )}
    </svg>
  );
}
