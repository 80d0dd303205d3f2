import type { ComponentProps, Ref } from "react";

const INPUT =
  "w-full min-h-7.5 rounded-[3px] border border-ink bg-sheet px-2 text-ink placeholder:text-ink-2 aria-invalid:border-red aria-invalid:outline-red max-sm:min-h-11";

/** How a field to type into looks. */
export const inputClass = (more = "") => `${INPUT} ${more}`;

/** A field to type into whose text somebody else keeps. */
export function Input({ className = "", ref, ...rest }: ComponentProps<"input"> & { ref?: Ref<HTMLInputElement> }) {
  return <input ref={ref} autoComplete="off" className={inputClass(className)} {...rest} />;
}
