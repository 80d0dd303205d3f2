import { type AddressPlace, isDue, list } from "@alderman/core";

/** What there is to say of an address. @example "117: D1-3 throws M1, to be programmed" */
export function placeWords({ address, state, outputs, still, reserved }: AddressPlace): string {
  const named = outputs.map(
    (output) =>
      `${output.label}${output.throws ? ` throws ${output.throws}` : ""}${isDue(output) ? ", to be programmed" : ""}`,
  );
  const others = still.filter((output) => !outputs.includes(output)).map(({ label }) => label);
  const words = [
    ...(named.length > 0 ? [list(named)] : []),
    ...(others.length > 0
      ? [`${list(others.slice(0, 4))} still ${others.length === 1 ? "answers" : "answer"} to it`]
      : []),
    ...(reserved === null ? [] : [`reserved for ${reserved}`]),
    ...(state === "free" && others.length === 0 ? ["free"] : []),
  ];
  return `${address}: ${words.join("; ")}`;
}
