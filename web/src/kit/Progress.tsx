import { Progress as Radix } from "radix-ui";

/** How far something has come. @param share 0 to 1 */
export function Progress({ label, share }: { label: string; share: number }) {
  return (
    <Radix.Root
      aria-label={label}
      value={Math.round(share * 100)}
      className="h-2 w-full overflow-hidden rounded-[3px] border border-ink bg-sheet"
    >
      <Radix.Indicator
        className="h-full bg-copper transition-transform"
        style={{ transform: `translateX(-${100 - share * 100}%)` }}
      />
    </Radix.Root>
  );
}
