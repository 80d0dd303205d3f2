import { ChevronRight } from "lucide-react";
import { Accordion as Radix } from "radix-ui";
import type { ReactNode } from "react";

/** Headings that unfold what stands below them, several at once. */
export function Accordion({
  items,
}: {
  items: readonly { id: string; title: ReactNode; body: ReactNode; quiet?: boolean }[];
}) {
  return (
    <Radix.Root type="multiple">
      {items.map(({ id, title, body, quiet }) => (
        <Radix.Item key={id} value={id} className="border-b border-rule">
          <Radix.Header>
            <Radix.Trigger
              className={`group flex w-full items-start gap-1.5 px-3 py-1.5 text-left font-head text-h3 focus-visible:-outline-offset-3 ${quiet ? "text-ink-2" : "font-semibold"}`}
            >
              <ChevronRight
                size={14}
                aria-hidden="true"
                className="mt-0.5 flex-none group-data-[state=open]:rotate-90"
              />
              {title}
            </Radix.Trigger>
          </Radix.Header>
          <Radix.Content className="pr-3 pb-2 pl-8 text-small">{body}</Radix.Content>
        </Radix.Item>
      ))}
    </Radix.Root>
  );
}
