import type { ComponentProps } from "react";
import { Link } from "react-router";

/** Plain, the best thing to do, or words that act like a button within a line. */
type Look = "plain" | "best" | "words";
type Size = "normal" | "small";

const LOOKS: Record<Look, string> = {
  plain: "border border-ink bg-sheet text-ink hover:bg-sheet-2",
  best: "border border-copper bg-copper text-on-copper hover:brightness-110",
  words: "text-inherit underline decoration-rule-2 underline-offset-3 hover:decoration-ink",
};

/** How a button looks; for links and labels that act as one. Off: dashed and quiet, never faded. */
export function buttonClass(look: Look = "plain", size: Size = "normal", more = ""): string {
  const room = look === "words" ? "" : `px-2.5 ${size === "small" ? "min-h-6" : "min-h-7"} max-sm:min-h-11`;
  return `inline-flex items-center gap-1.5 rounded-[3px] text-left font-head text-button font-semibold ${room} ${LOOKS[look]} disabled:cursor-default disabled:border-dashed disabled:border-rule-2 disabled:bg-transparent disabled:text-ink-2 ${more}`;
}

export interface ButtonProps extends ComponentProps<"button"> {
  look?: Look;
  size?: Size;
}

export function Button({ look, size, className, type = "button", ...rest }: ButtonProps) {
  return <button type={type} className={buttonClass(look, size, className)} {...rest} />;
}

/** A link to a place in the program that looks like a button. */
export function ButtonLink({
  look,
  size,
  className,
  ...rest
}: ComponentProps<typeof Link> & { look?: Look; size?: Size }) {
  return <Link className={buttonClass(look, size, className)} {...rest} />;
}
