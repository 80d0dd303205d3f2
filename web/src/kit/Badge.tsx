/** A small count beside a name. */
export function Badge({ count }: { count: number }) {
  return <b className="rounded-[3px] bg-copper px-1.5 font-mono text-[11px] leading-4 text-on-copper">{count}</b>;
}
