import { Tabs as Radix } from "radix-ui";

/** The tabs by which a stage's views are chosen; the view itself stands in a `TabPanel` within the same `TabsRoot`. */
export function TabBar<T extends string>({ label, names }: { label: string; names: Readonly<Record<T, string>> }) {
  return (
    <Radix.List
      aria-label={label}
      className="inline-flex flex-none overflow-hidden rounded-[3px] border border-ink bg-sheet max-sm:w-full max-sm:overflow-x-auto"
    >
      {(Object.keys(names) as T[]).map((name) => (
        <Radix.Trigger
          key={name}
          value={name}
          className="min-h-7 whitespace-nowrap border-l border-ink px-2.5 font-head text-button font-semibold first:border-l-0 focus-visible:-outline-offset-3 data-[state=active]:bg-ink data-[state=active]:text-sheet max-sm:min-h-11"
        >
          {names[name]}
        </Radix.Trigger>
      ))}
    </Radix.List>
  );
}

export const TabsRoot = Radix.Root;
export const TabPanel = Radix.Content;
