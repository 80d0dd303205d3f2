import { ownOf } from "@alderman/core";
import { PositionMark } from "../../drawing/Mark.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { setMoment, throwTo } from "../../store/view.ts";

const MOMENTS = [
  { value: "throwing", text: "Throwing" },
  { value: "held", text: "Held" },
  { value: "rest", text: "At rest" },
] as const;

const POSITIONS = (["N", "R"] as const).map((value) => ({
  value,
  text: (
    <>
      <PositionMark position={value} />
      {value === "N" ? "Normal" : "Reverse"}
    </>
  ),
}));

/** Which position and moment the readings are for. */
export function ThrowSelector({ turnoutId, moments = true }: { turnoutId: string; moments?: boolean }) {
  const position = useAppSelector((state) => ownOf(state.view.asked, turnoutId) ?? "N");
  const moment = useAppSelector((state) => state.view.moment);
  const dispatch = useAppDispatch();
  return (
    <>
      {moments && (
        <Segmented label="Moment" value={moment} segments={MOMENTS} onChange={(each) => dispatch(setMoment(each))} />
      )}
      <Segmented
        label="Throw to"
        value={position}
        segments={POSITIONS}
        onChange={(each) => dispatch(throwTo({ turnoutId, position: each }))}
      />
    </>
  );
}
