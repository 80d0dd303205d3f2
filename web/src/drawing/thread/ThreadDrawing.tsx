import { asksBy, controlsOf, drivesItself, heardAt, ownOf, type Thread, type ThreadReading } from "@alderman/core";
import type { Overview } from "../../derivation/overview.ts";
import { useAppSelector } from "../../store/store.ts";
import { BackLane } from "./BackLane.tsx";
import { BoardLane, linksOfInputs } from "./BoardLane.tsx";
import { CommandPart } from "./CommandPart.tsx";
import { thrownBy } from "./controlWords.ts";
import { Missing, Unchecked } from "./Heading.tsx";
import type { LaneProps } from "./laneProps.ts";
import { Motors } from "./OutputPart.tsx";
import { ReversingLane } from "./ReversingLane.tsx";
import { RouteLane } from "./RouteLane.tsx";
import { SwitchedLane } from "./SwitchedLane.tsx";
import { Track } from "./Track.tsx";
import { Wiring } from "./wiring.ts";

export interface ThreadProps {
  overview: Overview;
  thread: Thread;
  reading: ThreadReading | null;
}

/** From finger to blade above, from blade to lamp below, with the values of the chosen position and moment. */
export function ThreadDrawing({ overview, thread: whole, reading }: ThreadProps) {
  const by = useAppSelector((state) => ownOf(state.view.by, whole.turnout.id));
  const thread = thrownBy(whole, by, reading?.position ?? "N");
  const wiring = new Wiring(overview);
  const { findings } = overview;
  const blades = firstOfTrack(thread, wiring);
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
      <Unchecked value={overview.partial}>
        <OutLane overview={overview} thread={thread} reading={reading} wiring={wiring} findings={findings} />
        <BackLane thread={thread} reading={reading} wiring={wiring} findings={findings} first={blades} />
        <Track thread={thread} reading={reading} findings={findings} first={blades} />
      </Unchecked>
    </svg>
  );
}

/** The upper lane, by how the thread is driven and commanded. */
function OutLane(props: LaneProps & { overview: Overview }) {
  const { thread } = props;
  const [motor] = thread.motors;
  if (!motor) return <Missing x={318} y={120} words={`Choose a motor for ${thread.label}`} />;
  if (drivesItself(motor)) {
    return (
      <g>
        <CommandPart {...props} />
        <Motors {...props} number={3} />
      </g>
    );
  }
  if (motor.driver?.type.drives === "matrix")
    return thread.control?.route ? <RouteLane {...props} /> : <SwitchedLane {...props} />;
  if (motor.driver && motor.driver.way !== null) return <BoardLane {...props} />;
  if (motor.driver && asksBy(thread.control) === "poles") return <ReversingLane {...props} />;
  return <SwitchedLane {...props} />;
}

/** Number of the blades among the links: those before them depend on the way it is driven. */
function firstOfTrack(thread: Thread, wiring: Wiring): number {
  const [motor] = thread.motors;
  if (motor && drivesItself(motor)) return 4;
  if (!motor?.driver || motor.driver.way === null || motor.unit) return 7;
  const heard = controlsOf(thread).find((control) => heardAt(thread, control));
  if (!heard) return 5;
  return linksOfInputs(thread, heard, wiring) + (heard.reader ? 4 : 3);
}
